"""A portable supply with several rails: what its appliances take from the pack."""

from __future__ import annotations

from msgspec import Struct

from lumvak.core.document.loads import Appliance, Rail, RailKind
from lumvak.core.document.need import Need
from lumvak.core.figures.figure import Figure, Rule, assumed, computed, constant, typed
from lumvak.core.said import phrase

# Key, label, unit, rule and section of docs/methods.md of each figure that is made here.
# fmt: off
COUNTED_WH = Rule("rails.counted_wh", "Usable energy after ageing", "Wh",
                  "usable charge after ageing × nominal voltage", "methods 24")
DRAWS_W = Rule("appliances.{}.draws_w", "{}", "W", "amps × volts of its rail", "methods 3")
GIVEN_W = Rule("rails.{}.given_w", "Rail {} gives", "W", "sum of its appliances, all on at once",
               "methods 3")
TOGETHER_H = Rule("rails.together_h", "Hours with everything on", "h",
                  "usable energy after ageing ÷ power with everything on", "methods 24")
ALONE_H = Rule("rails.appliance.{}.alone_h", "{} alone", "h",
               "usable energy after ageing ÷ (watts ÷ efficiency + idle)", "methods 24")
TAKEN_W = Rule("rails.{}.taken_w", "Rail {} takes", "W", "given ÷ efficiency + idle", "methods 3")
ENERGY_WH = Rule("rails.{}.energy_wh", "Rail {}, a charge", "Wh",
                 "sum of watts × hours ÷ efficiency + idle × the longest hours", "methods 3")
# fmt: on

# Efficiency of what makes a rail, where it was not said; methods 3.
RAIL_EFFICIENCY: dict[RailKind, float] = {"direct": 1.0, "converter": 0.90, "inverter": 0.85}
RAIL_WORDS: dict[RailKind, str] = {
    "direct": "direct",
    "converter": "converter",
    "inverter": "inverter",
}


class RailLoad(Struct, frozen=True):
    """One rail under all its appliances: what it gives, what it takes, and the energy a charge."""

    rail: Rail
    given_w: Figure
    taken_w: Figure
    energy_wh: Figure

    @property
    def current_a(self) -> float:
        """What the appliances draw from the rail, in A at its own voltage."""
        return self.given_w.number / self.rail.volts

    @property
    def overloaded(self) -> bool:
        """Whether the appliances ask for more than the rail gives."""
        return self.rail.limit_w is not None and self.given_w.number > self.rail.limit_w + 1e-9


def appliance_w(item: Appliance, rail: Rail) -> float:
    """What an appliance draws from its rail, in W."""
    return item.amount * (rail.volts if item.unit == "A" else 1.0)


def all_rails(loads: tuple[RailLoad, ...], nominal_v: float) -> tuple[float, float]:
    """What all rails take from the battery together: W, and A at its nominal voltage."""
    taken_w = rails_power(loads).number
    return taken_w, taken_w / nominal_v


def _draws(spot: int, item: Appliance, rail: Rail, place: int) -> Figure:
    """What an appliance draws, as said in watts or worked out from its amps."""
    said = typed(f"need.appliances.{spot}.amount", item.name, item.amount, item.unit)
    if item.unit == "W":
        return said
    volts = typed(f"need.rails.{place}.volts", phrase("{}, volts", rail.name), rail.volts, "V")
    return DRAWS_W.of(appliance_w(item, rail), said, volts, key=spot, label=item.name)


def rail_loads(need: Need) -> tuple[RailLoad, ...]:
    """Every rail of the need with all its appliances on (methods 3)."""
    return tuple(_rail_load(need, place) for place in range(len(need.rails)))


def _rail_load(need: Need, place: int) -> RailLoad:
    rail = need.rails[place]
    fed = [(spot, item) for spot, item in enumerate(need.appliances) if item.rail == rail.name]
    draws = [_draws(spot, item, rail, place) for spot, item in fed]
    hours = [
        typed(
            f"need.appliances.{spot}.hours",
            phrase("{}, hours a charge", item.name),
            item.hours,
            "h",
        )
        for spot, item in fed
    ]
    efficiency = _efficiency(rail, place)
    idle = typed(f"need.rails.{place}.idle_w", phrase("{}, idle", rail.name), rail.idle_w, "W")
    given = GIVEN_W.of(sum(figure.number for figure in draws), *draws, key=place, label=rail.name)
    taken = TAKEN_W.of(
        given.number / efficiency.number + rail.idle_w,
        given,
        efficiency,
        idle,
        key=place,
        label=rail.name,
    )
    out_wh = sum(watts.number * span.number for watts, span in zip(draws, hours, strict=True))
    longest = max((span.number for span in hours), default=0.0)
    energy = ENERGY_WH.of(
        out_wh / efficiency.number + rail.idle_w * longest,
        *draws,
        *hours,
        efficiency,
        idle,
        key=place,
        label=rail.name,
    )
    return RailLoad(rail, given, taken, energy)


def _efficiency(rail: Rail, place: int) -> Figure:
    key, label = f"need.rails.{place}.efficiency", phrase("{}, efficiency", rail.name)
    if rail.efficiency is not None:
        return typed(key, label, rail.efficiency, "%")
    value = RAIL_EFFICIENCY[rail.kind]
    if rail.kind == "direct":
        return constant(
            key, label, value, "%", "nothing between the pack and the rail", "methods 3"
        )
    return assumed(
        key,
        label,
        value,
        "%",
        phrase("usual for an {}", rail.kind)
        if rail.kind == "inverter"
        else phrase("usual for a {}", rail.kind),
        "methods 3",
    )


def rails_power(loads: tuple[RailLoad, ...]) -> Figure:
    """Power taken from the pack with everything on."""
    label, rule = "Power taken from the pack", "sum over the rails, everything on at once"
    return _sum("demand.power_w", label, "W", rule, [load.taken_w for load in loads])


def rails_energy(loads: tuple[RailLoad, ...]) -> Figure:
    """Energy taken from the pack for the hours listed."""
    label, rule = "Energy for the appliances", "sum over the rails of watts × hours"
    return _sum("demand.energy_wh", label, "Wh", rule, [load.energy_wh for load in loads])


def _sum(key: str, label: str, unit: str, rule: str, parts: list[Figure]) -> Figure:
    value = sum(figure.number for figure in parts)
    return computed(key, label, value, unit, rule, "methods 3", *parts)


class ApplianceHours(Struct, frozen=True):
    """How long an appliance runs on a charge: by itself, and with everything on, as figures."""

    name: str
    rail: str
    draws_w: float
    wanted_h: float
    alone: Figure
    together: Figure


def appliance_hours(
    need: Need, loads: tuple[RailLoad, ...], usable_ah: Figure, nominal_v: Figure
) -> tuple[ApplianceHours, ...]:
    """Hours a charge of every appliance (methods 24).

    Alone the other rails are off; together everything is on at once.
    """
    energy = COUNTED_WH.of(usable_ah.number * nominal_v.number, usable_ah, nominal_v)
    all_on = rails_power(loads)
    together = TOGETHER_H.of(
        energy.number / all_on.number if all_on.number else None, energy, all_on
    )
    by_name = {load.rail.name: (place, load) for place, load in enumerate(loads)}
    found = []
    for spot, item in enumerate(need.appliances):
        place, load = by_name[item.rail]
        draws = appliance_w(item, load.rail)
        efficiency = _efficiency(load.rail, place)
        taken = draws / efficiency.number + load.rail.idle_w
        alone = ALONE_H.of(
            energy.number / taken if taken > 0.0 else None,
            energy,
            efficiency,
            key=spot,
            label=item.name,
        )
        found.append(ApplianceHours(item.name, item.rail, draws, item.hours, alone, together))
    return tuple(found)
