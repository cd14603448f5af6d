"""How a request is refused: by the field, with what is allowed there."""

from __future__ import annotations

from fletcher.core.document.airframe import Airframe, Part
from fletcher.core.document.problems import InvalidDocument, Problem


def refusal(path: str, message: str, value: str = "") -> InvalidDocument:
    """What to raise for one field (or for the whole request: path "")."""
    return InvalidDocument([Problem(path=path, message=message, value=value)])


def part_of(document: Airframe, part_id: str) -> Part:
    """A part of a document.

    Raises
    ------
    InvalidDocument
        If there is none of this id.
    """
    part = document.part(part_id)
    if part is None:
        raise refusal("part_id", "does not name a part of this airframe", part_id)
    return part


def require_room(count: int, most: int, what: str) -> None:
    """Refuse one more of what is counted; the caller holds the row that it belongs to."""
    if count >= most:
        raise refusal("", f"there are as many {what} as can be kept: at most {most}; remove old ones first")
