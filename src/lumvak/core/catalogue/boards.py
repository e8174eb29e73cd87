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

    current_a: Positive
    delay_s: Delay


class Plug(Document, frozen=True):
    """How a board takes its balance leads.

    ``first`` is where its first lead sits: on the most negative joint, or only on the first
    positive one; ``last`` whether the highest has a lead of its own or is the main one. ``pins``
    are the names as the sheet prints them, from the first; ``sizes`` how many pins each of several
    plugs has; ``unused`` what is done with pins over the count.
    """

    first: Literal["negative", "positive"] = "negative"
    last: Literal["own", "main"] = "own"
    pins: Annotated[tuple[str, ...], about(max_length=64)] = ()
    sizes: Annotated[tuple[int, ...], about(max_length=8)] = ()
    unused: Literal["empty", "bridged", "capped"] = "capped"
    order: Annotated[str, about(max_length=300)] = ""


# Kinds that open the discharge, by an overload, a short circuit or an empty group.
PROTECTS = ("full", "protection")


class Board(Document, frozen=True, kw_only=True):
    """A board for one series count and one family of chemistries.

    Voltages are for one cell. It balances while charging, or ``balance_always``, at most so many
    groups at once; ``switch_v`` is what its switches stand in all. ``off_a`` is what it draws once
    it has cut off; ``cooling_k_per_w`` the rise of its switches for each watt in them.
    """

    id: PartId
    name: str
    kind: BoardKind = "full"
    family: Family
    series: Annotated[int, about(ge=1, le=40)]
    continuous_a: Positive
    stages: Annotated[tuple[BoardStage, ...], about(min_length=1)]
    ports: Literal[1, 2]
    charge_a: Positive
    over_voltage_v: CellVoltage
    over_voltage_release_v: CellVoltage | None = None
    over_voltage_delay_s: Delay = 1.0
    under_voltage_v: CellVoltage
    under_voltage_release_v: CellVoltage | None = None
    under_voltage_delay_s: Delay = 1.0
    balance_a: NotNegative = 0.0
    balance_from_v: CellVoltage | None = None
    balance_always: bool = False
    balance_most: Annotated[int, about(ge=1, le=400)] | None = None
    switch_v: Positive | None = None
    sensors: Annotated[int, about(ge=0, le=16)] = 0
    plug: Plug | None = None
    wakes: Wake = "load"
    telemetry: Telemetry = "none"
    adjustable: bool = False
    resistance_ohm: Positive
    cooling_k_per_w: Positive | None = None
    quiescent_a: NotNegative
    off_a: NotNegative | None = None
    mass_g: NotNegative
    price: NotNegative
    note: str = ""
    guessed: Guessed = ()
    sample: bool = False

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
