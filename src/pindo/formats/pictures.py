"""Photos as they may be kept: JPEG, PNG or WebP, bounded, without what the camera wrote beside
the picture.
"""

import io
import warnings

from PIL import Image, ImageOps, UnidentifiedImageError

from pindo.core.errors import PindoError

MOST_PIXELS = 60_000_000
MOST_SIDE = 12_000
KEPT_SIDE = 4000
MEDIA_TYPES = {"JPEG": "image/jpeg", "PNG": "image/png", "WEBP": "image/webp"}
# All else that a file can carry (place, camera, owner, texts) is left behind.
_HARMLESS = {
    "jfif",
    "jfif_version",
    "jfif_unit",
    "jfif_density",
    "dpi",
    "progressive",
    "progression",
    "gamma",
    "transparency",
    "loop",
    "background",
    "timestamp",
    "duration",
    "mp_format",
}


class NotAPicture(PindoError, ValueError):
    """The bytes are no picture that can be kept; the message says why. Nothing was stored."""


def cleaned(content: bytes) -> tuple[str, bytes]:
    """Media type and bytes of a picture, without metadata, upright, its sides at most 4000 pixels;
    as it came where nothing is to be left out.

    Its size is read from the head and bounded before anything is decoded.

    Raises
    ------
    NotAPicture
        No JPEG, PNG or WebP, more than one frame, damaged, or over 60 million pixels.
    """
    try:
        with warnings.catch_warnings():
            warnings.simplefilter(
                "ignore", Image.DecompressionBombWarning
            )  # bounded here, more tightly and in words
            with Image.open(io.BytesIO(content), formats=list(MEDIA_TYPES)) as picture:
                wide, tall = picture.size
                if wide * tall > MOST_PIXELS or max(wide, tall) > MOST_SIDE:
                    raise NotAPicture(
                        f"The picture has {wide} x {tall} pixels; at most {MOST_PIXELS // 10**6}"
                        " million can be kept. Nothing was stored."
                    )
                if getattr(picture, "n_frames", 1) > 1 and picture.format != "JPEG":
                    raise NotAPicture(
                        "The picture moves; a still one can be kept. Nothing was stored."
                    )
                form = picture.format or ""
                picture.load()
                if (
                    max(wide, tall) <= KEPT_SIDE
                    and not picture.getexif()
                    and set(picture.info) <= _HARMLESS
                ):
                    return MEDIA_TYPES[form], content
                upright = ImageOps.exif_transpose(picture)
                upright.thumbnail((KEPT_SIDE, KEPT_SIDE))
                return MEDIA_TYPES[form], _written(upright, form)
    except NotAPicture:
        raise
    except UnidentifiedImageError as error:
        raise NotAPicture("This is no JPEG, PNG or WebP picture. Nothing was stored.") from error
    except (
        OSError,
        ValueError,
        SyntaxError,
        MemoryError,
        EOFError,
        Image.DecompressionBombError,
    ) as error:
        raise NotAPicture(
            f"The picture cannot be read ({str(error)[:80]}). Nothing was stored."
        ) from error


def _written(picture: Image.Image, form: str) -> bytes:
    plain = picture if picture.mode in ("RGB", "L") or form != "JPEG" else picture.convert("RGB")
    bare = Image.new(plain.mode, plain.size)
    if plain.mode == "P" and (palette := plain.getpalette()):
        bare.putpalette(palette)
    bare.paste(plain)
    stream = io.BytesIO()
    bare.save(stream, form, **({} if form == "PNG" else {"quality": 90}))
    return stream.getvalue()


PAPER_SIDE = 700


def for_paper(content: bytes) -> bytes | None:
    """A kept picture as JPEG with sides of at most 700 pixels, enough for a photo of 60 mm on
    paper; None for bytes that cannot be read any more.
    """
    try:
        with Image.open(io.BytesIO(content), formats=list(MEDIA_TYPES)) as picture:
            picture.draft("RGB", (PAPER_SIDE, PAPER_SIDE))
            small = picture.convert("RGB")
            small.thumbnail((PAPER_SIDE, PAPER_SIDE))
            return _written(small, "JPEG")
    except (OSError, ValueError, SyntaxError, MemoryError, EOFError):
        return None
