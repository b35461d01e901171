"""A whole build in one zip file: document, history, pictures, with a checksum of each. Open:
JSON and the pictures as they are.
"""

import hashlib
import json
import re
import zipfile
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from typing import IO, Any

from pindo.core.errors import PindoError

FORMAT = "build bundle"
MOST_FILES = 600
MOST_TEXT = 64 * 1024 * 1024
MOST_TOTAL = 384 * 1024 * 1024
MOST_RATIO = 200
_ENDS = {
    "image/jpeg": "jpg",
    "image/png": "png",
    "image/webp": "webp",
    "audio/webm": "webm",
    "audio/ogg": "ogg",
    "audio/mp4": "m4a",
    "audio/mpeg": "mp3",
    "audio/wav": "wav",
}
_PHOTO = re.compile(rf"^photos/([0-9a-f]{{8,64}})\.({'|'.join(_ENDS.values())})$")


class BadBundle(PindoError, ValueError):
    """The file is no bundle that can be taken; the message says why. Nothing was stored."""


@dataclass(frozen=True, kw_only=True)
class Bundle:
    """What a bundle holds; ``photos`` and voice notes by id."""

    document: dict[str, Any]
    history: list[dict[str, Any]]
    photos: dict[str, bytes]


def _text(value: Any) -> bytes:
    return json.dumps(value, ensure_ascii=False, indent=1, allow_nan=False).encode("utf-8")


def write_bundle(
    stream: IO[bytes],
    document: dict[str, Any],
    history: list[dict[str, Any]],
    photos: Iterable[tuple[str, str, bytes]],
) -> None:
    """Write a bundle to ``stream``; ``photos`` are id, media type and bytes, taken one after the
    other.
    """
    sums: dict[str, str] = {}
    with zipfile.ZipFile(stream, "w", zipfile.ZIP_DEFLATED) as file:

        def put(name: str, content: bytes, how: int) -> None:
            sums[name] = hashlib.sha256(content).hexdigest()
            file.writestr(zipfile.ZipInfo(name), content, how)

        put("build.json", _text(document), zipfile.ZIP_DEFLATED)
        put("history.json", _text(history), zipfile.ZIP_DEFLATED)
        for id, media_type, content in photos:
            put(f"photos/{id}.{_ENDS[media_type]}", content, zipfile.ZIP_STORED)
        file.writestr(
            zipfile.ZipInfo("manifest.json"),
            _text({"format": FORMAT, "version": 1, "sha256": sums}),
            zipfile.ZIP_DEFLATED,
        )


def _entries(file: zipfile.ZipFile) -> Iterator[zipfile.ZipInfo]:
    infos = file.infolist()
    if len(infos) > MOST_FILES or len({i.filename for i in infos}) != len(infos):
        raise BadBundle(
            f"It holds {len(infos)} files, or two of one name; at most {MOST_FILES} can be taken."
        )
    if sum(i.file_size for i in infos) > MOST_TOTAL:
        raise BadBundle(f"It holds more than {MOST_TOTAL // 1024 // 1024} MB.")
    for info in infos:
        if info.filename not in (
            "manifest.json",
            "build.json",
            "history.json",
        ) and not _PHOTO.match(info.filename):
            raise BadBundle(f"It holds “{info.filename[:60]}”, which a bundle never has.")
        if info.flag_bits & 0x1 or info.file_size > MOST_RATIO * max(info.compress_size, 1024):
            raise BadBundle(
                f"“{info.filename[:60]}” is locked, or unpacks to far more than it takes."
            )
        yield info


def _read(file: zipfile.ZipFile, info: zipfile.ZipInfo, most: int) -> bytes:
    with file.open(info) as source:
        content = source.read(most + 1)  # what the head says of the size is not believed
    if len(content) > most:
        raise BadBundle(f"“{info.filename}” is larger than {most // 1024 // 1024} MB.")
    return content


def read_bundle(stream: IO[bytes]) -> Bundle:
    """Read a bundle whole; every file against its checksum, sizes and names bounded before they are
    unpacked.

    Raises
    ------
    BadBundle
        Anything in it is not as :func:`write_bundle` makes it.
    """
    try:
        with zipfile.ZipFile(stream) as file:
            infos = {i.filename: i for i in _entries(file)}
            for name in ("manifest.json", "build.json", "history.json"):
                if name not in infos:
                    raise BadBundle(f"It has no {name}.")
            manifest = json.loads(_read(file, infos["manifest.json"], MOST_TEXT))
            if (
                not isinstance(manifest, dict)
                or manifest.get("format") != FORMAT
                or manifest.get("version") != 1
                or not isinstance(manifest.get("sha256"), dict)
            ):
                raise BadBundle("It is no build bundle of a version that this Pindo reads.")
            if set(manifest["sha256"]) != set(infos) - {"manifest.json"}:
                raise BadBundle("Its list of files and the files do not agree.")
            contents: dict[str, bytes] = {}
            for name, info in infos.items():
                if name == "manifest.json":
                    continue
                contents[name] = _read(file, info, MOST_TEXT)
                if hashlib.sha256(contents[name]).hexdigest() != manifest["sha256"][name]:
                    raise BadBundle(
                        f"“{name}” is not as it was written: its checksum does not agree."
                    )
            document, history = (
                json.loads(contents["build.json"]),
                json.loads(contents["history.json"]),
            )
            if not isinstance(document, dict) or not isinstance(history, list):
                raise BadBundle("Its document or history is no such thing.")
            photos = {
                match[1]: content
                for name, content in contents.items()
                if (match := _PHOTO.match(name))
            }
            return Bundle(document=document, history=history, photos=photos)
    except (zipfile.BadZipFile, NotImplementedError, OSError, EOFError) as error:
        raise BadBundle(f"It is no zip file that can be read ({str(error)[:80]}).") from error
    except (ValueError, RecursionError) as error:
        if isinstance(error, BadBundle):
            raise
        raise BadBundle(f"A file in it is no JSON ({str(error)[:80]}).") from error
