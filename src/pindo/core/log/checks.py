"""What the log says of the build: fits against predictions, what is provisional, what was modified."""

import math
from collections.abc import Iterable, Iterator

from pindo.core.build import Build
from pindo.core.log import money
from pindo.core.notice import in_both, notice
from pindo.core.resolve import Inputs
from pindo.core.verdict import Finding, Verdict


def minutes_worked(inputs: Inputs) -> float:
    """All hours as they were typed, added once for the screen and every sheet. [min]"""
    return math.fsum(inputs.value(f"hours.{h.n}.minutes") or 0.0 for h in inputs.build.hours)


def fit_notices(inputs: Inputs) -> Iterator[Finding]:
    """Each reading of a trial fit against what was predicted for it then, in their common doubt."""
    for fit in inputs.build.fits:
        name = fit.name or f"fit {fit.n}"
        if fit.evidence.lapsed:
            yield _lapsed(f"log.fit.{fit.n}", f"{name}, readings", f"Readings of {name} lapsed: {fit.evidence.lapsed.event}")
            continue
        for i, gap in enumerate(fit.gaps):
            id, at = f"log.fit.{fit.n}.{i}", f"{gap.title or gap.finding or gap.kind} at {name}"
            title = f"{gap.title or gap.finding or gap.kind}, {name}"
            if gap.lapsed:
                yield _lapsed(id, title, f"{at}: its reading lapsed: {gap.lapsed}")
                continue
            read = inputs.quantities.get(f"fits.{fit.n}.{i}")
            if read is None or read.value is None:
                predicted = "" if gap.predicted is None else "predicted {predicted}, "
                yield notice(id, "log.fits", title, Verdict.UNMEASURED, in_both("{at}: " + predicted + "not read yet", at, predicted=gap.predicted), why="A fit proves only what was read.")
                continue
            if gap.predicted is None:
                continue  # a reading of its own is held to its limit at its station
            together = math.hypot(read.pm, gap.predicted_pm or 0.0)
            off = read.value - gap.predicted
            agrees = abs(off) <= together
            said = "{at}: read {value} ± {pm}, predicted {predicted} ± {predicted_pm}" + ("" if agrees else "; apart by {off}, more than both doubts: the reading wins")
            text = in_both(said, at, value=read.value, pm=read.pm, predicted=gap.predicted, predicted_pm=gap.predicted_pm or 0.0, off=abs(off))
            yield notice(
                id,
                "log.fits",
                title,
                Verdict.GOES if agrees else Verdict.FOULS,
                text,
                why="Where prediction and reading part, a solid or the pose is wrong: correct it before the next cut.",
                inputs=(gap.finding,),
            )


def _lapsed(id: str, title: str, text: str) -> Finding:
    return notice(id, "log.fits", title, Verdict.UNMEASURED, text, condition="lapsed", why="A gap belongs to the state that it was read in. Read it again.")


def provisional_notices(build: Build) -> Iterator[Finding]:
    """Open provisional items, each with the gate that it blocks."""
    for p in build.provisional:
        name = p.name or p.kind
        if p.state == "open":
            until = f", until {p.until}" if p.until else ", without an end"
            yield notice(
                f"log.provisional.{p.n}",
                "log.items",
                f"{name}, for now",
                Verdict.UNMEASURED,
                f"{name} ({p.kind}) is there for now{until}; it blocks {p.blocks or 'hand-over'}",
                condition="provisional",
                why=p.reason or "What is temporary has an owner, a reason and an end.",
            )
        elif p.state == "signed" and not (p.limit and p.by):
            wanting = " and ".join(words for words, said in (("no limit", p.limit), ("no name", p.by)) if not said)
            yield notice(f"log.provisional.{p.n}", "log.items", f"{name}, signed", Verdict.UNMEASURED, f"{name} is signed as a limit of use, but {wanting} is written: it counts as open")


def modification_notices(build: Build) -> Iterator[Finding]:
    """Structural cuts and welds that nobody has inspected; cuts made without their size."""
    for m in build.modifications:
        name = m.name or f"modification {m.n}"
        if m.structural and m.state == "made":
            yield notice(
                f"log.modification.{m.n}",
                "log.changes",
                f"{name}, inspection",
                Verdict.UNMEASURED,
                f"{name} is structural and not inspected",
                caution="Frame, mounts, brakes and steering: inspection and approval by the rules of the place.",
                why="The same steel welded back is not the old section.",
            )
        if m.state != "planned" and not m.as_built:
            yield notice(
                f"log.as_built.{m.n}",
                "log.changes",
                f"{name}, as built",
                Verdict.UNMEASURED,
                f"{name}: the size as built is not written",
                why="The final layout that nobody wrote down cannot be repeated.",
            )


def notices(inputs: Inputs) -> Iterable[Finding]:
    """All findings of the station."""
    yield from fit_notices(inputs)
    yield from provisional_notices(inputs.build)
    yield from modification_notices(inputs.build)
    yield from money.notices(inputs)
