"""The base of all that is told: typed results shared by the command line, the API and the front end."""

from __future__ import annotations

from pydantic import BaseModel, ConfigDict


class Result(BaseModel):
    """Base of all result models."""

    model_config = ConfigDict(frozen=True)
