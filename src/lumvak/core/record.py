"""What every stored record shares, and the ranges of the numbers in it."""

from __future__ import annotations

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

PartId = Annotated[str, Field(min_length=1, max_length=60, pattern=r"^[a-z0-9][a-z0-9.-]*$")]
Positive = Annotated[float, Field(gt=0, le=1e6, allow_inf_nan=False)]
NotNegative = Annotated[float, Field(ge=0, le=1e6, allow_inf_nan=False)]
CellVoltage = Annotated[float, Field(gt=0, le=6, allow_inf_nan=False)]
Celsius = Annotated[float, Field(ge=-60, le=150, allow_inf_nan=False)]
Delay = Annotated[float, Field(gt=0, le=3600, allow_inf_nan=False)]


class Document(BaseModel):
    """What every stored record shares: unknown keys are refused and values never change."""

    model_config = ConfigDict(extra="forbid", frozen=True, strict=True, allow_inf_nan=False)
