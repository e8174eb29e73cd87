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

    ah: Annotated[float, about("Capacity", gt=0, le=1e5)] | None = None
    share: Annotated[float, about("Charge", "%", ge=0, le=1)] | None = None
    volts: Annotated[float, about("OCV", gt=0, le=6)] | None = None
    leak_ma: Annotated[float, about("Loses by itself", "mA", ge=0, le=1e5)] | None = None
    mohm: Annotated[float, about("Resistance", gt=0, le=1e5)] | None = None


class Module(Document, frozen=True):
    """A resistor across a group, switched on over a voltage: the builder's own bleed."""

    ohm: Annotated[float, about("Resistor", "Ω", ge=0.1, le=1e5)] = 22.0
    watt: Annotated[float, about("Rated for", "W", gt=0, le=1000)] = 2.0
    from_v: Annotated[float, about("Bleeds over", "V", gt=0, le=6)] | None = None
    strategy: Annotated[Strategy, about("Bleeds a group that is")] = "threshold"
    always: Annotated[bool, about("Bleeds when nothing charges")] = True


class Mover(Document, frozen=True):
    """What carries charge from group to group."""

    amps: Annotated[float, about("Carries", "A", gt=0, le=100)] = 1.0
    efficiency: Annotated[float, about("Of it arrives", "%", gt=0, le=1)] = 0.85
    way: Annotated[ActiveWay, about("From and to")] = "high-low"


class LogRow(Document, frozen=True):
    """One reading while charging: seconds since the first, and what was seen."""

    seconds: Annotated[float, about("Time", "s", ge=0, le=LONGEST_LOG_S)]
    volts: Annotated[float, about("Volts", "V", gt=0, le=1000)]
    amps: Annotated[float, about("Amps", "A", ge=-1000, le=1000)] | None = None
    warm_c: Annotated[float, about("Warmest", "°C", ge=-40, le=150)] | None = None
    groups: Annotated[tuple[GroupVolts, ...], about("Groups", max_length=MOST_GROUPS)] = ()


class ChargeLog(Document, frozen=True):
    """What was read over one charge; ``start`` is when, as the builder's clock gives it."""

    start: Annotated[str, about("Begun", max_length=40)] = ""
    share: Annotated[float, about("Begun at", "%", ge=0, le=1)] | None = None
    wall_wh: Annotated[float, about("Drawn from the mains", "Wh", gt=0, le=1e6)] | None = None
    rows: Annotated[tuple[LogRow, ...], about("Log", max_length=MOST_LOG)] = ()

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

    chargers: Annotated[tuple[Charger, ...], about("Chargers", max_length=MOST_CHARGERS)] = ()
    charger: Annotated[PartId, about("Charged with")] | None = None
    start: Annotated[
        float, about("Charged from", "%", ge=0, le=0.99, also="state of charge SoC")
    ] = 0.2
    floor_v: (
        Annotated[float, about("Discharge limit, a cell", "V", gt=0, le=6, also="low cut")] | None
    ) = None
    cell_c: Annotated[float, about("Cells at", "°C", ge=-40, le=70)] | None = None
    socket_a: (
        Annotated[float, about("Charge socket carries", "A", ge=0.01, le=1000, also="port")] | None
    ) = None
    tariff: (
        Annotated[float, about("A kWh costs", "money", ge=0, le=100, also="price of electricity")]
        | None
    ) = None
    mains_share: Annotated[float, about("Of the mains arrives", "%", gt=0, le=1)] = 0.88
    groups: Annotated[tuple[ChargeGroup, ...], about("Groups", max_length=MOST_GROUPS)] = ()
    by: Annotated[BalancedBy, about("Balanced by")] = "board"
    at: Annotated[BalancedAt, about("Balanced at the")] = "top"
    module: Module = Module()
    mover: Mover = Mover()
    stays_h: Annotated[float, about("Stays connected for", "h", ge=0, le=1000)] = 0.0
    cycles: Annotated[int, about("Cycles", ge=1, le=200)] = 10
    between_days: Annotated[float, about("Between two charges", "d", ge=0, le=365)] = 2.0
    log: ChargeLog = ChargeLog()

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
