"""Another number for a row: everything that names it by its number follows."""

from pindo.core.acts import CannotEnter, Patch, Renumber
from pindo.core.document.build import Build
from pindo.core.document.patch import put
from pindo.core.places import list_at, row_at


def renumbered(build: Build, act: Renumber, at: str) -> Patch:
    """The operations of another number.

    Raises
    ------
    CannotEnter, MovedOn
        The number is taken; there is no such row.
    """
    path, row = row_at(build, act.list, act.row, act.of)
    if act.to == row.n:
        return []
    _, rows = list_at(build, act.list, act.of)
    if any(r.n == act.to for r in rows):
        raise CannotEnter(f"Number {act.to} is taken. Nothing was changed.")
    return [put(f"{path}/n", act.to), *_followers(build, act.list, row.n, act.to)]


def _followers(build: Build, name: str, old: int, new: int) -> Patch:
    """What names a row by its number."""

    def swapped(numbers: list[int]) -> list[int]:
        return [new if n == old else n for n in numbers]

    if name == "steps":
        links = [
            (i, f, getattr(s, f))
            for i, s in enumerate(build.steps)
            for f in ("needs", "hides", "needs_hold")
        ]
        patch = [put(f"/steps/{i}/{f}", swapped(v)) for i, f, v in links if old in v]
        named = [(f"/parts/{i}/step", p.step) for i, p in enumerate(build.parts)] + [
            (f"/kits/{i}/pieces/{j}/step", p.step)
            for i, k in enumerate(build.kits)
            for j, p in enumerate(k.pieces)
        ]
        return [
            *patch,
            *(put(path, new) for path, n in named if n == old),
            *_rules_of(build, "step", old, new),
        ]
    if name == "parts":
        return [
            *(put(f"/money/{i}/part", new) for i, m in enumerate(build.money) if m.part == old),
            *_rules_of(build, "part", old, new),
        ]
    if name == "facts":
        return [
            put(f"/variants/{i}/when/{j}/fact", new)
            for i, v in enumerate(build.variants)
            for j, c in enumerate(v.when)
            if c.fact == old
        ]
    if name == "money":
        return [
            put(f"/money/{i}/credit_of", new)
            for i, m in enumerate(build.money)
            if m.credit_of == old
        ]
    return []


def _rules_of(build: Build, target: str, old: int, new: int) -> Patch:
    """Rules of versions that speak of a row by its number."""
    return [
        put(f"/variants/{i}/which", str(new))
        for i, v in enumerate(build.variants)
        if v.target == target and v.which.strip() == str(old)
    ]
