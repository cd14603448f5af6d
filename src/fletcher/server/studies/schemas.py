"""What a study is asked about."""

from __future__ import annotations

from ninja import Schema

from fletcher.core.document.airframe import Airframe, Part
from fletcher.server.airframes import services
from fletcher.server.common.refusals import refusal


class Study(Schema):
    """A document as it stands in the page, one of its parts, and the load case that is looked at."""

    document: Airframe
    part_id: str
    case_id: str

    def part(self) -> Part:
        """The part of a possible document; InvalidDocument if there is none, or it has no such case."""
        services.require_possible(self.document)
        part = self.document.part(self.part_id)
        if part is None or all(c.id != self.case_id for c in part.cases):
            message = "does not name a part of this airframe, or a load case of that part"
            raise refusal("part_id or case_id", message, self.part_id)
        return part
