"""Photographs: checked, scaled down and encoded anew, so that nothing but the picture is kept."""

from __future__ import annotations

import io
import threading

from django.core.files.uploadedfile import UploadedFile
from PIL import Image, ImageOps

from fletcher.core.document.problems import InvalidDocument, Problem

MAX_BYTES = 8_000_000
MAX_POINTS = {"JPEG": 50_000_000, "PNG": 16_000_000, "WEBP": 16_000_000}
"""A JPEG is scaled down as it is decoded; of the others every point is held at once."""
LONGEST_PX = 1600
_AT_ONCE = threading.BoundedSemaphore(2)
"""So many pictures are decoded at once by a process."""
Image.MAX_IMAGE_PIXELS = None  # `MAX_POINTS` says it, by name


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
        message = f"is too large: no more than {MAX_BYTES // 1_000_000} MB"
        raise _refuse(message, f"{(upload.size or 0) / 1e6:.1f} MB")
    unread = _refuse("cannot be read as an image: use JPEG, PNG or WebP")
    try:
        found = Image.open(upload, formats=tuple(MAX_POINTS))
    except (OSError, ValueError, SyntaxError):
        raise unread from None
    most = MAX_POINTS[found.format or "PNG"]
    if found.width * found.height > most:
        message = f"has too many points: at most {most // 1_000_000} million as {found.format}"
        raise _refuse(message, f"{found.width} × {found.height}")
    with _AT_ONCE:
        try:
            found.draft("RGB", (LONGEST_PX, LONGEST_PX))
            picture = ImageOps.exif_transpose(found).convert("RGB")
        except (OSError, ValueError, SyntaxError):
            raise unread from None
        picture.thumbnail((LONGEST_PX, LONGEST_PX))
    picture.info.clear()  # comments and profiles would be written again
    out = io.BytesIO()
    picture.save(out, "JPEG", quality=82, optimize=True)
    return out.getvalue()
