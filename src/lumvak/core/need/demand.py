"""The need as figures: load, peak, endurance and surroundings; its window is in ``window``."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from lumvak.core.document.need import Kind, Need
from lumvak.core.figures.figure import Figure, Rule, assumed, computed, typed
from lumvak.core.need.duty import (
    HEAT_WINDOW_S,
    duty_mean,
    duty_rms,
    longest_peak_s,
    spell_duty,
)
from lumvak.core.need.rails import RailLoad, rail_loads, rails_energy, rails_power
from lumvak.core.need.window import LEAD_CHARGE_V, VoltageWindow, lead_cells, voltage_window
from lumvak.core.said import digits, phrase

# Key, label, unit, rule and section of docs/methods.md of each figure that is made here.
# fmt: off
NEED = Rule("need.{}", "{}", "A", "{}", "the project")
AMBIENT_C = Rule("need.ambient_c", "Ambient, warmest", "°C", "a mild day; nothing was said",
                 "methods 3")
EFFICIENCY = Rule("need.efficiency", "Efficiency", "%",
                  "85 % from terminals to shaft; nothing was said", "methods 3")
PEAK_DURATION_S = Rule("need.peak_duration_s", "Peak lasts", "s",
                       "longest stretch of the largest step", "methods 3")
NEED_PEAK_DURATION_S = Rule("need.peak_duration_s", "Peak lasts", "s", "10 s; no length was said",
                            "methods 3")
COLDEST_C = Rule("need.coldest_c", "Ambient, coldest", "°C", "as at the warmest; nothing was said",
                 "methods 3")
POWER_W = Rule("demand.power_w", "Power taken from the pack", "W", "continuous power ÷ efficiency",
               "methods 3")
HIGHEST_CURRENT_A = Rule("demand.highest_current_a", "Most current the load can draw", "A",
                         "power taken ÷ 0.8 V a nickel cell, no higher than where a BMS opens",
                         "methods 3")
DEMAND_HIGHEST_CURRENT_A = Rule("demand.highest_current_a", "Most current the load can draw", "A",
                                "power taken ÷ low-voltage cut-off: a power load draws most just "
                                "before it stops", "methods 3")
ENERGY_WH = Rule("demand.energy_wh", "Energy for the distance", "Wh", "distance × consumption",
                 "methods 3")
NEED_CONSUMPTION_WH_PER_KM = Rule("need.consumption_wh_per_km", "Consumption", "Wh/km",
                                  "usual at this rated voltage: 10 under 30 V, 13 under 50 V, 25 "
                                  "under 66 V, 35 above", "methods 3")
PEAK_CURRENT_A = Rule("need.peak_current_a", "Peak current", "A", "{}", "methods 3")
# fmt: on

Array = NDArray[np.float64]
# Amounts in A or W at the terminals, and seconds, (n,) each.
Duty = tuple[Array, Array]
# A cell may be let down to so many volts for each nickel cell that it replaces; methods 3.
LEAST_FOR_NICKEL_V = 0.8
# What a kilometre takes in Wh where nobody said, by the rated voltage; methods 3.
CONSUMPTION_WH_PER_KM = ((30.0, 10.0), (50.0, 13.0), (66.0, 25.0), (1001.0, 35.0))
ESTIMATED = "estimated by the builder, not measured"
DEFAULT_EFFICIENCY = 0.85
DEFAULT_PEAK_S = 10.0
DEFAULT_AMBIENT_C = 25.0


def power_current(emf_v: Array | float, ohm: Array | float, power_w: float) -> Array:
    """Current in A at which a source gives ``power_w``: the smaller root of P = (E - I R) I.

    Parameters: ``emf_v`` and ``ohm`` of the source (same shape). Returns the same shape; NaN where
    the source cannot give that power at any current (methods 3).
    """
    emf = np.asarray(emf_v, dtype=float)
    resistance = np.asarray(ohm, dtype=float)
    root = emf * emf - 4.0 * resistance * power_w
    with np.errstate(invalid="ignore", divide="ignore"):
        # Multiplied out by the conjugate, so that a small resistance loses no digits.
        return np.asarray(
            np.where(root < 0.0, np.nan, 2.0 * power_w / (emf + np.sqrt(np.maximum(root, 0.0))))
        )


class Load(Struct, frozen=True):
    """A continuous load: a current in A, or else a power in W taken at the terminals."""

    current_a: float | None
    power_w: float | None

    def at(self, terminal_v: Array | float) -> Array:
        """Current in A drawn at a terminal voltage in V (any shape)."""
        volts = np.asarray(terminal_v, dtype=float)
        if self.power_w is None:
            return np.full_like(volts, self.current_a or 0.0)
        return np.asarray(self.power_w / volts)

    def behind(self, emf_v: Array | float, ohm: Array | float) -> Array:
        """Current in A drawn from a source of ``emf_v`` behind ``ohm`` (same shape); NaN where
        impossible.
        """
        if self.power_w is None:
            return np.full_like(np.asarray(emf_v, dtype=float), self.current_a or 0.0)
        return power_current(emf_v, ohm, self.power_w)


class Demand(Struct, frozen=True):
    """Everything the need asks of the pack, as figures, and the load to compute with."""

    kind: Kind
    window: VoltageWindow
    load: Load
    load_figure: Figure
    mean_share: float
    duty: tuple[tuple[float, float], ...]
    highest_current: Figure
    peak: Figure
    peak_duration: Figure
    endurance: Figure | None
    ambient: Figure
    coldest: Figure
    charger_voltage: Figure | None
    charger_current: Figure | None
    charger: tuple[Figure, ...]
    rails: tuple[RailLoad, ...]
    energies: tuple[Figure, ...]


def demand_of(need: Need) -> Demand:
    """Turn the need into figures; what is not said is assumed by a stated rule (methods 3)."""
    window = voltage_window(need)
    listed = need.load_basis == "rails" or need.endurance_basis == "appliances"
    rails = rail_loads(need) if listed else ()
    amounts, seconds = duty = duty_arrays(need)
    load, load_figure, highest_current = _load(need, window, rails, duty)
    share = duty_mean(amounts, seconds) / load_figure.number if len(amounts) else 1.0
    peak, duration = _peak(need, highest_current, load_figure, duty)
    mild = DEFAULT_AMBIENT_C if need.coldest_c is None else max(DEFAULT_AMBIENT_C, need.coldest_c)
    ambient = AMBIENT_C.said_or(need.ambient_c, mild)
    coldest = COLDEST_C.said_or(need.coldest_c, ambient.number, ambient)
    charger_v = _charger_voltage(need, window.rated)
    charger_a = (
        None
        if need.charger_current_a is None
        else typed("need.charger_current_a", "Charger current", need.charger_current_a, "A")
    )
    return Demand(
        kind=need.kind,
        window=window,
        load=load,
        load_figure=load_figure,
        mean_share=share,
        duty=tuple(zip(amounts.tolist(), seconds.tolist(), strict=True)),
        highest_current=highest_current,
        peak=peak,
        peak_duration=duration,
        endurance=_endurance(need, rails),
        ambient=ambient,
        coldest=coldest,
        charger_voltage=charger_v,
        charger_current=charger_a,
        charger=tuple(figure for figure in (charger_v, charger_a) if figure is not None),
        rails=rails,
        energies=tuple(load.energy_wh for load in rails),
    )


def stated(need: Need) -> tuple[Figure, ...]:
    """What the builder said that enters no sum but is compared or shown."""
    fields = (
        ("controller_limit_a", "Controller limit", "A"),
        ("old_charger_stop_v", "The old charger stopped at", "V"),
        ("replaced_voltage_v", "Old pack, rated", "V"),
        ("replaced_capacity_ah", "Old pack, capacity", "Ah"),
        ("replaced_mass_kg", "Old pack, mass", "kg"),
        ("replaced_cost", "Old pack, cost", "money"),
    )
    plain = tuple(
        typed(f"need.{name}", label, getattr(need, name), unit)
        for name, label, unit in fields
        if getattr(need, name) is not None
    )
    if need.stall_current_a is None:
        return plain
    return (_given(need, "stall_current_a", "Stall current", need.stall_current_a), *plain)


def _given(need: Need, name: str, label: str, current_a: float) -> Figure:
    """A surge or a stall as the builder gave it: measured, or marked as an estimate."""
    if need.peak_given == "estimated":
        return NEED.assumed(current_a, key=name, label=label, rule=ESTIMATED)
    return typed(f"need.{name}", label, current_a, "A")


def _charger_voltage(need: Need, rated: Figure) -> Figure | None:
    """Where the charger at hand ends; one for lead is known by the count of lead cells."""
    key, label = "need.charger_voltage_v", "Charger voltage"
    if need.charger_voltage_v is not None:
        return typed(key, label, need.charger_voltage_v, "V")
    if need.kind == "supply" and need.lead_charger:
        rule = "2.40 V × lead cells (rated voltage ÷ 2 V), where a lead charger's bulk charge ends"
        return assumed(key, label, LEAD_CHARGE_V * lead_cells(need), "V", rule, "methods 2", rated)
    return None


def duty_arrays(need: Need) -> Duty:
    """Amounts at the terminals, in A or W, and seconds of the duty; empty where there is none."""
    if need.load_basis != "duty":
        return np.zeros(0), np.zeros(0)
    table = np.array([(step.amount, step.seconds) for step in need.duty])
    share = 1.0 if need.duty_unit == "A" else (need.efficiency or DEFAULT_EFFICIENCY)
    return table[:, 0] / share, table[:, 1]


class _LoadGiven(NamedTuple):
    """A load, the figure that says it, and the most current it can draw."""

    load: Load
    figure: Figure
    most: Figure


def _duty_load(need: Need, window: VoltageWindow, duty: Duty) -> _LoadGiven:
    unit = need.duty_unit
    said = typed("need.duty", "Duty", spell_duty(need.duty, unit), "", need.duty)
    inputs = (said,) if unit == "A" else (said, _efficiency(need))
    rms = computed(
        "demand.duty_rms",
        "Duty as heat",
        duty_rms(*duty),
        unit,
        phrase(
            "largest root-mean-square over {} s of the repeated duty", digits(HEAT_WINDOW_S, ".0f")
        ),
        "methods 3",
        *inputs,
    )
    if unit == "A":
        return _LoadGiven(Load(rms.number, None), rms, rms)
    return _LoadGiven(Load(None, rms.number), rms, _most_current(rms, window))


def _load(need: Need, window: VoltageWindow, rails: tuple[RailLoad, ...], duty: Duty) -> _LoadGiven:
    if need.load_basis == "rails":
        taken = rails_power(rails)
        return _LoadGiven(Load(None, taken.number), taken, _most_current(taken, window))
    if need.load_basis == "duty":
        return _duty_load(need, window, duty)
    if need.load_basis == "current":
        current = typed("need.current_a", "Continuous current", need.current_a, "A")
        return _LoadGiven(Load(need.current_a, None), current, current)
    power = typed("need.power_w", "Continuous power", need.power_w, "W")
    efficiency = _efficiency(need)
    taken = POWER_W.of(need.power_w / efficiency.number, power, efficiency)
    return _LoadGiven(Load(None, taken.number), taken, _most_current(taken, window))


def _most_current(taken: Figure, window: VoltageWindow) -> Figure:
    if not window.binds:
        return HIGHEST_CURRENT_A.of(
            taken.number / (LEAST_FOR_NICKEL_V * window.stop.number), taken, window.stop
        )
    return DEMAND_HIGHEST_CURRENT_A.of(taken.number / window.stop.number, taken, window.stop)


def _efficiency(need: Need) -> Figure:
    return EFFICIENCY.said_or(need.efficiency, DEFAULT_EFFICIENCY)


class _PeakGiven(NamedTuple):
    """A peak as a current, and how long it lasts."""

    current: Figure
    lasts: Figure


def _duty_peak(need: Need, most: Figure, load: Figure, duty: Duty) -> _PeakGiven:
    """The largest step of a duty, as a current, and how long it lasts without a break."""
    amounts, seconds = duty
    scale = most.number / load.number
    peak = PEAK_CURRENT_A.of(
        float(amounts.max()) * scale,
        *load.inputs,
        *(() if need.duty_unit == "A" else (most,)),
        rule="largest step of the duty"
        if need.duty_unit == "A"
        else "largest step of the duty ÷ low-voltage cut-off",
    )
    lasts = PEAK_DURATION_S.of(longest_peak_s(amounts, seconds), *load.inputs)
    return _PeakGiven(peak, lasts)


def _peak(need: Need, continuous: Figure, load: Figure, duty: Duty) -> _PeakGiven:
    if need.load_basis == "duty" and need.peak_current_a is None:
        return _duty_peak(need, continuous, load, duty)
    peak = _plain_peak(need, continuous)
    duration = NEED_PEAK_DURATION_S.said_or(need.peak_duration_s, DEFAULT_PEAK_S)
    return _PeakGiven(peak, duration)


def _plain_peak(need: Need, continuous: Figure) -> Figure:
    """The peak as typed, measured or estimated; else the controller's limit, or the load itself."""
    key, label = "need.peak_current_a", "Peak current"
    if need.peak_current_a is not None:
        return _given(need, "peak_current_a", label, need.peak_current_a)
    limit = need.controller_limit_a
    if need.kind == "vehicle" and limit is not None:
        most = typed("need.controller_limit_a", "Controller limit", limit, "A")
        rule = "the controller's limit, or the load where that is more; no peak was said"
        value = max(limit, continuous.number)
        return assumed(key, label, value, "A", rule, "methods 3", most, continuous)
    rule = "the continuous load; no peak was said"
    return assumed(key, label, continuous.number, "A", rule, "methods 3", continuous)


def _endurance(need: Need, rails: tuple[RailLoad, ...]) -> Figure | None:
    if need.endurance_basis == "appliances":
        return rails_energy(rails)
    if need.endurance_basis == "runtime":
        return typed("need.runtime_h", "Run time wanted", need.runtime_h, "h")
    if need.endurance_basis == "capacity":
        return typed("need.capacity_ah", "Capacity wanted", need.capacity_ah, "Ah")
    if need.endurance_basis == "energy":
        return typed("need.energy_wh", "Energy wanted", need.energy_wh, "Wh")
    if need.endurance_basis == "distance":
        return ENERGY_WH.of(
            need.distance_km * (consumption := consumption_of(need)).number,
            typed("need.distance_km", "Distance", need.distance_km, "km"),
            consumption,
        )
    return None


def consumption_of(need: Need) -> Figure:
    """What a kilometre takes in Wh; assumed by the class of the vehicle where nobody said."""
    rated_v = need.rated_voltage_v
    usual = next(wh for most_v, wh in CONSUMPTION_WH_PER_KM if rated_v < most_v)
    return NEED_CONSUMPTION_WH_PER_KM.said_or(
        need.consumption_wh_per_km,
        usual,
        typed("need.rated_voltage_v", "Rated voltage", rated_v, "V"),
    )
