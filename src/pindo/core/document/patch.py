"""JSON Patch (RFC 6902) on documents that share what did not change.

A document is never changed in place: each operation copies the containers along its path and shares
the rest, so that "is the same object" tells what a change left alone.
"""

from collections.abc import Callable, Iterable
from typing import Any

from pindo.core.errors import PindoError

Operation = dict[str, Any]
Patch = list[Operation]
_NONE: Any = object()


class PatchError(PindoError, ValueError):
    """An operation does not fit the document; the message says which and why."""


def put(path: str, value: Any) -> Operation:
    """The operation that puts a value at a place, whatever stood there."""
    return {"op": "add", "path": path, "value": value}


def tokens(pointer: str) -> list[str]:
    """The parts of a JSON Pointer (RFC 6901).

    Raises
    ------
    PatchError
        It does not begin with a slash.
    """
    if not pointer:
        return []
    if not pointer.startswith("/"):
        raise PatchError(f"{pointer[:60]} is no place")
    return [t.replace("~1", "/").replace("~0", "~") for t in pointer[1:].split("/")]


def pointer(path: Iterable[str | int]) -> str:
    """JSON Pointer of a path."""
    return "".join("/" + str(t).replace("~", "~0").replace("/", "~1") for t in path)


def _index(rows: list[Any], token: str, beyond: int) -> int:
    """A place in a list; ``beyond`` is 1 where the end itself will do."""
    if token == "-" and beyond:
        return len(rows)
    if not token.isascii() or not token.isdigit() or (token != "0" and token[0] == "0"):
        raise PatchError(f"{token[:40]} is no place in a list")
    if int(token) >= len(rows) + beyond:
        raise PatchError(f"there is no place {token[:40]} in a list of {len(rows)}")
    return int(token)


def value_at(document: Any, path: list[str]) -> Any:
    """What stands at a path. Raises PatchError."""
    for token in path:
        if isinstance(document, dict):
            if token not in document:
                raise PatchError(f"there is no {token[:60]}")
            document = document[token]
        elif isinstance(document, list):
            document = document[_index(document, token, 0)]
        else:
            raise PatchError(f"nothing stands inside {token[:60]}")
    return document


def _at(node: Any, path: list[str], change: Callable[[Any, str], None]) -> Any:
    """A copy of a container with ``change`` made at the end of a path."""
    if isinstance(node, dict):
        copy: Any = dict(node)
    elif isinstance(node, list):
        copy = list(node)
    else:
        raise PatchError(f"nothing stands inside {path[0][:60]}")
    if len(path) == 1:
        change(copy, path[0])
        return copy
    if isinstance(copy, dict):
        if path[0] not in copy:
            raise PatchError(f"there is no {path[0][:60]}")
        copy[path[0]] = _at(copy[path[0]], path[1:], change)
    else:
        place = _index(copy, path[0], 0)
        copy[place] = _at(copy[place], path[1:], change)
    return copy


def _put(document: Any, path: list[str], value: Any) -> Any:
    def change(node: Any, token: str) -> None:
        if isinstance(node, dict):
            node[token] = value
        else:
            node.insert(_index(node, token, 1), value)

    return _at(document, path, change) if path else value


def _replaced(document: Any, path: list[str], value: Any) -> Any:
    value_at(document, path)

    def change(node: Any, token: str) -> None:
        node[token if isinstance(node, dict) else _index(node, token, 0)] = value

    return _at(document, path, change) if path else value


def _without(document: Any, path: list[str]) -> Any:
    value_at(document, path)

    def change(node: Any, token: str) -> None:
        del node[token if isinstance(node, dict) else _index(node, token, 0)]

    if not path:
        raise PatchError("a whole document cannot be taken out")
    return _at(document, path, change)


def applied(document: Any, patch: Iterable[Operation]) -> Any:
    """A document after a patch; the one that was given stays as it is, and shares what is the same.

    Raises
    ------
    PatchError
        An operation does not fit.
    """
    for op in patch:
        kind, path = op.get("op"), tokens(op["path"])
        if kind == "add":
            document = _put(document, path, op.get("value"))
        elif kind == "replace":
            document = _replaced(document, path, op.get("value"))
        elif kind == "remove":
            document = _without(document, path)
        elif kind in ("copy", "move"):
            source = tokens(op.get("from", ""))
            value = value_at(document, source)
            if kind == "move":
                if path[: len(source)] == source and path != source:
                    raise PatchError("nothing can be moved into itself")
                document = _without(document, source)
            document = _put(document, path, value)
        elif kind == "test":
            if value_at(document, path) != op.get("value"):
                raise PatchError(f"{op['path'][:60]} is not what it was thought to be")
        else:
            raise PatchError(f"{str(kind)[:40]} is no operation")
    return document


def difference(before: Any, after: Any, path: tuple[str | int, ...] = ()) -> Patch:
    """JSON Patch from one document to another. What both share is not looked into."""
    if before is after or before == after:
        return []
    if isinstance(before, dict) and isinstance(after, dict):
        return _of_objects(before, after, path)
    if isinstance(before, list) and isinstance(after, list):
        return _of_lists(before, after, path)
    return [{"op": "replace", "path": pointer(path), "value": after}]


def _of_objects(
    before: dict[str, Any], after: dict[str, Any], path: tuple[str | int, ...]
) -> Patch:
    patch: Patch = []
    for key in before:
        if key not in after:
            patch.append({"op": "remove", "path": pointer((*path, key))})
        else:
            patch += difference(before[key], after[key], (*path, key))
    added = (key for key in after if key not in before)
    return patch + [
        {"op": "add", "path": pointer((*path, key)), "value": after[key]} for key in added
    ]


def _of_lists(before: list[Any], after: list[Any], path: tuple[str | int, ...]) -> Patch:
    """Rows that are the same at both ends are left; between them rows are changed one by one, then
    taken out or put in.
    """
    low, high = 0, 0
    most = min(len(before), len(after))
    while low < most and before[low] == after[low]:
        low += 1
    while high < most - low and before[-1 - high] == after[-1 - high]:
        high += 1
    old, new = before[low : len(before) - high], after[low : len(after) - high]
    patch: Patch = []
    common = min(len(old), len(new))
    for i in range(common):
        patch += difference(old[i], new[i], (*path, low + i))
    for i in reversed(range(common, len(old))):
        patch.append({"op": "remove", "path": pointer((*path, low + i))})
    for i in range(common, len(new)):
        patch.append({"op": "add", "path": pointer((*path, low + i)), "value": new[i]})
    return patch


def sharing(old: Any, new: Any) -> Any:
    """``new`` with the parts that are equal to those of ``old`` taken from it."""
    if old is new or old == new:
        return old
    if isinstance(old, dict) and isinstance(new, dict):
        return {k: sharing(old.get(k, _NONE), v) for k, v in new.items()}
    if isinstance(old, list) and isinstance(new, list):
        return [sharing(old[i] if i < len(old) else _NONE, v) for i, v in enumerate(new)]
    return new
