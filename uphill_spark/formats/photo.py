"""Photographs as they are kept: upright, of a sensible size, without the place and time that a telephone writes into them.

A picture is drawn anew from its pixels, so nothing of the file that came in but its pixels goes out: no position, no maker, no name.
"""

from __future__ import annotations

import hashlib
import io
from dataclasses import dataclass

from pi_heif import register_heif_opener
from PIL import Image, ImageFile, ImageOps, UnidentifiedImageError

from ..core.errors import PhotoError, Problem

LARGEST = 24_000_000  # bytes of the file that comes in
#: Pixels by kind. A JPEG is decoded at a fraction of its size; the others whole, and memory for that is bounded.
LARGEST_PIXELS = {"JPEG": 220_000_000, "PNG": 30_000_000, "HEIF": 52_000_000}
LONG_SIDE = 2400  # pixels kept: a spray or a hose end fills a screen with less
SMALL_SIDE = 360
_WANTS = f"a JPEG, PNG or HEIC photograph of at most {LARGEST // 1_000_000} MB"
_KINDS = ("JPEG", "PNG", "HEIF")

register_heif_opener()
Image.MAX_IMAGE_PIXELS = None  # looked at below, before a pixel is decoded, with words that a person can use


@dataclass(frozen=True, slots=True)
class Photo:
    """A photograph as it is kept. `key` is the SHA-256 of `data`, in hexadecimal: the same picture has the same key."""

    key: str
    media_type: str
    data: bytes
    small: bytes
    width: int
    height: int


def read(data: bytes) -> Photo:
    """A photograph from a file's bytes. Raises PhotoError, saying what would do.

    Kept as JPEG, or as PNG where it came as one with few enough bytes (drawings and screens); the small one is always JPEG.
    """
    if not data:
        raise _refused("The file is empty.", "0 bytes")
    if len(data) > LARGEST:
        raise _refused("The photograph is too large.", f"{len(data) / 1e6:.0f} MB")
    ImageFile.LOAD_TRUNCATED_IMAGES = False  # the library that prints sheets turns it on for the whole process
    try:
        with Image.open(io.BytesIO(data), formats=_KINDS) as found:
            kind = found.format
            if found.width * found.height > LARGEST_PIXELS[str(kind)]:
                raise _refused("The photograph has too many pixels.", f"{found.width} by {found.height}")
            found.draft("RGB", (LONG_SIDE, LONG_SIDE))
            found.load()
            if found.mode not in ("P", "1"):  # a palette has no colours in between
                found.thumbnail((LONG_SIDE, LONG_SIDE), Image.Resampling.LANCZOS, reducing_gap=2.0)
            upright = ImageOps.exif_transpose(found)
    except UnidentifiedImageError as error:
        raise _refused("This is not a photograph, whatever its name says.", _seems(data)) from error
    except (OSError, ValueError, SyntaxError, EOFError, MemoryError) as error:
        raise _refused("The photograph is damaged and cannot be read to its end.", f"{len(data)} bytes") from error
    flat = _flat(upright)
    flat.thumbnail((LONG_SIDE, LONG_SIDE), Image.Resampling.LANCZOS)
    kept, media_type = _written(flat, "PNG" if kind == "PNG" else "JPEG")
    small = flat.copy()
    small.thumbnail((SMALL_SIDE, SMALL_SIDE), Image.Resampling.LANCZOS)
    return Photo(
        hashlib.sha256(kept).hexdigest(), media_type, kept, _written(small, "JPEG", quality=80)[0], flat.width, flat.height
    )  # fmt: skip


def _flat(image: Image.Image) -> Image.Image:
    """Red, green and blue on white paper: nothing shows through, no palette, no colour profile left to carry."""
    if image.mode in ("RGBA", "LA", "PA") or "transparency" in image.info:
        over = image.convert("RGBA")
        paper = Image.new("RGB", over.size, "white")
        paper.paste(over, mask=over.getchannel("A"))
        return paper
    flat = image.convert("RGB")
    return flat if flat is not image else image.copy()


def _written(image: Image.Image, kind: str, quality: int = 88) -> tuple[bytes, str]:
    """Pixels alone as a file. A PNG that holds a photograph is many times its JPEG, which is then taken."""
    clean = Image.new("RGB", image.size)
    clean.paste(image)
    jpeg = io.BytesIO()
    clean.save(jpeg, "JPEG", quality=quality, optimize=True, progressive=True)
    if kind == "PNG":
        png = io.BytesIO()
        clean.save(png, "PNG", optimize=True)
        if len(png.getvalue()) <= 2 * len(jpeg.getvalue()):
            return png.getvalue(), "image/png"
    return jpeg.getvalue(), "image/jpeg"


def _seems(data: bytes) -> str:
    """What the bytes look like, for the message."""
    head = data[:200]
    if head.startswith(b"%PDF"):
        return "a PDF"
    if head[:4] in (b"GIF8", b"RIFF", b"BM6\x00") or head.startswith(b"<svg"):
        return "a picture of another kind"
    try:
        text = head.decode("utf-8")
    except UnicodeDecodeError:
        return "bytes of an unknown kind"
    return "a text file" if text.isprintable() or "\n" in text or "\t" in text else "bytes of an unknown kind"


def _refused(message: str, given: str) -> PhotoError:
    return PhotoError(message, (Problem("/photo", given, _WANTS),))
