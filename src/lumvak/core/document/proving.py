"""What was read while a pack was proven at the bench; readings are only added to."""

from typing import Annotated, Literal

from lumvak.core.record import Document, Unfit, about
from lumvak.core.said import phrase

TestName = Literal[
    "insulation", "asleep", "groups", "total", "staircase", "drops", "over-current",
    "full-charge", "charger-stop", "over-voltage", "full-discharge", "under-voltage",
    "self-discharge", "surge",
]  # fmt: skip
Quantity = Literal["volts", "amps", "celsius", "ah", "wh", "hours"]
# What is at hand at the bench.
Instrument = Literal["meter", "load", "supply", "thermometer", "charger"]
PLACES = (
    r"^(pack|terminals|charger|fuse|bms|connector|leads|case|air|cells|strip|lead"
    r"|group:[1-9][0-9]{0,2}|joint:[1-9][0-9]{0,2})$"
)
MOST_READINGS = 50_000


class ProofReading(Document, frozen=True, kw_only=True):
    """One reading of a test: of what, where, at which current, how long after the test began.

    ``attempt`` counts how often the test was begun. ``off`` is the standard deviation of what the
    instrument may be off by, ``by`` which one it was with its range, ``taken`` when.
    """

    test: Annotated[TestName, about("Test", tip="Name of the test")]
    attempt: Annotated[int, about("Attempt", ge=1, le=1000, tip="First, second and so on")] = 1
    what: Annotated[Quantity, about("Of what", tip="Volts, amps, ohms, temperature and so on")] = (
        "volts"
    )
    place: Annotated[
        str,
        about(
            "Place",
            like="a place such as pack, terminals, group:3 or joint:2",
            pattern=PLACES,
            tip="Pack, g3, or another place of the test",
        ),
    ] = "pack"
    value: Annotated[float, about("Reading", ge=-1e6, le=1e6, tip="In the unit of what is read")]
    amps: (
        Annotated[float, about("Current", "A", ge=-1e5, le=1e5, tip="That flowed meanwhile")] | None
    ) = None
    at_s: (
        Annotated[float, about("Into the test", "s", ge=0, le=1e8, tip="Since the test began")]
        | None
    ) = None
    off: (
        Annotated[float, about("Off by", ge=0, le=1e5, tip="How far off the instrument may be")]
        | None
    ) = None
    by: Annotated[str, about("Instrument", max_length=80, tip="Which instrument read it")] = ""
    taken: Annotated[str, about("Taken", max_length=32, tip="Day and time")] = ""


class CountedAttempt(Document, frozen=True):
    """Which attempt of a test counts, where it is not the last; 0 is none."""

    test: Annotated[TestName, about("Test", tip="Name of the test")]
    attempt: Annotated[
        int, about("Attempt", ge=0, le=1000, tip="Number of the attempt; 0 for none")
    ]


class Proving(Document, frozen=True):
    """All readings of the tests, in the order in which they were taken."""

    readings: Annotated[
        tuple[ProofReading, ...], about("Readings", max_length=MOST_READINGS, tip="Of all tests")
    ] = ()
    at_hand: Annotated[
        tuple[Instrument, ...],
        about("At hand", tip="What the plan of tests may ask for", max_length=5),
    ] = ("meter", "charger")
    counts: Annotated[
        tuple[CountedAttempt, ...],
        about("Attempts that count", max_length=40, tip="Attempts that count in place of the last"),
    ] = ()

    def check(self) -> None:
        """Raise Unfit where fields contradict each other."""
        tests = [item.test for item in self.counts]
        if len(set(tests)) < len(tests):
            raise Unfit("counts", "a test is there twice; accepted: each once")
        for item in self.counts:
            known = {it.attempt for it in self.readings if it.test == item.test}
            if item.attempt and item.attempt not in known:
                raise Unfit(
                    "counts",
                    phrase("{} has no attempt {}; accepted: one of it", item.test, item.attempt),
                )
