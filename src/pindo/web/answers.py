"""Answers that are kept: what is said of the builds that were asked for last."""

from collections import OrderedDict
from collections.abc import Collection, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from threading import Lock
from typing import Any

from pydantic import TypeAdapter, ValidationError

from pindo.core.assessment import Assessment, assess_inputs
from pindo.core.boards import boards, overview
from pindo.core.document import written
from pindo.core.document.patch import sharing
from pindo.core.document.upgrade import earlier
from pindo.core.document.written import Written
from pindo.core.drawing.board import Board
from pindo.core.inputs.inputs import Inputs, Memory
from pindo.core.inputs.problems import Problem, problems
from pindo.core.inputs.resolve import resolve
from pindo.core.judging.verdict import Finding
from pindo.web import models
from pindo.web.problems import Refused, invalid_document

SAID = TypeAdapter(models.Said[Finding])


OVERVIEW = ""
"""Key of the profile among the boards."""


def read_build(document: Any) -> Written:
    """A document as a build without entries that cannot be read. Raises Refused with every
    problem.
    """
    try:
        found = written.opened(document) if earlier(document) else written.read(document)
    except ValidationError as error:
        raise invalid_document(error) from error
    if wrong := problems(found.build):
        raise unreadable(wrong)
    return found


def unreadable(found: Sequence[Problem]) -> Refused:
    """Entries that cannot be read, each at its place."""
    words = "Nothing was stored; what you typed is still in its field."
    return Refused(422, "entries", "Some entries cannot be read", words, list(found))


@dataclass(eq=False)
class Answered:
    """A document with all that is said of it on one day."""

    written: Written
    today: str
    inputs: Inputs
    assessment: Assessment
    tag: str = ""
    """The version at which it is stored, once it is known."""
    stored: Any = None
    """The very document that it was last asked for: the same one is not compared again."""
    drawn: dict[str, Board] = field(default_factory=dict)

    @cached_property
    def json(self) -> bytes:
        """As it goes over the wire, without boards: written once, however many screens ask for
        it.
        """
        return SAID.dump_json(
            models.Said.model_construct(
                document=self.written.build,
                assessment=models.AssessmentOf[Finding].model_construct(**vars(self.assessment)),
            )
        )

    def boards(self, wanted: Collection[str]) -> dict[str, Board]:
        """The profile, and the boards of some questions that are asked of the build."""
        missing = [key for key in wanted if key not in self.drawn]
        if missing:
            self.drawn |= boards(self.inputs, self.assessment, self.today, missing)
        if OVERVIEW not in self.drawn:
            self.drawn[OVERVIEW] = overview(self.inputs, self.assessment)
        return {key: b for key, b in self.drawn.items() if key == OVERVIEW or key in wanted}


MOST_BUILDS = 64


MOST_VERSIONS = 4


_KEPT: OrderedDict[str, tuple[Answered, ...]] = OrderedDict()
"""The latest answers of the builds that were asked for last, the newest first."""


_LOCK = Lock()


def kept_of(id: str) -> tuple[Answered, ...]:
    with _LOCK:
        found = _KEPT.get(id, ())
        if found:
            _KEPT.move_to_end(id)
    return found


def keep(id: str, now: Answered) -> None:
    with _LOCK:
        _KEPT[id] = (now, *(a for a in _KEPT.get(id, ()) if a is not now))[:MOST_VERSIONS]
        _KEPT.move_to_end(id)
        while len(_KEPT) > MOST_BUILDS:
            _KEPT.popitem(last=False)


def answer_to(said: Written, today: str, near: Answered | None) -> Answered:
    """All that is said of a document; what ``near`` has of it is not worked out again."""
    memory = near.inputs.memory if near is not None else Memory()
    inputs = resolve(said.build, memory, near.inputs if near is not None else None)
    return Answered(said, today, inputs, assess_inputs(inputs, (), today))


def answered(id: str, document: dict[str, Any], today: str, tag: str = "") -> Answered:
    """A document's findings without ways out, kept for the builds that were asked for last."""
    kept = kept_of(id)
    for now in kept:
        if now.today == today and (now.stored is document or now.written.document == document):
            now.tag, now.stored = tag or now.tag, document
            return now
    if kept:
        near = kept[0]
        said = laid_out_anew(near.written, document)
        now = answer_to(said, today, near)
    else:
        now = answer_to(written.opened(document), today, None)
    now.tag = tag
    keep(id, now)
    return now


def laid_out_anew(near: Written, document: dict[str, Any]) -> Written:
    """A stored document, read where it differs from one that is at hand."""
    try:
        return written.rewritten(near, sharing(near.document, document))
    except ValidationError:
        return written.opened(document)  # of an earlier version, or none: told as it is
