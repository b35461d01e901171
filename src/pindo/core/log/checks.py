"""What the log says of the build: fits against predictions, what is provisional, what was modified."""

import math
from collections.abc import Iterable, Iterator

from pindo.core.build import Build
from pindo.core.dimensions import Station
from pindo.core.evidence import default_pm
from pindo.core.log import money
from pindo.core.notice import notice
from pindo.core.quantity import EntryError, parse
from pindo.core.resolve import Inputs
from pindo.core.rows import Fit, FitGap
from pindo.core.units import write
from pindo.core.verdict import Finding, Sentence, Verdict


def _measured(fit: Fit, gap: FitGap) -> tuple[float, float] | None:
    """Value and ± of a measured gap. [mm]"""
    try:
        entry = parse(gap.measured or "", "length")
    except EntryError:
        return None
    if entry.value is None:
        return None
    pm = entry.pm
    if pm is None and fit.evidence.pm:
        pm = parse(fit.evidence.pm, "length").value
    return entry.value, default_pm("length", entry.value, fit.evidence.source, fit.evidence.tool) if pm is None else abs(pm)


def in_both(template: str, at: str, **lengths: float | None) -> Sentence:
    """A sentence about a place with its lengths in both systems. [mm]"""

    def told(system: str) -> str:
        return template.format(at=at, **{k: "" if v is None else write(v, "length", system, 1) for k, v in lengths.items()})

    return Sentence(mm=told("mm"), inch=told("in"))


def fit_notices(build: Build) -> Iterator[Finding]:
    """Each measured gap against what was predicted for it then, in their common doubt."""
    for fit in build.fits:
        name = fit.name or f"fit {fit.n}"
        if fit.evidence.lapsed:
            yield notice(
                f"log.fit.{fit.n}",
                Station.LOG,
                f"{name}, readings",
                Verdict.UNMEASURED,
                f"Readings of {name} lapsed: {fit.evidence.lapsed.event}",
                condition="lapsed",
                why="A gap belongs to the state that it was read in. Read it again.",
            )
            continue
        for i, gap in enumerate(fit.gaps):
            read, at = _measured(fit, gap), f"{gap.title or gap.finding} at {name}"
            if read is None or gap.predicted is None:
                text = in_both("{at}: was not predicted" if gap.predicted is None else "{at}: predicted {predicted}, not read yet", at, predicted=gap.predicted)
                yield notice(f"log.fit.{fit.n}.{i}", Station.LOG, f"{gap.title or gap.finding}, {name}", Verdict.UNMEASURED, text, why="A fit proves only what was read.")
                continue
            value, pm = read
            together = math.hypot(pm, gap.predicted_pm or 0.0)
            off = value - gap.predicted
            agrees = abs(off) <= together
            said = "{at}: read {value} ± {pm}, predicted {predicted} ± {predicted_pm}" + ("" if agrees else "; apart by {off}, more than both doubts: the reading wins")
            text = in_both(said, at, value=value, pm=pm, predicted=gap.predicted, predicted_pm=gap.predicted_pm or 0.0, off=abs(off))
            yield notice(
                f"log.fit.{fit.n}.{i}", Station.LOG, f"{gap.title or gap.finding}, {name}", Verdict.GOES if agrees else Verdict.FOULS, text,
                why="Where prediction and reading part, a solid or the pose is wrong: correct it before the next cut.", inputs=(gap.finding,),
            )  # fmt: skip


def provisional_notices(build: Build) -> Iterator[Finding]:
    """Open provisional items, each with the gate that it blocks."""
    for p in build.provisional:
        name = p.name or p.kind
        if p.state == "open":
            until = f", until {p.until}" if p.until else ", without an end"
            yield notice(
                f"log.provisional.{p.n}",
                Station.LOG,
                f"{name}, for now",
                Verdict.UNMEASURED,
                f"{name} ({p.kind}) is there for now{until}; it blocks {p.blocks or 'hand-over'}",
                condition="provisional",
                why=p.reason or "What is temporary has an owner, a reason and an end.",
            )
        elif p.state == "signed" and not p.limit:
            yield notice(f"log.provisional.{p.n}", Station.LOG, f"{name}, signed", Verdict.UNMEASURED, f"{name} is signed as a limit of use, but no limit and no name are written")


def modification_notices(build: Build) -> Iterator[Finding]:
    """Structural cuts and welds that nobody has inspected; cuts made without their size."""
    for m in build.modifications:
        name = m.name or f"modification {m.n}"
        if m.structural and m.state == "made":
            yield notice(
                f"log.modification.{m.n}",
                Station.LOG,
                f"{name}, inspection",
                Verdict.UNMEASURED,
                f"{name} is structural and not inspected",
                caution="Frame, mounts, brakes and steering: inspection and approval by the rules of the place.",
                why="The same steel welded back is not the old section.",
            )
        if m.state != "planned" and not m.as_built:
            yield notice(
                f"log.as_built.{m.n}",
                Station.LOG,
                f"{name}, as built",
                Verdict.UNMEASURED,
                f"{name}: the size as built is not written",
                why="The final layout that nobody wrote down cannot be repeated.",
            )


def notices(inputs: Inputs) -> Iterable[Finding]:
    """All findings of the station."""
    yield from fit_notices(inputs.build)
    yield from provisional_notices(inputs.build)
    yield from modification_notices(inputs.build)
    yield from money.notices(inputs)
