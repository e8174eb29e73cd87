"""Boards: a BMS, or what does a part of its work, as its data sheet gives it."""

from typing import Annotated, Literal

from lumvak.core.record import (
    CellVoltage,
    Delay,
    Document,
    Guessed,
    NotNegative,
    PartId,
    Positive,
    Unfit,
    about,
    check_guessed,
)

Family = Literal["cobalt", "phosphate", "titanate", "sodium"]
BoardKind = Literal["full", "protection", "charger", "balancer"]
Wake = Literal["itself", "load", "charger", "button"]
Telemetry = Literal["none", "wire", "radio"]
# What a board does, and what is lost with one that does not do it all.
KIND_NAMES: dict[BoardKind, str] = {
    "full": "protects and balances",
    "protection": "protects only",
    "charger": "minds the charge only",
    "balancer": "balances only",
}
KIND_LOSSES: dict[BoardKind, str] = {
    "full": "",
    "protection": "groups drift apart, and nothing brings them together again",
    "charger": "nothing ends a discharge, an overload or a short circuit",
    "balancer": "nothing ends a charge, a discharge, an overload or a short circuit",
}
WAKE_WORDS: dict[Wake, str] = {
    "itself": "by itself",
    "load": "once the load is off",
    "charger": "on the charger",
    "button": "by its button",
}


class BoardStage(Document, frozen=True):
    """One over-current stage: the board opens after ``delay_s`` over ``current_a``."""

    current_a: Annotated[Positive, about("Opens over", "A", tip="This discharge current")]
    delay_s: Annotated[Delay, about("After", "s", tip="So long over it")]


class Plug(Document, frozen=True):
    """How a board takes its balance leads.

    ``first`` is where its first lead sits: on the most negative joint, or only on the first
    positive one; ``last`` whether the highest has a lead of its own or is the main one. ``pins``
    are the names as the sheet prints them, from the first; ``sizes`` how many pins each of several
    plugs has; ``unused`` what is done with pins over the count.
    """

    first: Annotated[
        Literal["negative", "positive"],
        about("First lead on", tip="Most negative or most positive"),
    ] = "negative"
    last: Annotated[
        Literal["own", "main"], about("Last lead", tip="Has a pin of its own, or is the main lead")
    ] = "own"
    pins: Annotated[
        tuple[str, ...], about("Pins", max_length=64, tip="Names of its pins, in their order")
    ] = ()
    sizes: Annotated[
        tuple[int, ...],
        about("Plugs", max_length=8, tip="Pins of each plug, where there are several"),
    ] = ()
    unused: Annotated[
        Literal["empty", "bridged", "capped"],
        about("Unused pins", tip="Stay empty, are bridged, or are capped"),
    ] = "capped"
    order: Annotated[
        str, about("Order", max_length=300, tip="In which plugs and leads are joined, in words")
    ] = ""


# Kinds that open the discharge, by an overload, a short circuit or an empty group.
PROTECTS = ("full", "protection")


class Board(Document, frozen=True, kw_only=True):
    """A board for one series count and one family of chemistries.

    Voltages are for one cell. It balances while charging, or ``balance_always``, at most so many
    groups at once; ``switch_v`` is what its switches stand in all. ``off_a`` is what it draws once
    it has cut off; ``cooling_k_per_w`` the rise of its switches for each watt in them.
    """

    id: Annotated[PartId, about("Id", tip="Name in files: small letters, digits, dots, hyphens")]
    name: Annotated[str, about("Name", tip="As it is shown")]
    kind: Annotated[
        BoardKind, about("Kind", tip="Full BMS, protection only, charger only, or balancer only")
    ] = "full"
    family: Annotated[Family, about("Chemistry family", tip="That its limits are made for")]
    series: Annotated[int, about("In series", ge=1, le=40, tip="Groups that it takes")]
    continuous_a: Annotated[
        Positive, about("Continuous current", "A", tip="Discharge current that it passes")
    ]
    stages: Annotated[
        tuple[BoardStage, ...],
        about(
            "Over-current limits", min_length=1, tip="Levels at which it opens, each with its delay"
        ),
    ]
    ports: Annotated[
        Literal[1, 2], about("Ports", tip="1 common, 2 separate for charge and discharge")
    ]
    charge_a: Annotated[Positive, about("Charge current", "A", tip="Most that it lets in")]
    over_voltage_v: Annotated[
        CellVoltage, about("Over-voltage", "V", tip="Cell voltage at which it stops the charge")
    ]
    over_voltage_release_v: (
        Annotated[
            CellVoltage,
            about("Over-voltage release", "V", tip="Cell voltage at which it lets charge again"),
        ]
        | None
    ) = None
    over_voltage_delay_s: Annotated[
        Delay, about("Over-voltage delay", "s", tip="Before it opens")
    ] = 1.0
    under_voltage_v: Annotated[
        CellVoltage, about("Under-voltage", "V", tip="Cell voltage at which it stops the discharge")
    ]
    under_voltage_release_v: (
        Annotated[
            CellVoltage,
            about(
                "Under-voltage release", "V", tip="Cell voltage at which it lets discharge again"
            ),
        ]
        | None
    ) = None
    under_voltage_delay_s: Annotated[
        Delay, about("Under-voltage delay", "s", tip="Before it opens")
    ] = 1.0
    balance_a: Annotated[
        NotNegative,
        about("Balance current", "A", tip="That it bleeds from a group; 0 does not balance"),
    ] = 0.0
    balance_from_v: (
        Annotated[
            CellVoltage,
            about(
                "Balances from", "V", tip="Cell voltage; near the charge voltage where not given"
            ),
        ]
        | None
    ) = None
    balance_always: Annotated[
        bool, about("Balances at rest", tip="Whether it balances while nothing charges")
    ] = False
    balance_most: (
        Annotated[
            int,
            about(
                "Groups at a time", ge=1, le=400, tip="That it bleeds at once; all where not given"
            ),
        ]
        | None
    ) = None
    switch_v: (
        Annotated[Positive, about("Switches stand", "V", tip="Voltage rating of its MOSFETs")]
        | None
    ) = None
    sensors: Annotated[int, about("Temperature sensors", ge=0, le=16, tip="How many it has")] = 0
    plug: Annotated[Plug, about("Balance plug", tip="How it takes its leads")] | None = None
    wakes: Annotated[Wake, about("Wakes by", tip="What ends its sleep after it opened")] = "load"
    telemetry: Annotated[Telemetry, about("Telemetry", tip="None, by wire, or by radio")] = "none"
    adjustable: Annotated[bool, about("Adjustable", tip="Whether its limits can be set")] = False
    resistance_ohm: Annotated[
        Positive, about("Resistance", "Ω", tip="Between its terminals, closed")
    ]
    cooling_k_per_w: (
        Annotated[Positive, about("Rise per watt", "K/W", tip="Of its MOSFETs over the air")] | None
    ) = None
    quiescent_a: Annotated[NotNegative, about("Own draw", "A", tip="Awake")]
    off_a: Annotated[NotNegative, about("Own draw, off", "A", tip="Asleep or opened")] | None = None
    mass_g: Annotated[NotNegative, about("Mass", "g", tip="Of the BMS")]
    price: Annotated[NotNegative, about("Cost", "money", tip="Of one")]
    note: Annotated[str, about("Note", tip="Free text")] = ""
    guessed: Annotated[Guessed, about("Guessed", tip="Names of fields that nobody gave")] = ()
    sample: Annotated[bool, about("Sample data", tip="True for parts that are made up")] = False

    def check(self) -> None:
        """Raise Unfit where fields contradict each other."""
        check_guessed(self)
        check_stages(self.stages, self.continuous_a)
        check_thresholds(
            self.over_voltage_v,
            self.over_voltage_release_v,
            self.under_voltage_v,
            self.under_voltage_release_v,
        )
        if self.kind == "balancer" and self.balance_a == 0.0:
            raise Unfit("", "a balancer must balance: balance_a over 0 A")
        if self.kind == "protection" and self.balance_a > 0.0:
            raise Unfit("", "a BMS that protects only has a balance_a of 0")
        if self.off_a is not None and self.off_a > self.quiescent_a:
            raise Unfit("", "off_a must not exceed quiescent_a")

    @property
    def protects(self) -> bool:
        """Whether it opens the discharge."""
        return self.kind in PROTECTS

    @property
    def ends_a_charge(self) -> bool:
        """Whether it opens the charge at a full group."""
        return self.kind != "balancer"

    @property
    def trips(self) -> tuple[tuple[float, float], ...]:
        """Current in A and delay in s of each of its stages."""
        return tuple((stage.current_a, stage.delay_s) for stage in self.stages)


def check_stages(stages: tuple[BoardStage, ...], continuous_a: float) -> None:
    """Raise Unfit where over-current stages are out of order."""
    currents = [stage.current_a for stage in stages]
    delays = [stage.delay_s for stage in stages]
    if currents != sorted(currents) or delays != sorted(delays, reverse=True):
        raise Unfit("", "levels must rise in current and fall in delay")
    if currents[0] < continuous_a:
        raise Unfit("", "the first level must not be under continuous_a")


def check_thresholds(
    over_v: float, over_release_v: float | None, under_v: float, under_release_v: float | None
) -> None:
    """Raise Unfit where thresholds and releases of one cell are out of order."""
    if not under_v < over_v:
        raise Unfit("", "under_voltage_v must lie below over_voltage_v")
    if over_release_v is not None and not under_v < over_release_v < over_v:
        raise Unfit("", "over_voltage_release_v must lie between the two thresholds")
    if under_release_v is not None and not under_v < under_release_v < over_v:
        raise Unfit("", "under_voltage_release_v must lie between the two thresholds")
