"""A build as it is written and as it is read: the document and its model, kept together, so that a
change reads again only what it touches.
"""

import copy
import json
from collections.abc import Mapping
from dataclasses import dataclass
from enum import Enum
from typing import Any

from pydantic import BaseModel, ValidationError

from pindo.core.document.build import Build
from pindo.core.document.upgrade import earlier, upgraded


@dataclass(frozen=True)
class Written:
    """A document as it is stored, and the build that it is."""

    document: dict[str, Any]
    build: Build


def written(build: Build) -> Written:
    """A build as it is stored: every field present, so that a patch always finds its place."""
    return Written(build.model_dump(mode="json"), build)


def read(document: Any) -> Written:
    """A document of any version as this one keeps it. Raises pydantic's ValidationError."""
    return written(Build.model_validate(upgraded(document)))


def opened(document: Any) -> Written:
    """A document that was stored, of any version: what an earlier one kept and this one has no
    place or no word for is set aside in ``aside``, so that a renamed column or choice never keeps a
    build shut.

    Raises
    ------
    ValidationError
        It is wrong in another way.
    """
    try:
        return read(document)
    except ValidationError as error:
        current = upgraded(document)
        if (
            earlier(document)
            and isinstance(current, dict)
            and (kept := _without(current, error)) is not None
        ):
            return read(kept)
        raise


def of_today(document: dict[str, Any]) -> dict[str, Any]:
    """A document as this version stores it; one that no version can open is left as it is."""
    try:
        return opened(document).document if earlier(document) else document
    except ValidationError:
        return document


# Places and words that are not there any more; what else can be wrong was never right.
_GONE = frozenset({"extra_forbidden", "literal_error", "enum"})


def _without(document: dict[str, Any], error: ValidationError) -> dict[str, Any] | None:
    found = error.errors(include_url=False, include_context=False)
    if any(e["type"] not in _GONE for e in found):
        return None
    kept = copy.deepcopy(document)
    aside = list(kept.get("aside", []))
    for e in found:
        *way, last = e["loc"]
        holder: Any = kept
        for step in way:
            holder = holder[step]
        if not isinstance(holder, dict):
            return None
        value = json.dumps(holder.pop(last), ensure_ascii=False)
        aside.append({"place": ", ".join(map(str, e["loc"])), "value": value[:2000]})
    return kept | {"aside": aside}


def rewritten(before: Written, document: dict[str, Any]) -> Written:
    """A document that was made from another by a patch, read where it differs.

    Raises
    ------
    ValidationError
        What differs is no part of a build.
    """
    build = Build.model_validate(_partly(before.build, before.document, document))
    return Written(_dumped(before.build, before.document, build), build)


def _partly(model: Any, old: Any, new: Any) -> Any:
    """The new document with the models of what is the same in their places: they are not read
    again.
    """
    if old is new:
        return model
    if isinstance(new, dict) and isinstance(old, dict):
        if isinstance(model, BaseModel):
            parts: Mapping[str, Any] = {k: getattr(model, k) for k in type(model).model_fields}
        elif isinstance(model, dict):
            parts = model
        else:
            return new
        return {
            k: _partly(parts[k], old[k], v) if k in parts and k in old else v
            for k, v in new.items()
        }
    if isinstance(new, list) and isinstance(old, list) and isinstance(model, list):
        known = {id(o): m for o, m in zip(old, model, strict=True)}
        whole = len(old) == len(new)
        return [
            known[id(v)]
            if id(v) in known and isinstance(known[id(v)], BaseModel)
            else _partly(model[i], old[i], v)
            if whole
            else v
            for i, v in enumerate(new)
        ]
    return new


def _dumped(old_model: Any, old: Any, model: Any) -> Any:
    """The document of a model; of what is the same, the same pieces as before."""
    if model is old_model:
        return old
    if isinstance(model, BaseModel):
        same = isinstance(old, dict) and type(old_model) is type(model)
        return _kept(
            old,
            {
                k: _dumped(getattr(old_model, k) if same else None, old.get(k) if same else None, v)
                for k in type(model).model_fields
                for v in (getattr(model, k),)
            },
        )
    if isinstance(model, dict):
        before = old_model if isinstance(old_model, dict) and isinstance(old, dict) else {}
        return _kept(
            old,
            {
                k: _dumped(before.get(k), old.get(k) if k in before else None, v)
                for k, v in model.items()
            },
        )
    if isinstance(model, list | tuple):
        pairs = {}
        if isinstance(old_model, list) and isinstance(old, list):
            pairs = {id(m): (m, o) for m, o in zip(old_model, old, strict=True)}
        rows = [_row(pairs, old_model, old, i, m) for i, m in enumerate(model)]
        return old if isinstance(old, list) and rows == old else rows
    return model.value if isinstance(model, Enum) else model


def _kept(old: Any, new: dict[str, Any]) -> dict[str, Any]:
    """The old piece where every part of the new one is the old one's."""
    if not isinstance(old, dict) or list(old) != list(new):
        return new
    same = (v is old[k] or (not isinstance(v, dict | list) and v == old[k]) for k, v in new.items())
    return old if all(same) else new


def _row(pairs: dict[int, tuple[Any, Any]], old_model: Any, old: Any, i: int, row: Any) -> Any:
    if not isinstance(row, BaseModel | dict | list):
        return row
    if id(row) in pairs:
        return pairs[id(row)][1]
    if isinstance(old_model, list) and isinstance(old, list) and i < len(old_model):
        return _dumped(old_model[i], old[i], row)
    return _dumped(None, None, row)
