"""Photos and clips as they are kept: what is seen and heard, and nothing of where it was taken or whose it is."""

from __future__ import annotations

import struct
import warnings
from io import BytesIO
from typing import Any

from PIL import Image, ImageOps, UnidentifiedImageError

from cabrio.core.errors import Impossible, OutOfRange

MOST_PIXELS = 50_000_000
"""Of one photo: more than a good camera's, and far from what fills the memory."""
FORMATS = {"image/jpeg": "JPEG", "image/png": "PNG", "image/webp": "WEBP"}
SEEN = ("transparency", "icc_profile")
"""What a file tells that changes how the picture looks."""
BOXES = frozenset({b"moov", b"trak", b"mdia", b"edts", b"meta"})
"""Boxes of an MP4 that hold others."""
TOLD = frozenset({b"udta", b"meta", b"uuid"})
"""Boxes that tell of the maker, the owner and the place."""

SEGMENT, INFO = 0x18538067, 0x1549A966
"""Elements of a WebM that hold others."""
TOLD_WEBM = frozenset(
    {0x1254C367, 0x1941A469, 0x1043A770, 0x7BA9, 0x7384, 0x3C83AB, 0x3E83BB, 0x4461, 0xBF}
)
"""Its tags, attachments, chapters, title, names of files and date; and sums over what is taken out."""


def cleaned(data: bytes, kind: str) -> bytes:
    """The same picture without what else its file tells. Raises Impossible where it cannot be read, OutOfRange
    where it is too large."""
    if kind in FORMATS:
        return _photo(data, FORMATS[kind])
    return _clip(data) if kind == "video/mp4" else _webm(data)


def _photo(data: bytes, form: str) -> bytes:
    try:
        with warnings.catch_warnings():
            warnings.simplefilter(
                "ignore", Image.DecompressionBombWarning
            )  # our own bound stands below
            found = Image.open(BytesIO(data), formats=(form,))
        wide, high = found.size
        if wide * high > MOST_PIXELS:
            raise _too_large()
        upright = ImageOps.exif_transpose(found)
        options: dict[str, Any] = {"quality": 90}
        if found.format == "JPEG" and upright is found:
            options = {"quality": "keep"}
        kept = BytesIO()
        upright.info = {k: v for k, v in upright.info.items() if k in SEEN}
        upright.save(kept, form, **options)
    except Image.DecompressionBombError as problem:
        raise _too_large() from problem
    except (UnidentifiedImageError, OSError, SyntaxError, ValueError) as problem:
        raise Impossible("This photo cannot be read: take it again.", number="data") from problem
    return kept.getvalue()


def _too_large() -> OutOfRange:
    return OutOfRange(
        f"A photo has at most {MOST_PIXELS // 10**6} million pixels: make it smaller.",
        number="data",
    )


def _clip(data: bytes) -> bytes:
    """An MP4 whose boxes about maker, owner and place are made free space: nothing else moves."""
    kept = bytearray(data)
    _free(kept, 0, len(kept))
    return bytes(kept)


def _free(data: bytearray, at: int, end: int) -> None:
    while at + 8 <= end:
        size, name = struct.unpack_from(">I4s", data, at)
        head = 8
        if size == 1 and at + 16 <= end:
            (size,) = struct.unpack_from(">Q", data, at + 8)
            head = 16
        elif size == 0:
            size = end - at
        if size < head or at + size > end:
            return
        if name in TOLD:
            data[at + 4 : at + 8] = b"free"
            data[at + head : at + size] = bytes(size - head)
        elif name in BOXES:
            _free(data, at + head, at + size)
        at += size


def _webm(data: bytes) -> bytes:
    """A WebM whose elements about maker, owner and place are made empty ones: nothing else moves."""
    kept, at = bytearray(data), 0
    while at < len(kept):
        name, start = _number(kept, at, 4, marked=True)
        size, body = _number(kept, start, 8)
        if not name or not body:
            break
        unknown = size == (1 << 7 * (body - start)) - 1
        if name in TOLD_WEBM and not unknown:
            end = min(body + size, len(kept))
            kept[at:end] = _void(end - at)
            at = end
        elif (
            name in (SEGMENT, INFO) or unknown
        ):  # one still being recorded: what it holds comes next
            at = body
        else:
            at = body + size
    return bytes(kept)


def _number(data: bytearray, at: int, most: int, *, marked: bool = False) -> tuple[int, int]:
    """A number of as many bytes as its first one says, and where it ends; zeros where there is none."""
    first = data[at] if at < len(data) else 0
    length = 9 - first.bit_length()
    if length > most or at + length > len(data):
        return 0, 0
    size = int.from_bytes(data[at : at + length], "big")
    return size if marked else size - (1 << 7 * length), at + length


def _void(length: int) -> bytes:
    """An element of so many bytes that tells nothing."""
    wide = 8 if length >= 9 else 1
    rest = length - 1 - wide
    return b"\xec" + (rest | 1 << 7 * wide).to_bytes(wide, "big") + bytes(rest)
