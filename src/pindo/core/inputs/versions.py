"""Versions: which of the user's own rules hold under the facts of the build, and which wait for a
fact that nobody knows yet. A rule with more facts (a revision) holds over one with fewer (a
family).
"""

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType

from pindo.core.document.build import Build
from pindo.core.document.parts import Fact, Variant
from pindo.core.inputs.beside import word

Target = tuple[str, str]
"""What a rule speaks of: part, step, size or question, and which, by number or key."""


@dataclass(frozen=True, kw_only=True)
class Ruled:
    """What the rules say of one thing: the rule that holds, or why none is known to."""

    rule: Variant | None = None
    waits_for: tuple[int, ...] = ()
    """Numbers of facts that are not known, and on which it hangs."""
    against: Variant | None = None
    """Another rule, as narrow, that says otherwise."""


def _out(rule: Variant, facts: Mapping[int, Fact]) -> bool:
    """Whether a fact that is known speaks against a rule."""
    return any(
        (fact := facts.get(c.fact or 0)) is not None
        and word(fact, "value").strip() != ""
        and word(fact, "value").strip().casefold() != c.value.strip().casefold()
        for c in rule.when
    )


def _waits(rule: Variant, facts: Mapping[int, Fact]) -> set[int]:
    """Facts that a rule asks for and nobody knows."""
    return {
        c.fact or 0
        for c in rule.when
        if (fact := facts.get(c.fact or 0)) is None or not word(fact, "value").strip()
    }


def _of_one(rules: list[Variant], facts: Mapping[int, Fact]) -> Ruled:
    left = [r for r in rules if not _out(r, facts)]
    if not left:
        return Ruled()
    # What a narrower rule would say is not known while it waits: no wider one may speak for it.
    most = max(len(r.when) for r in left)
    narrowest = [r for r in left if len(r.when) == most]
    if waits := {n for r in narrowest for n in _waits(r, facts)}:
        return Ruled(waits_for=tuple(sorted(waits)))
    first, *others = narrowest
    clash = next((r for r in others if r.does != first.does), None)
    return Ruled(rule=None if clash else first, against=clash)


def rulings(build: Build) -> Mapping[Target, Ruled]:
    """What the rules of a build say of each thing that they speak of."""
    facts = {f.n: f for f in build.facts}
    rules: dict[Target, list[Variant]] = {}
    for rule in build.variants:
        rules.setdefault((rule.target, rule.which.strip()), []).append(rule)
    return MappingProxyType({target: _of_one(found, facts) for target, found in rules.items()})


def ruled_out(build: Build, target: str) -> frozenset[str]:
    """Numbers or keys of what does not apply by a rule that is known to hold."""
    if not build.variants:
        return frozenset()
    return frozenset(
        which
        for (kind, which), ruled in rulings(build).items()
        if kind == target and ruled.rule is not None and ruled.rule.does == "does not apply"
    )


def steps_ruled_out(build: Build) -> frozenset[int]:
    """Numbers of steps that do not apply by a rule of the user's own. A hold point or a gate is
    never ruled out: somebody signs it.
    """
    out = ruled_out(build, "step")
    return frozenset(s.n for s in build.steps if str(s.n) in out and not (s.hold or s.gate))
