"""Charging: the chargers at hand, how groups are evened out, and what was read while charging."""

from itertools import pairwise
from typing import Annotated, Literal

from lumvak.core.catalogue.chargers import Charger
from lumvak.core.record import Document, PartId, Unfit, about
from lumvak.core.said import digits, listed, phrase

# In place of a charger that is kept: the one of the need, and the one to buy.
GIVEN, RIGHT = "given", "right"
RESERVED = (GIVEN, RIGHT)
MOST_CHARGERS, MOST_GROUPS, MOST_LOG = 40, 400, 20_000
LONGEST_LOG_S = 1e7
BalancedBy = Literal["board", "module", "active", "none"]
BalancedAt = Literal["top", "bottom"]
ActiveWay = Literal["high-low", "pack-low", "high-pack"]
Strategy = Literal["threshold", "average"]
GroupVolts = Annotated[float, about(ge=0, le=6)]


class ChargeGroup(Document, frozen=True):
    """A group as it is charged; ``None`` is as the others, or as measured.

    ``share`` is how full it is of its own capacity, ``volts`` what it rests at in its place.
    """

    ah: (
        Annotated[float, about("Capacity", gt=0, le=1e5, tip="As the others where not given")]
        | None
    ) = None
    share: Annotated[float, about("Charge", "%", ge=0, le=1, tip="How full it is")] | None = None
    volts: (
        Annotated[float, about("OCV", gt=0, le=6, tip="At rest, from which its charge follows")]
        | None
    ) = None
    leak_ma: (
        Annotated[
            float,
            about("Loses by itself", "mA", ge=0, le=1e5, tip="Current that it loses by itself"),
        ]
        | None
    ) = None
    mohm: (
        Annotated[float, about("Resistance", gt=0, le=1e5, tip="As the others where not given")]
        | None
    ) = None


class Module(Document, frozen=True):
    """A resistor across a group, switched on over a voltage: the builder's own bleed."""

    ohm: Annotated[float, about("Resistor", "Ω", ge=0.1, le=1e5, tip="Of each resistor")] = 22.0
    watt: Annotated[
        float, about("Rated for", "W", gt=0, le=1000, tip="Rating of each resistor")
    ] = 2.0
    from_v: (
        Annotated[
            float,
            about(
                "Bleeds over",
                "V",
                gt=0,
                le=6,
                tip="Cell voltage above which it bleeds; the charge voltage where not given",
            ),
        ]
        | None
    ) = None
    strategy: Annotated[
        Strategy, about("Bleeds a group that is", tip="Over the threshold, or over the average")
    ] = "threshold"
    always: Annotated[
        bool,
        about("Bleeds when nothing charges", tip="Whether it also bleeds while nothing charges"),
    ] = True


class Mover(Document, frozen=True):
    """What carries charge from group to group."""

    amps: Annotated[float, about("Carries", "A", gt=0, le=100, tip="Current that it moves")] = 1.0
    efficiency: Annotated[
        float, about("Of it arrives", "%", gt=0, le=1, tip="Share of the charge that arrives")
    ] = 0.85
    way: Annotated[
        ActiveWay,
        about(
            "From and to",
            tip="From highest to lowest group, from pack to lowest, or from highest to pack",
        ),
    ] = "high-low"


class LogRow(Document, frozen=True):
    """One reading while charging: seconds since the first, and what was seen."""

    seconds: Annotated[
        float, about("Time", "s", ge=0, le=LONGEST_LOG_S, tip="Since the first reading")
    ]
    volts: Annotated[float, about("Volts", "V", gt=0, le=1000, tip="Of the whole pack")]
    amps: Annotated[float, about("Amps", "A", ge=-1000, le=1000, tip="Into the pack")] | None = None
    warm_c: (
        Annotated[float, about("Warmest", "°C", ge=-40, le=150, tip="Warmest place that was read")]
        | None
    ) = None
    groups: Annotated[
        tuple[GroupVolts, ...],
        about("Groups", max_length=MOST_GROUPS, tip="Volts of each group, from the most negative"),
    ] = ()


class ChargeLog(Document, frozen=True):
    """What was read over one charge; ``start`` is when, as the builder's clock gives it."""

    start: Annotated[str, about("Begun", max_length=40, tip="Day and time")] = ""
    share: (
        Annotated[float, about("Begun at", "%", ge=0, le=1, tip="How full the pack was")] | None
    ) = None
    wall_wh: (
        Annotated[
            float,
            about(
                "Drawn from the mains",
                "Wh",
                gt=0,
                le=1e6,
                tip="Read at an energy meter on the mains",
            ),
        ]
        | None
    ) = None
    rows: Annotated[
        tuple[LogRow, ...], about("Log", max_length=MOST_LOG, tip="Readings, in the order of time")
    ] = ()

    def check(self) -> None:
        """Raise Unfit where fields contradict each other."""
        seconds = [row.seconds for row in self.rows]
        for place, (one, two) in enumerate(pairwise(seconds), 2):
            if two <= one:
                raise Unfit(
                    "rows",
                    phrase(
                        "reading {} is at {} s, the one before it at {} s; accepted: times that "
                        "run forward",
                        place,
                        digits(two, "g"),
                        digits(one, "g"),
                    ),
                )


class Charging(Document, frozen=True):
    """With what the pack is charged, how it is evened out, and how it went.

    ``charger`` names one of ``chargers``, ``given`` the one that the need gives, ``right`` the one
    to buy; ``None`` is the one that the need gives, else the one to buy.
    """

    chargers: Annotated[
        tuple[Charger, ...],
        about("Chargers", max_length=MOST_CHARGERS, tip="Chargers that are there"),
    ] = ()
    charger: (
        Annotated[
            PartId, about("Charged with", tip="Id of the one in use; the right one where not given")
        ]
        | None
    ) = None
    start: Annotated[
        float,
        about(
            "Charged from",
            "%",
            ge=0,
            le=0.99,
            also="state of charge SoC",
            tip="How full the pack is when charging begins",
        ),
    ] = 0.2
    floor_v: (
        Annotated[
            float,
            about(
                "Discharge limit, a cell",
                "V",
                gt=0,
                le=6,
                also="low cut",
                tip="No group is discharged under this; that of the BMS where not given",
            ),
        ]
        | None
    ) = None
    cell_c: (
        Annotated[
            float,
            about(
                "Cells at",
                "°C",
                ge=-40,
                le=70,
                tip="How warm cells are while charging; the air where not given",
            ),
        ]
        | None
    ) = None
    socket_a: (
        Annotated[
            float,
            about(
                "Charge socket carries",
                "A",
                ge=0.01,
                le=1000,
                also="port",
                tip="Of the charge port; no limit where not given",
            ),
        ]
        | None
    ) = None
    tariff: (
        Annotated[
            float,
            about(
                "A kWh costs",
                "money",
                ge=0,
                le=100,
                also="price of electricity",
                tip="Price of a kWh from the mains",
            ),
        ]
        | None
    ) = None
    mains_share: Annotated[
        float,
        about(
            "Of the mains arrives",
            "%",
            gt=0,
            le=1,
            tip="Of the energy from the mains what reaches the pack",
        ),
    ] = 0.88
    groups: Annotated[
        tuple[ChargeGroup, ...],
        about("Groups", max_length=MOST_GROUPS, tip="Groups that differ from the rest"),
    ] = ()
    by: Annotated[
        BalancedBy,
        about(
            "Balanced by",
            tip="The BMS, bleeds of the builder's own, an active balancer, or nothing",
        ),
    ] = "board"
    at: Annotated[BalancedAt, about("Balanced at the", tip="Full (top) or empty (bottom)")] = "top"
    module: Annotated[Module, about("Own bleed", tip="A resistor across each group")] = Module()
    mover: Annotated[
        Mover, about("Active balancer", tip="What carries charge from group to group")
    ] = Mover()
    stays_h: Annotated[
        float,
        about("Stays connected for", "h", ge=0, le=1000, tip="On the charger after it has ended"),
    ] = 0.0
    cycles: Annotated[
        int, about("Cycles", ge=1, le=200, tip="How many charges and runs are simulated")
    ] = 10
    between_days: Annotated[
        float, about("Between two charges", "d", ge=0, le=365, tip="Between two charges")
    ] = 2.0
    log: Annotated[ChargeLog, about("Log of a charge", tip="What was read over one charge")] = (
        ChargeLog()
    )

    def check(self) -> None:
        """Raise Unfit where fields contradict each other."""
        ids = [item.id for item in self.chargers]
        if len(set(ids)) < len(ids):
            raise Unfit("chargers", "one is there twice; accepted: each once")
        for name in ids:
            if name in RESERVED:
                raise Unfit("chargers", phrase("the id “{}” is taken; accepted: another one", name))
        if self.charger is not None and self.charger not in (*ids, *RESERVED):
            raise Unfit(
                "charger",
                phrase(
                    "no charger is called “{}”; accepted: {}",
                    self.charger,
                    listed(ids) or "one that is kept with the project",
                ),
            )
