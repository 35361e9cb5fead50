"""What all values of a plan have in common, and how things are called in one."""

from __future__ import annotations

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

PlanName = Annotated[str, Field(pattern=r"^[a-z][a-z0-9-]{0,39}$")]
Sha256 = Annotated[str, Field(pattern=r"^[0-9a-f]{64}$")]
Share = Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]


class PlanValue(BaseModel):
    """A frozen value that takes nothing it does not know."""

    model_config = ConfigDict(frozen=True, extra="forbid")
