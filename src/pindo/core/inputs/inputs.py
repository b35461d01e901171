"""Everything that a question may read, and the note of what was read.

What is worked out from inputs is kept with that note, and made anew only when something in the note
reads otherwise: :meth:`Inputs.once` is the one way to keep anything.
"""

import threading
from collections.abc import Callable, Hashable, Iterator, Mapping
from dataclasses import dataclass, replace
from typing import Any, TypeVar, cast
from weakref import WeakKeyDictionary

from pindo.core.document.build import Build
from pindo.core.document.events import EVENTS
from pindo.core.document.evidence import Source, default_pm
from pindo.core.inputs.dimensions import DIMENSIONS
from pindo.core.inputs.quantities import Resolved, Status

T = TypeVar("T")
Note = dict[tuple[str, str], Any]
"""What was read: its kind and name, and how it read."""
MOST_KEPT = 6  # of one thing: the stored build, the trial beside it, and what undo goes back to


class _Reading(threading.local):
    """The notes that are being written in this thread, the innermost last."""

    def __init__(self) -> None:
        self.notes: list[Note] = []


_READING = _Reading()


@dataclass
class Kept:
    """Something that was worked out, with what it was worked out from."""

    note: Note
    also: tuple[Any, ...]
    value: Any
    broke: tuple[str, str] | None = None
    """What read otherwise when it was last asked for: most likely it does again."""


class Memory:
    """What was worked out for one build, over all its versions and trials.

    A memory with a ``parent`` looks things up there and keeps what is new to itself: for changes
    that are only considered.
    """

    def __init__(self, parent: "Memory | None" = None) -> None:
        self._parent = parent
        self._kept: dict[Hashable, tuple[Kept, ...]] = {}
        self._of: WeakKeyDictionary[Any, dict[Hashable, tuple[Kept, ...]]] = WeakKeyDictionary()

    def find(self, owner: Any, key: Hashable, holds: Callable[[Kept], bool]) -> Kept | None:
        """The kept value that still holds."""
        table = self._kept if owner is None else self._of.get(owner, {})
        for kept in table.get(key, ()):
            if holds(kept):
                return kept
        return None if self._parent is None else self._parent.find(owner, key, holds)

    def put(self, owner: Any, key: Hashable, kept: Kept) -> None:
        """Keeps a value beside the latest few."""
        table = self._kept if owner is None else self._of.setdefault(owner, {})
        table[key] = (kept, *table.get(key, ())[: MOST_KEPT - 1])

    def child(self) -> "Memory":
        """A memory for changes that are only considered."""
        return Memory(self)


class _Noted(Mapping[str, Any]):
    """A mapping that writes down what is read of it."""

    def __init__(self, kind: str, of: Mapping[str, Any]) -> None:
        self._kind, self._of = kind, of

    def __getitem__(self, key: str) -> Any:
        if _READING.notes:
            _READING.notes[-1][self._kind, key] = self._of.get(key)
        return self._of[key]

    def get(self, key: str, default: Any = None) -> Any:
        found = self._of.get(key)
        if _READING.notes:
            _READING.notes[-1][self._kind, key] = found
        return default if found is None else found

    def __contains__(self, key: object) -> bool:
        return self.get(str(key)) is not None

    def __iter__(self) -> Iterator[str]:
        if _READING.notes:
            _READING.notes[-1][self._kind, ""] = self._of
        return iter(self._of)

    def __len__(self) -> int:
        return len(self._of)


class _Quantities(_Noted):
    """Quantities by address: what was said, and what providers give in its place or beside it."""

    def __init__(self, inputs: "Inputs", said: Mapping[str, Resolved]) -> None:
        super().__init__("quantity", said)
        self._inputs = inputs

    def __getitem__(self, key: str) -> Resolved:
        if key in self._inputs.providers and (given := self._inputs.given(key)) is not None:
            return given
        found: Resolved = self._of[key]
        if notes := _READING.notes:
            notes[-1]["quantity", key] = found
        return found

    def get(self, key: str, default: Any = None) -> Any:
        if key in self._inputs.providers and (given := self._inputs.given(key)) is not None:
            return given
        found = self._of.get(key)
        if notes := _READING.notes:
            notes[-1]["quantity", key] = found
        return default if found is None else found


class _Watched:
    """A build that writes down which of its fields are read."""

    def __init__(self, build: Build) -> None:
        self._build = build

    def __getattr__(self, name: str) -> Any:
        found = getattr(self._build, name)
        if _READING.notes:
            _READING.notes[-1]["build", name] = found
        return found


@dataclass(frozen=True, eq=False)
class Provider:
    """Gives derived quantities: a stage between what was said and what is judged.

    ``solve`` works out every one of ``gives`` (addresses) from the inputs, each with its parts by
    source; what it reads is noted as for any question. ``when`` decides whether it stands in place
    of what was said under the same addresses.
    """

    key: str
    solve: "Callable[[Inputs], Mapping[str, Resolved]]"
    gives: tuple[str, ...] = ()
    rows: Callable[[Build], tuple[str, ...]] | None = None
    """What it gives of the rows that a build has, beside ``gives``."""
    when: "Callable[[Inputs], bool]" = lambda inputs: True


PROVIDERS: dict[str, Provider] = {}
"""Address -> what gives it, as the questions that are enrolled say."""
ROW_PROVIDERS: list[Provider] = []
"""What gives figures of a build's own rows, in the order in which it was enrolled."""


def _providers(build: Build) -> Mapping[str, Provider]:
    """Address -> what gives it in this build."""
    own = {a: p for p in ROW_PROVIDERS if p.rows is not None for a in p.rows(build)}
    return {**PROVIDERS, **own} if own else PROVIDERS


def _other(was: Any, now: Any) -> bool:
    """Whether two things read otherwise; the same object never does."""
    return now is not was and bool(now != was)


class Inputs:
    """Everything that a check may read, by name.

    Parameters
    ----------
    build : Build
        The document.
    said : mapping of address to Resolved
        What was said, resolved.
    rules, options
        Limits and choices as they stand.
    memory : Memory, optional
        What was worked out before for this build.
    planned : set of addresses
        Quantities that are planned, whatever a provider gives for them.
    before : Inputs, optional
        Inputs that differ little from these and share their memory: what was made of them from
        nothing that differs holds here without a look at the rest.
    """

    def __init__(
        self,
        build: Build,
        said: Mapping[str, Resolved],
        rules: Mapping[str, float],
        options: Mapping[str, str],
        memory: Memory | None = None,
        planned: frozenset[str] = frozenset(),
        before: "Inputs | None" = None,
    ) -> None:
        self.document, self.said, self._planned = build, said, planned
        same = before is not None and before.document is build
        self.providers: Mapping[str, Provider] = (
            before.providers if before is not None and same else _providers(build)
        )
        self.memory = Memory() if memory is None else memory
        self.quantities: Mapping[str, Resolved] = _Quantities(self, said)
        self.rules: Mapping[str, float] = _Noted("rule", rules)
        self.options: Mapping[str, str] = _Noted("option", options)
        self._raw: dict[str, Mapping[str, Any]] = {
            "quantity": said,
            "rule": rules,
            "option": options,
        }
        self._watched = cast(Build, _Watched(build))
        # What was found or worked out for these very inputs holds for them without another look.
        self._here: dict[tuple[int, Hashable], tuple[Any, Kept]] = {}
        self._there = {} if before is None else before._here
        self._otherwise = frozenset() if before is None else self._unlike(before)
        self._given: dict[str, tuple[Resolved | None, Note]] = {}

    @property
    def build(self) -> Build:
        """The document; what is read of it is noted."""
        return self._watched if _READING.notes else self.document

    def _unlike(self, before: "Inputs") -> frozenset[tuple[str, str]]:
        """What reads otherwise than in ``before``, as notes name it."""
        found = {
            ("build", name)
            for name in type(self.document).model_fields
            if _other(getattr(before.document, name), getattr(self.document, name))
        }
        for kind, now in self._raw.items():
            was = before._raw[kind]
            keys = {k for k, v in now.items() if _other(was.get(k), v)} | (was.keys() - now.keys())
            found |= {(kind, key) for key in (*keys, "")} if keys else set()
        return frozenset(found)

    def _reads_so(self, kept: Kept) -> bool:
        if kept.broke is not None and self._differs(kept.broke, kept.note[kept.broke]):
            return False
        for at, was in kept.note.items():
            if self._differs(at, was):
                kept.broke = at
                return False
        return True

    def _differs(self, at: tuple[str, str], was: Any) -> bool:
        kind, key = at
        if kind == "build":
            now: Any = getattr(self.document, key)
        else:
            now = self._raw[kind].get(key) if key else self._raw[kind]
        return _other(was, now)

    def once(
        self,
        key: Hashable,
        make: Callable[[], T],
        also: tuple[Any, ...] = (),
        owner: Any = None,
    ) -> T:
        """``make()``, kept with the note of what it reads of these inputs.

        Parameters
        ----------
        key
            What it is.
        also
            What else it is made from, compared as it is.
        owner
            An object that it belongs to: it is forgotten with it.
        """

        def holds(kept: Kept) -> bool:
            return kept.also == also and self._reads_so(kept)

        here = (id(owner), key)
        found = self._here.get(here)
        if found is not None and found[1].also == also:
            if _READING.notes:
                _READING.notes[-1].update(found[1].note)
            return cast(T, found[1].value)
        before = self._there.get(here)
        if (
            before is not None
            and before[1].note.keys().isdisjoint(self._otherwise)
            and before[1].also == also
        ):
            kept: Kept | None = before[1]
        else:
            kept = self.memory.find(owner, key, holds)
        if kept is None:
            note: Note = {}
            _READING.notes.append(note)
            try:
                value = make()
            finally:
                _READING.notes.pop()
                if _READING.notes:
                    _READING.notes[-1].update(note)
            kept = Kept(note, also, value)
            self.memory.put(owner, key, kept)
        elif _READING.notes:
            _READING.notes[-1].update(kept.note)
        self._here[here] = (owner, kept)
        return cast(T, kept.value)

    def read_by(self, key: Hashable, make: Callable[[], Any]) -> frozenset[str]:
        """Addresses of the quantities that what is kept under ``key`` was made from."""
        note: Note = {}
        _READING.notes.append(note)
        try:
            self.once(key, make)
        finally:
            _READING.notes.pop()
        return frozenset(name for kind, name in note if kind == "quantity")

    def differing(self, other: "Inputs") -> frozenset[str]:
        """Addresses of what was said that reads otherwise in ``other``."""
        return frozenset(a for a, q in other.said.items() if self.said.get(a) is not q)

    def given(self, address: str) -> Resolved | None:
        """A derived quantity, where a provider gives it."""
        provider = self.providers.get(address)
        if provider is None or address in self._planned:
            return None
        if address not in self._given:
            note: Note = {}
            _READING.notes.append(note)
            try:
                given = None
                if provider.when(self):
                    key = ("given", provider.key)
                    given = self.once(key, lambda: provider.solve(self))[address]
            finally:
                _READING.notes.pop()
            self._given[address] = (given, note)
        given, read = self._given[address]
        if _READING.notes:
            _READING.notes[-1].update(read)
        return given

    def as_said(self, address: str) -> Resolved | None:
        """A quantity as it was said, whatever a provider gives in its place."""
        found = self.said.get(address)
        if _READING.notes:
            _READING.notes[-1]["quantity", address] = found
        return found

    def value(self, address: str) -> float | None:
        """The number at an address; None where there is none."""
        found = self.quantities.get(address)
        return None if found is None else found.value

    def known(self, addresses: tuple[str, ...]) -> dict[str, float] | None:
        """The numbers at some addresses; None while one is missing."""
        found = {a: v for a in addresses if (v := self.value(a)) is not None}
        return found if len(found) == len(addresses) else None

    def standing(self) -> dict[str, Resolved]:
        """Every quantity that was said, as it stands: by a provider where one gives it."""
        given = {a: g for a in self.providers if (g := self.given(a)) is not None}
        return {**self.said, **given}

    def with_value(self, address: str, value: float) -> "Inputs":
        """The same with one quantity planned to be ``value``: a change being considered, with the ±
        that it would be made to.

        Readings that stand in for what is computed, and that the change would spoil, no longer do.
        """
        given = self.given(address)
        changed = replace(given or self.said[address], value=value, parts=None)
        definition = DIMENSIONS.get(address)
        spoils: frozenset[str] = frozenset()
        if definition is not None:
            pm = default_pm(definition.kind, value, Source.CHOSEN, None, definition.made_pm)
            changed = replace(changed, pm=pm, source=Source.CHOSEN, tool=None)
            spoils = EVENTS[definition.event].spoils if definition.event else spoils
        gone = {
            a: replace(q, value=None, status=Status.LAPSED, detail=definition.event)
            for a, q in self.said.items()
            if definition is not None and q.stands_in and q.stands_in in spoils
        }
        said = {**self.said, **gone, address: changed}
        rules, options = self._raw["rule"], self._raw["option"]
        if given is None and not self._planned:
            return Inputs(self.document, said, rules, options, self.memory.child(), before=self)
        # What was worked out from what a provider gives does not hold for a plan in its place.
        planned = self._planned | {address}
        return Inputs(self.document, said, rules, options, Memory(), planned)
