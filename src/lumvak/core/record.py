"""What every stored record shares, and the ranges of the numbers in it."""

from __future__ import annotations

import re
from typing import Annotated, Any

from pydantic import BaseModel, ConfigDict, Field

PartId = Annotated[str, Field(min_length=1, max_length=60, pattern=r"^[a-z0-9][a-z0-9.-]*$")]
Positive = Annotated[float, Field(gt=0, le=1e6, allow_inf_nan=False)]
NotNegative = Annotated[float, Field(ge=0, le=1e6, allow_inf_nan=False)]
CellVoltage = Annotated[float, Field(gt=0, le=6, allow_inf_nan=False)]
Celsius = Annotated[float, Field(ge=-60, le=150, allow_inf_nan=False)]
Delay = Annotated[float, Field(gt=0, le=3600, allow_inf_nan=False)]
# Nearer to 0 than this no quantity is meant, and what is worked out from it runs over.
FLOOR = 1e-7
# What ends a line, steers a terminal, turns the direction of writing round, or is half a character.
CONTROL = re.compile(r"[\x00-\x1f\x7f-\x9f\u2028\u2029\u202a-\u202e\u2066-\u2069\ud800-\udfff]")


class Document(BaseModel):
    """What every stored record shares: unknown keys are refused and values never change.

    A number is 0 or no nearer to it than FLOOR; texts have no control characters, and several lines
    only where they are notes.
    """

    model_config = ConfigDict(extra="forbid", frozen=True, strict=True, allow_inf_nan=False)

    def model_post_init(self, context: Any, /) -> None:
        """Refuse what is no plain text or quantity; raises ValueError that names the field.

        A record that was made already is not asked again.
        """
        for name, value in self.__dict__.items():
            wrong = ""
            if type(value) is float:
                if -FLOOR < value < FLOOR and value != 0.0:
                    wrong = (
                        f"a number nearer to 0 than {FLOOR:g} was given; accepted: 0, where it may "
                        f"be, or {FLOOR:g} and more"
                    )
            elif type(value) is str and value:
                wrong = _control_in(_without_lines(value) if name == "note" else value)
            if wrong:
                raise ValueError(f"{type(self).model_fields[name].title or name}: {wrong}")


def _control_in(text: str) -> str:
    found = CONTROL.search(text)
    if found is None:
        return ""
    sign = f"U+{ord(found[0]):04X}"
    return f"a control character ({sign}) was given; accepted: letters and signs"


def _without_lines(text: str) -> str:
    return text.replace("\n", "").replace("\r", "").replace("\t", "")
