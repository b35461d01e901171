"""What is stored: builds, their versions and the lines of their journals."""

import json
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

from pindo.store.merge import Conflict
from pindo.store.trouble import StoreError

Document = dict[str, Any]
Patch = list[dict[str, Any]]


@lru_cache(maxsize=8)
def parsed(text: str) -> Document:
    """A document of the file. One that was read before is the same object: nobody changes one in
    place.
    """
    return json.loads(text)  # type: ignore[no-any-return]


class NotFound(StoreError):
    """No build of that id."""


class Crowded(StoreError):
    """Others changed the build each time before this could be stored."""


class Stale(StoreError):
    """The build has moved on since the version that a change was made against, in the same
    places or too far.
    """

    def __init__(
        self,
        words: str,
        yours: int,
        current: "Stored",
        since: list["JournalLine"],
        conflicts: list[Conflict] | None = None,
    ) -> None:
        super().__init__(words)
        self.yours = yours
        self.current = current
        self.since = since
        self.conflicts = conflicts or []


@dataclass(frozen=True, kw_only=True)
class Version:
    """A version of one life of a build: ``epoch`` is another after a restore, or a delete and an
    import.
    """

    epoch: str
    number: int

    @property
    def tag(self) -> str:
        """As it goes over the wire."""
        return f"{self.epoch}-{self.number}"


@dataclass(frozen=True, kw_only=True)
class Stored:
    """A build as it is stored."""

    id: str
    epoch: str
    version: int
    document: Document
    updated_at: str

    @property
    def at(self) -> Version:
        return Version(epoch=self.epoch, number=self.version)


@dataclass(frozen=True, kw_only=True)
class Listed:
    """A line of the list of builds."""

    id: str
    epoch: str
    version: int
    name: str
    vehicle: str
    updated_at: str

    @property
    def at(self) -> Version:
        return Version(epoch=self.epoch, number=self.version)


@dataclass(frozen=True, kw_only=True)
class JournalLine:
    """One line of a build's journal."""

    version: int
    kind: str
    target: int | None
    patch: Patch
    inverse: Patch
    who: str
    hand: str
    why: str
    at: str
    screen: str = ""


@dataclass(frozen=True, kw_only=True)
class Author:
    """Who changes: the name that was given, the browser or script, and which of its screens."""

    who: str = ""
    hand: str = ""
    screen: str = ""


NOBODY = Author()
