"""Reading an archive of an account: whatever is wrong in it is told by its file and line, before anything is stored."""

from __future__ import annotations

import json
import zipfile
import zlib
from collections.abc import Iterator
from typing import IO, TypeVar

from django.core.files.uploadedfile import SimpleUploadedFile
from pydantic import ValidationError

from fletcher.core.document.problems import MOST_TOLD, InvalidDocument, from_errors
from fletcher.server.common.bodies import look_through
from fletcher.server.common.photographs import kept_photo
from fletcher.server.common.refusals import refusal
from fletcher.server.keeping.archive import AccountFile, Line

MOST_UNPACKED_BYTES = 2_000_000_000
MOST_FILES = 20_000
MOST_LINES = 20_000
"""So many lines may a file have …"""
MOST_LINE_BYTES = 1_200_000
"""… and so long may one be."""
_MOST_PHOTO_BYTES = 8_000_000

_TORN = (zipfile.BadZipFile, zlib.error, OSError, EOFError)

L = TypeVar("L", bound=Line)


class Unpacked:
    """An archive that has been opened; `files` are the paths in it."""

    def __init__(self, source: IO[bytes]) -> None:
        try:
            self.zip = zipfile.ZipFile(source)
            listed = self.zip.infolist()
        except (zipfile.BadZipFile, OSError, ValueError, NotImplementedError):
            raise refusal("archive", "is no ZIP file that can be read") from None
        if len(listed) > MOST_FILES:
            raise refusal("archive", f"holds too many files: at most {MOST_FILES}", str(len(listed)))
        if sum(f.file_size for f in listed) > MOST_UNPACKED_BYTES:
            raise refusal("archive", f"holds too much: at most {MOST_UNPACKED_BYTES // 1_000_000} MB unpacked")
        for f in listed:
            if f.flag_bits & 1 or f.compress_type not in (zipfile.ZIP_STORED, zipfile.ZIP_DEFLATED):
                raise refusal(f.filename[:200], "is locked or packed in a way that is not read")
        self.files = {f.filename for f in listed}
        if len(self.files) != len(listed):
            raise refusal("archive", "holds two files of one name")
        if "account.json" not in self.files:
            raise refusal("archive", "is no archive of an account: account.json is missing")
        self.one("account.json", AccountFile)

    def folders(self) -> list[str]:
        """The folders of the airframes, in order."""
        return sorted(
            {"/".join(f.split("/")[:2]) for f in self.files if f.startswith("airframes/") and f.count("/") > 1}
        )

    def one(self, path: str, model: type[L]) -> L:
        """A file with one thing in it."""
        if path not in self.files:
            raise refusal(path, "is missing")
        return _read(self._bytes(path, MOST_LINE_BYTES), path, model)

    def lines(self, path: str, model: type[L]) -> Iterator[L]:
        """A file of lines, one after another; nothing where there is no such file."""
        if path not in self.files:
            return
        try:
            with self.zip.open(path) as found:
                number = 0
                while text := found.readline(MOST_LINE_BYTES + 1):
                    number += 1
                    at = f"{path} line {number}"
                    if number > MOST_LINES:
                        raise refusal(path, f"has too many lines: at most {MOST_LINES}")
                    if len(text) > MOST_LINE_BYTES:
                        raise refusal(at, f"is too long: at most {MOST_LINE_BYTES // 1000} kB")
                    if text.strip():
                        yield _read(text, at, model)
        except _TORN:
            raise refusal(path, "is torn and cannot be unpacked") from None

    def photo(self, path: str) -> bytes:
        """A photograph, encoded anew."""
        if path not in self.files:
            raise refusal(path, "is missing")
        try:
            return kept_photo(SimpleUploadedFile("photo", self._bytes(path, _MOST_PHOTO_BYTES)))
        except InvalidDocument as invalid:
            raise InvalidDocument([p.model_copy(update={"path": path}) for p in invalid.problems]) from None

    def _bytes(self, path: str, most: int) -> bytes:
        if self.zip.getinfo(path).file_size > most:
            raise refusal(path, f"is too large: no more than {most / 1e6:.1f} MB")
        try:
            return self.zip.read(path)
        except _TORN:
            raise refusal(path, "is torn and cannot be unpacked") from None


def _read(text: bytes, at: str, model: type[L]) -> L:
    try:
        look_through(json.loads(text))
        return model.model_validate_json(text)
    except ValidationError as error:
        problems = from_errors(error.errors(include_url=False)[:MOST_TOLD])
    except InvalidDocument as invalid:
        problems = invalid.problems
    except (ValueError, RecursionError):
        raise refusal(at, "is not valid JSON") from None
    raise InvalidDocument(p.model_copy(update={"path": f"{at}: {p.path}" if p.path else at}) for p in problems)
