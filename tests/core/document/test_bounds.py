"""Both ends of what a number may be are told where they are known."""

from typing import Annotated

import pytest
from pydantic import BaseModel, Field, ValidationError

from fletcher.core.document.problems import from_validation


class Reach(BaseModel):
    """Ranges of every sort."""

    reach_mm: Annotated[float | None, Field(ge=5, le=40)] = None
    above_mm: Annotated[float, Field(gt=0, le=9)] = 1
    below_deg: Annotated[float, Field(ge=-3, lt=3)] = 0
    inside_g: Annotated[float, Field(gt=0, lt=2)] = 1
    open_mm: Annotated[float, Field(ge=2)] = 5
    turned_mm: Annotated[float, Field(ge=1, le=6)] = 2


class OtherReach(BaseModel):
    """The same name with another end."""

    turned_mm: Annotated[float, Field(ge=1, le=8)] = 2


@pytest.mark.parametrize(
    ("field", "value", "says"),
    [
        ("reach_mm", 4, "must be between 5 mm and 40 mm"),
        ("reach_mm", 41, "must be between 5 mm and 40 mm"),
        ("above_mm", 0, "must be more than 0 mm and at most 9 mm"),
        ("above_mm", 10, "must be more than 0 mm and at most 9 mm"),
        ("below_deg", 3, "must be at least -3° and less than 3°"),
        ("inside_g", 2, "must be more than 0 g and less than 2 g"),
        ("open_mm", 1, "must be at least 2 mm"),
        ("turned_mm", 7, "must be between 1 mm and 6 mm"),  # only one of the two ends there
        ("turned_mm", 0, "must be at least 1 mm"),  # two fields of that name differ in the other end
    ],
)
def test_what_is_allowed_is_told_with_both_ends(field, value, says):
    with pytest.raises(ValidationError) as refused:
        Reach.model_validate({field: value})
    assert [p.message for p in from_validation(refused.value)] == [says]
