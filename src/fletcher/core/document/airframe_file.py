"""An airframe as a file that travels: its document, and the variants that are kept beside its parts."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from fletcher.core.document.airframe import Airframe
from fletcher.core.document.cases import Document, Id, Name


class Variant(Document):
    """A variant of a part: its name, and a document whose part of the same id it is."""

    part_id: Id
    name: Name
    document: Airframe


class AirframeFile(Airframe):
    """An airframe with its variants."""

    variants: Annotated[tuple[Variant, ...], Field(max_length=144, description="Kept beside the parts")] = ()

    @property
    def airframe(self) -> Airframe:
        """The airframe without its variants."""
        return Airframe.model_construct(**{name: getattr(self, name) for name in Airframe.model_fields})
