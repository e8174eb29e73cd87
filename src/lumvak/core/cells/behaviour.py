"""How a cell behaves under current: rest voltage, resistance, lag and warmth (methods 4).

The terminal voltage is U(z) - I R(z, T, t): z is the charge at the surface of the electrodes, which
lags the mean charge under current, and R has a fast part and a slow one.
"""

from __future__ import annotations

from functools import lru_cache

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from lumvak.core.catalogue.cells import Cell, Chemistry
from lumvak.core.catalogue.sheet_curves import ROOM_C, SheetPulse
from lumvak.core.cells.cell_model import (
    CHARGE_POINTS,
    FAST_SHARE,
    LAG_EXPONENT,
    LAG_SETTLES,
    REACH_EXPONENT,
    SLOW_SHARE,
    TIME_CONSTANT_S,
    TRAITS,
    family_shape,
    reached,
    resistance,
    warm_factor,
)
from lumvak.core.cells.sheet_fit import SheetFit, fitted

Array = NDArray[np.float64]
# No less of the resistance than this is there from the first instant on.
LEAST_FAST_SHARE = 0.2
# A pulse stands for a charge, and one for room temperature, within so much of it.
SAME_CHARGE, SAME_K = 0.02, 3.0


class Behaviour(Struct, frozen=True, eq=False):
    """A cell under current, as curves and constants; known by itself, not by its values.

    ``rest_v`` is straight between ``rest_charge``, ``shape`` (resistance over that at half charge)
    between ``shape_charge``. ``fast_ohm`` and ``slow_ohm`` are at half charge and 25 degC. Factors
    against temperature are those of methods 4 to the powers given. ``reach_h`` is over how many
    hours a full discharge must last for the whole electrode to take part, 0 where all of it does.
    ``capacity_scale`` is the charge between full and empty at rest over the typical capacity.
    """

    rest_charge: Array
    rest_v: Array
    shape_charge: Array
    shape: Array
    fast_ohm: float
    slow_ohm: float
    lag_s: float
    ohm_exponent: float
    lag_exponent: float
    reach_h: float
    reach_exponent: float
    capacity_scale: float
    entropy_v_per_k: float
    fit: SheetFit | None

    @property
    def steady_ohm(self) -> float:
        """Resistance in ohm of steady current at half charge and 25 degC, without the lag."""
        return self.fast_ohm + self.slow_ohm

    @property
    def lag_settles_s(self) -> float:
        """Time constant in s with which the lag settles."""
        return LAG_SETTLES * self.lag_s

    def rest(self, surface: Array) -> Array:
        """Rest voltage in V at a charge of the surface (any shape), held outside 0 to 1."""
        return np.interp(surface, self.rest_charge, self.rest_v)

    def charge_at(self, volts: Array) -> Array:
        """Charge at which a cell rests at ``volts`` (any shape), held between empty and full."""
        return np.interp(volts, self.rest_v, self.rest_charge)

    def charge_factor(self, surface: Array) -> Array:
        """Resistance at a charge of the surface (any shape) over that at half charge."""
        return np.interp(surface, self.shape_charge, self.shape)

    def ohm_factor(self, celsius: Array) -> Array:
        """Resistance (any shape) at a cell temperature in degC over that at 25 degC."""
        return warm_factor(celsius, self.ohm_exponent)

    def lag_factor(self, celsius: Array) -> Array:
        """Lag (any shape) at a cell temperature in degC over that at 25 degC."""
        return warm_factor(celsius, self.lag_exponent)

    def reach_factor(self, celsius: Array) -> Array:
        """Rate that reaches the whole electrode (any shape) at 25 degC over that in degC."""
        return warm_factor(celsius, self.reach_exponent)

    def time_factor(self, seconds: float) -> float:
        """Resistance after ``seconds`` of current over that of steady current."""
        settled = 1.0 - float(np.exp(-seconds / TIME_CONSTANT_S))
        return (self.fast_ohm + self.slow_ohm * settled) / self.steady_ohm

    @property
    def ten_second_ohm(self) -> float:
        """DC resistance in ohm after 10 s at half charge and 25 degC, as sheets give it."""
        return self.steady_ohm * self.time_factor(10.0)

    def lag_begun(self, seconds: float) -> float:
        """Share of the lag that has come about after ``seconds`` of current."""
        return -float(np.expm1(-seconds / self.lag_settles_s))

    def reached(self, rate_per_s: Array, reach_factor: Array) -> Array:
        """Share of the electrode (any shape) that takes part, at a current over the full charge."""
        return reached(3600.0 * self.reach_h * rate_per_s * reach_factor)


@lru_cache(maxsize=1024)
def behaviour_of(cell: Cell, chemistry: Chemistry) -> Behaviour:
    """How a cell behaves: by its sheet's curves, else by its sheet's pulses, else by its chemistry.

    What the sheet does not say is that of the chemistry's family (methods 4). A fit takes a tenth
    of a second, so that it is kept.
    """
    traits = TRAITS[chemistry.family]
    ten_second_ohm = resistance(cell).number
    shape = _shape(cell, chemistry)
    fit = None
    if cell.curves:
        fit = fitted(
            cell.curves,
            cell.capacity_typical_ah,
            cell.voltage_empty_v,
            ten_second_ohm,
            shape,
            traits.lag_s,
        )
    if fit is None:
        charge, volts = from_empty(chemistry.curve, cell.voltage_empty_v)
        return Behaviour(
            rest_charge=charge,
            rest_v=volts,
            shape_charge=shape[0],
            shape=shape[1],
            fast_ohm=FAST_SHARE * ten_second_ohm,
            slow_ohm=SLOW_SHARE * ten_second_ohm,
            lag_s=traits.lag_s,
            ohm_exponent=_pulse_exponent(cell, ten_second_ohm),
            lag_exponent=LAG_EXPONENT,
            reach_h=0.0,
            reach_exponent=REACH_EXPONENT,
            capacity_scale=1.0,
            entropy_v_per_k=traits.entropy_v_per_k,
            fit=None,
        )
    fast, slow = _split(cell, fit, ten_second_ohm)
    cold_curves = any(not curve.at_room for curve in cell.curves)
    return Behaviour(
        rest_charge=fit.charge,
        rest_v=fit.rest_v,
        shape_charge=fit.ohm_charge,
        shape=fit.ohm / fit.ohm_at(0.5),
        fast_ohm=fast,
        slow_ohm=slow,
        lag_s=fit.lag_s,
        ohm_exponent=fit.ohm_exponent if cold_curves else _pulse_exponent(cell, ten_second_ohm),
        lag_exponent=fit.lag_exponent,
        reach_h=fit.reach_h,
        reach_exponent=fit.reach_exponent,
        capacity_scale=fit.full_ah / cell.capacity_typical_ah,
        entropy_v_per_k=traits.entropy_v_per_k,
        fit=fit,
    )


def _ten_second(pulse: SheetPulse) -> float:
    """What a pulse would be after 10 s in ohm, as a measured cell has it (methods 4)."""

    def share(seconds: float) -> float:
        return FAST_SHARE + SLOW_SHARE * (1.0 - float(np.exp(-seconds / TIME_CONSTANT_S)))

    return pulse.ohm * share(10.0) / share(pulse.seconds)


def _shape(cell: Cell, chemistry: Chemistry) -> tuple[Array, Array]:
    """Charges and resistance over that at half charge: by pulses of the sheet, else its family's.

    Pulses at room temperature at three charges or more make a shape of their own; half charge must
    lie between them.
    """
    pulses = sorted(
        (pulse.charge, _ten_second(pulse))
        for pulse in cell.pulses
        if abs(pulse.temperature_c - ROOM_C) <= SAME_K
    )
    charge = sorted({at for at, _ in pulses})
    if len(charge) < 3 or not charge[0] <= 0.5 <= charge[-1]:
        return np.array(CHARGE_POINTS), family_shape(chemistry.family)
    ohm = np.array([np.mean([ohm for at, ohm in pulses if at == one]) for one in charge])
    return np.array(charge), ohm / float(np.interp(0.5, charge, ohm))


def _pulse_exponent(cell: Cell, ten_second_ohm: float) -> float:
    """How strongly the resistance follows temperature, by pulses of the sheet at half charge."""
    found = [
        float(
            np.log(_ten_second(pulse) / ten_second_ohm)
            / np.log(warm_factor(np.array(pulse.temperature_c), 1.0))
        )
        for pulse in cell.pulses
        if abs(pulse.charge - 0.5) <= SAME_CHARGE and abs(pulse.temperature_c - ROOM_C) > SAME_K
    ]
    return float(np.clip(np.mean(found), 0.2, 3.0)) if found else 1.0


def from_empty(curve: tuple[tuple[float, float], ...], empty_v: float) -> tuple[Array, Array]:
    """Charge and volts (k,) of a rest curve, scaled so that a cell is empty at ``empty_v``.

    A curve that begins higher is left as it is: what lies under it is next to nothing.
    """
    charge, volts = np.array(curve, dtype=float).T
    if not volts[0] < empty_v < volts[-1]:
        return charge, volts
    begins = float(np.interp(empty_v, volts, charge))
    above = volts > empty_v
    charge = np.append(0.0, (charge[above] - begins) / (1.0 - begins))
    return charge, np.append(empty_v, volts[above])


def _split(cell: Cell, fit: SheetFit, ten_second_ohm: float) -> tuple[float, float]:
    """Fast and slow part in ohm of the fitted resistance, so that 10 s come out as the sheet says.

    Without a DC resistance of the sheet the parts are those of a measured cell (methods 4).
    """
    steady = fit.ohm_at(0.5)
    share = SLOW_SHARE / (FAST_SHARE + SLOW_SHARE)
    if cell.resistance_dc_ohm is not None and fit.resistance_fitted:
        # The lag begins within the pulse too, on the slope that the rest voltage has there.
        slope = float(np.diff(np.interp((0.45, 0.55), fit.charge, fit.rest_v))[0]) / 0.1
        begun = fit.lag_s * -float(np.expm1(-10.0 / (LAG_SETTLES * fit.lag_s)))
        lagging = begun / (3600.0 * fit.full_ah) * slope
        still = float(np.exp(-10.0 / TIME_CONSTANT_S))
        share = (1.0 - (ten_second_ohm - lagging) / steady) / still
    share = float(np.clip(share, 0.0, 1.0 - LEAST_FAST_SHARE))
    return (1.0 - share) * steady, share * steady
