"""What every stored record shares, and the ranges of the numbers in it."""

from __future__ import annotations

from typing import Annotated, Self

from pydantic import BaseModel, ConfigDict, Field, model_validator

PartId = Annotated[str, Field(min_length=1, max_length=60, pattern=r"^[a-z0-9][a-z0-9.-]*$")]
Positive = Annotated[float, Field(gt=0, le=1e6, allow_inf_nan=False)]
NotNegative = Annotated[float, Field(ge=0, le=1e6, allow_inf_nan=False)]
CellVoltage = Annotated[float, Field(gt=0, le=6, allow_inf_nan=False)]
Celsius = Annotated[float, Field(ge=-60, le=150, allow_inf_nan=False)]
Delay = Annotated[float, Field(gt=0, le=3600, allow_inf_nan=False)]


# Nearer to 0 than this no quantity is meant, and what is worked out from it runs over.
FLOOR = 1e-7


class Document(BaseModel):
    """What every stored record shares: unknown keys are refused and values never change.

    A number is 0 or no nearer to it than FLOOR.
    """

    model_config = ConfigDict(extra="forbid", frozen=True, strict=True, allow_inf_nan=False)

    @model_validator(mode="after")
    def _not_next_to_nothing(self) -> Self:
        for name, value in self.__dict__.items():
            if type(value) is float and 0.0 < abs(value) < FLOOR:
                raise ValueError(
                    f"{type(self).model_fields[name].title or name}: a number nearer to 0 than "
                    f"{FLOOR:g} was given; accepted: 0, where it may be, or {FLOOR:g} and more"
                )
        return self
