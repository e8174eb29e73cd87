"""Group voltages as modules, boards or meters gave them over time, and how true they are."""

from typing import Annotated, Literal

from lumvak.core.document.hand import DAY, DAY_LIKE
from lumvak.core.record import Document, about

MOST_SETS, MOST_GROUPS = 2000, 400
GroupVolts = Annotated[float, about(ge=-6.0, le=6.0)]


class Calibration(Document, frozen=True, kw_only=True):
    """A point at which a module was held against a meter: what it showed, what was true.

    It reads ``groups`` groups from group ``first`` on. Points of one module and day go together.
    """

    module: Annotated[
        str, about("Module", min_length=1, max_length=30, tip="Which BMS or monitor")
    ] = "board"
    first: Annotated[int, about("From group", ge=1, le=MOST_GROUPS, tip="First of its groups")] = 1
    groups: Annotated[int, about("Groups", ge=1, le=MOST_GROUPS, tip="How many of its groups")] = 1
    shown_v: Annotated[float, about("Shown", "V", gt=0, le=6, tip="What it showed")]
    true_v: Annotated[float, about("By the meter", "V", gt=0, le=6, tip="What the meter read")]
    day: Annotated[
        str, about("Date", like=DAY_LIKE, max_length=10, pattern=DAY, tip="Day of the comparison")
    ] = ""
    instrument: Annotated[str, about("Instrument", max_length=60, tip="Which meter")] = ""


class VoltsSet(Document, frozen=True, kw_only=True):
    """The volts of all groups at one time, from the most negative on, as they were shown."""

    when: Annotated[str, about("When", max_length=40, tip="Day and time")] = ""
    volts: Annotated[
        tuple[GroupVolts, ...],
        about(
            "Volts",
            min_length=1,
            max_length=MOST_GROUPS,
            tip="Of every group, from the most negative",
        ),
    ]


class Watch(Document, frozen=True):
    """Group voltages, how far apart they may be, and how true what shows them is.

    ``one_is`` is which end of the pack modules count from; sets are kept from the negative end.
    """

    one_is: Annotated[
        Literal["negative", "positive"],
        about("Group 1 is", tip="Whether group 1 is the most negative or the most positive"),
    ] = "negative"
    apart_v: Annotated[
        float,
        about("Apart at most", "V", gt=0, le=3, tip="Groups further apart than this are told"),
    ] = 0.03
    low_v: (
        Annotated[float, about("No group under", "V", gt=0, le=6, tip="A group under this is told")]
        | None
    ) = None
    high_v: (
        Annotated[float, about("No group over", "V", gt=0, le=6, tip="A group over this is told")]
        | None
    ) = None
    calibrations: Annotated[
        tuple[Calibration, ...],
        about("Calibration", max_length=400, tip="What shows voltages held against a meter"),
    ] = ()
    sets: Annotated[
        tuple[VoltsSet, ...],
        about("Group voltages", max_length=MOST_SETS, tip="All group voltages at one time"),
    ] = ()
