"""What every stored record shares, how a field of one is described, and common kinds of fields.

Modules of records leave annotations as they are, not as text: reading it would cost each start.
"""

import re
from typing import Annotated, Any

from msgspec import Meta, Struct

from lumvak.core.said import Text, phrase
from lumvak.core.spelling import Refused

# Nearer to 0 than this no quantity is meant, and what is worked out from it runs over.
FLOOR = 1e-7
# What ends a line, steers a terminal, turns the direction of writing round, or is half a character.
CONTROL = re.compile(r"[\x00-\x1f\x7f-\x9f\u2028\u2029\u202a-\u202e\u2066-\u2069\ud800-\udfff]")


class Document(Struct, frozen=True, forbid_unknown_fields=True):
    """What every stored record shares: unknown keys are refused and values never change.

    Records that come from outside are made by ``made`` or ``read`` (core/checked.py), which refuse
    what their fields do not accept. A number is 0 or no nearer to it than FLOOR; texts have no
    control characters, and several lines only where they are notes.
    """

    def check(self) -> None:
        """Raise Unfit where fields that are each accepted contradict one another."""


class Unfit(Refused):
    """Fields that contradict one another; ``field`` is the one to change, by dotted path.

    It is empty where that is the record as a whole.
    """

    def __init__(self, field: str, text: Text) -> None:
        super().__init__(text)
        self.field = field


def about(
    title: str = "",
    unit: str = "",
    *,
    like: str = "",
    tip: str = "",
    also: str = "",
    **bounds: Any,
) -> Meta:
    """What a field is called, its unit, what it accepts in words, and its bounds.

    ``like`` says in words what a ``pattern`` accepts; ``tip`` what there is to know of the field,
    ``also`` are other words that people look for it by; ``bounds`` are those of ``msgspec.Meta``.
    """
    told = {"unit": unit, "like": like, "also": also}
    extra = {key: value for key, value in told.items() if value}
    return Meta(
        title=title or None, description=tip or None, extra_json_schema=extra or None, **bounds
    )


PartId = Annotated[
    str,
    about(
        like="small letters, digits, dots and hyphens, a letter or digit first",
        min_length=1, max_length=60, pattern=r"^[a-z0-9][a-z0-9.-]*$",
    ),
]  # fmt: skip
Positive = Annotated[float, about(gt=0, le=1e6)]
NotNegative = Annotated[float, about(ge=0, le=1e6)]
CellVoltage = Annotated[float, about(gt=0, le=6)]
Celsius = Annotated[float, about(ge=-60, le=150)]
Delay = Annotated[float, about(gt=0, le=3600)]
# The fields of a part that no sheet gave.
Guessed = Annotated[tuple[str, ...], about("Guessed", max_length=40)]


def check_guessed(part: Any) -> None:
    """Raise Unfit where what a part calls guessed is no field of it."""
    for name in part.guessed:
        if name not in part.__struct_fields__:
            raise Unfit(
                "guessed", phrase("“{}” is no field of it; accepted: names of its fields", name)
            )
