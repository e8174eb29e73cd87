"""Group voltages as modules, boards or meters gave them over time, and how true they are."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from lumvak.core.document.hand import DAY, DAY_LIKE
from lumvak.core.record import Document

MOST_SETS, MOST_GROUPS = 2000, 400
GroupVolts = Annotated[float, Field(ge=-6.0, le=6.0)]


class Calibration(Document):
    """A point at which a module was held against a meter: what it showed, what was true.

    It reads ``groups`` groups from group ``first`` on. Points of one module and day go together.
    """

    module: str = Field(default="board", title="Module", min_length=1, max_length=30)
    first: int = Field(default=1, title="From group", ge=1, le=MOST_GROUPS)
    groups: int = Field(default=1, title="Groups", ge=1, le=MOST_GROUPS)
    shown_v: float = Field(title="Shown", gt=0, le=6, json_schema_extra={"unit": "V"})
    true_v: float = Field(title="By the meter", gt=0, le=6, json_schema_extra={"unit": "V"})
    day: str = Field(
        default="", title="Date", max_length=10, pattern=DAY, json_schema_extra=DAY_LIKE
    )
    instrument: str = Field(default="", title="Instrument", max_length=60)


class VoltsSet(Document):
    """The volts of all groups at one time, from the most negative on, as they were shown."""

    when: str = Field(default="", title="When", max_length=40)
    volts: tuple[GroupVolts, ...] = Field(title="Volts", min_length=1, max_length=MOST_GROUPS)


class Watch(Document):
    """Group voltages, how far apart they may be, and how true what shows them is.

    ``one_is`` is which end of the pack modules count from; sets are kept from the negative end.
    """

    one_is: Literal["negative", "positive"] = Field(default="negative", title="Group 1 is")
    apart_v: float = Field(
        default=0.03, title="Apart at most", gt=0, le=3, json_schema_extra={"unit": "V"}
    )
    low_v: float | None = Field(
        default=None, title="No group under", gt=0, le=6, json_schema_extra={"unit": "V"}
    )
    high_v: float | None = Field(
        default=None, title="No group over", gt=0, le=6, json_schema_extra={"unit": "V"}
    )
    calibrations: tuple[Calibration, ...] = Field(default=(), title="Calibration", max_length=400)
    sets: tuple[VoltsSet, ...] = Field(default=(), title="Group voltages", max_length=MOST_SETS)
