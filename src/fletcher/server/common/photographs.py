"""Photographs: checked, scaled down and encoded anew, so that nothing but the picture is kept."""

from __future__ import annotations

import io

from django.core.files.uploadedfile import UploadedFile
from PIL import Image, ImageOps

from fletcher.core.document.problems import InvalidDocument, Problem

MAX_BYTES = 8_000_000
MAX_PIXELS = 40_000_000
LONGEST_PX = 1600
_FORMATS = ("JPEG", "PNG", "WEBP")


def _refuse(message: str, value: str = "") -> InvalidDocument:
    return InvalidDocument([Problem(path="photo", message=message, value=value)])


def kept_photo(upload: UploadedFile[bytes]) -> bytes:
    """A photograph as it is kept: JPEG, at most `LONGEST_PX` long, upright, without what the camera wrote into it.

    Raises
    ------
    InvalidDocument
        If it is too large, or no picture in a format that is read.
    """
    if (upload.size or 0) > MAX_BYTES:
        message = f"is too large: at most {MAX_BYTES // 1_000_000} MB"
        raise _refuse(message, f"{(upload.size or 0) / 1e6:.1f} MB")
    unread = _refuse("is no picture that can be read: JPEG, PNG or WebP")
    try:
        found = Image.open(upload, formats=_FORMATS)
    except (OSError, ValueError, SyntaxError, Image.DecompressionBombError):
        raise unread from None
    if found.width * found.height > MAX_PIXELS:
        message = f"has too many points: at most {MAX_PIXELS // 1_000_000} million"
        raise _refuse(message, f"{found.width} × {found.height}")
    try:
        found.draft("RGB", (LONGEST_PX, LONGEST_PX))
        picture = ImageOps.exif_transpose(found).convert("RGB")
    except (OSError, ValueError, SyntaxError):
        raise unread from None
    picture.thumbnail((LONGEST_PX, LONGEST_PX))
    out = io.BytesIO()
    picture.save(out, "JPEG", quality=82, optimize=True)
    return out.getvalue()
