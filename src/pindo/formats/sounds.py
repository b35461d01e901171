"""Voice notes as they may be kept: told by their first bytes, bounded, never decoded."""

from pindo.core.errors import PindoError

MOST_BYTES = 8 * 1024 * 1024
_BEGINS = {
    b"\x1a\x45\xdf\xa3": "audio/webm",
    b"OggS": "audio/ogg",
    b"ID3": "audio/mpeg",
    b"\xff\xfb": "audio/mpeg",
    b"\xff\xf3": "audio/mpeg",
}


class NotASound(PindoError, ValueError):
    """The bytes are no voice note that can be kept; the message says why. Nothing was stored."""


def sound_type(content: bytes) -> str:
    """Media type of a voice note, by its first bytes: WebM, Ogg, MPEG-4, MP3 or WAV; empty for
    none of them.
    """
    if content[:4] == b"RIFF" and content[8:12] == b"WAVE":
        return "audio/wav"
    if content[4:8] == b"ftyp":
        return "audio/mp4"
    return next((kind for begin, kind in _BEGINS.items() if content.startswith(begin)), "")


def sound(content: bytes) -> tuple[str, bytes]:
    """Media type and bytes of a voice note, as it came. Raises NotASound."""
    if len(content) > MOST_BYTES:
        raise NotASound(
            f"The note has {len(content) / 2**20:.1f} MB; at most {MOST_BYTES // 2**20} MB can be"
            " kept. Nothing was stored."
        )
    kind = sound_type(content)
    if not kind:
        raise NotASound("This is no WebM, Ogg, MPEG-4, MP3 or WAV sound. Nothing was stored.")
    return kind, content
