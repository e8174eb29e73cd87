"""What is complained of, and what was read to find the cause."""

from typing import Annotated, Literal

from lumvak.core.document.afterwards.record_of_pack import Moment
from lumvak.core.record import Document, Unfit, about

ComplaintName = Literal[
    "dead", "drops-out", "no-charge", "charges-short", "jumps", "short-range", "low-group",
    "warm-spot", "cuts-out", "wakes-and-dies", "since-repair", "none",
]  # fmt: skip
StateName = Literal["rest", "asleep", "load", "charge", "after"]
WordRead = Literal["nothing", "jumps", "alike"]
PLACE = (
    r"^(terminals|pack|bms|fuse|connector|charger|groups|shown"
    r"|(group|joint|shown):[1-9][0-9]{0,2}|tap:[0-9]{1,3})$"
)
MOST_READINGS, MOST_GROUPS = 300, 400
Weight = Annotated[float, about(ge=0, le=1)]
Volts = Annotated[float, about(ge=-2000, le=2000)]


class FaultReading(Document, frozen=True, kw_only=True):
    """One reading; ``weight`` under 1 is doubted, 0 is struck.

    It is a word, or volts (ohm where ``in_ohm``), or volts of all groups in a row.
    """

    place: Annotated[
        str,
        about(
            "Place",
            like="a place such as terminals or group:3",
            pattern=PLACE,
            tip="Terminals, pack, group:3, tap:2, joint:1, fuse and so on",
        ),
    ]
    state: Annotated[
        StateName, about("State", tip="Rest, asleep, load, charge, or after a wait")
    ] = "rest"
    amount: Annotated[
        float,
        about(
            "Amps or seconds of it", ge=0, le=1e7, tip="A of the load or charge, or s of the wait"
        ),
    ] = 0.0
    word: Annotated[WordRead, about("It showed", tip="Nothing, or jumps")] | None = None
    value: (
        Annotated[float, about("Reading", ge=-2000, le=2000, tip="V, or ohm where in_ohm is true")]
        | None
    ) = None
    row: Annotated[
        tuple[Volts, ...],
        about("Groups", max_length=MOST_GROUPS, tip="All groups at once, from the most negative"),
    ] = ()
    in_ohm: Annotated[bool, about("In ohm", tip="Whether the value is a resistance")] = False
    weight: Annotated[Weight, about("Counts", tip="1 counts, less is doubted, 0 is struck")] = 1.0
    taken: Annotated[Moment, about("Taken", tip="Day and time")] | None = None

    def check(self) -> None:
        """Raise Unfit where fields contradict each other."""
        given = (self.word is not None) + (self.value is not None) + bool(self.row)
        if given != 1:
            raise Unfit("value", "accepted: a word, a value, or a row, one of them")


class Trouble(Document, frozen=True):
    """A search: the complaint, the readings so far, and what the builder cannot reach."""

    complaint: (
        Annotated[ComplaintName, about("Complaint", tip="What is wrong with the pack")] | None
    ) = None
    readings: Annotated[
        tuple[FaultReading, ...],
        about("Readings", max_length=MOST_READINGS, tip="In the order in which they were taken"),
    ] = ()
    without: Annotated[
        tuple[Annotated[str, about(max_length=20)], ...],
        about("Cannot be read", max_length=60, tip="Places that the builder cannot reach"),
    ] = ()
    shows: Annotated[
        bool, about("Its BMS shows groups", tip="Whether the BMS tells group voltages")
    ] = True
