"""Resistor modules: ohms of the standard series, amps, watts, warmth, and hours to even out."""

from __future__ import annotations

from msgspec import Struct

from lumvak.core.said import Text, digits, phrase, say
from lumvak.core.spelling import Refused

# E12: the preferred values of a decade, IEC 60063 [11].
E12 = (1.0, 1.2, 1.5, 1.8, 2.2, 2.7, 3.3, 3.9, 4.7, 5.6, 6.8, 8.2)
RATINGS_W = (0.25, 0.5, 1.0, 2.0, 3.0, 5.0, 7.0, 10.0, 25.0, 50.0)
# In a closed box a resistor is rated for at least so many times its watts.
SPARE = 2.0
# A resistor at its rating runs so much over the air around it, in K.
RISE_AT_RATING_K = 150.0
NEIGHBOURS = 2


class ResistorChoice(Struct, frozen=True):
    """A resistor across a group: at the volts of its threshold, in A and W.

    ``rating_w`` is the least rating of the usual ones with twice the watts, ``rise_k`` over the
    air in the box with it; ``hours`` are those for the charge to be taken out, ``all_w`` is the
    heat of all groups at once.
    """

    ohm: float
    amps: float
    watts: float
    rating_w: float
    rise_k: float
    hours: float
    all_w: float

    @property
    def burns(self) -> Text:
        """Why it must not be used: more watts than it is rated for; empty where it may."""
        if self.watts <= self.rating_w:
            return ""
        return phrase(
            "a resistor of {} takes {} and is rated for {}: it burns",
            say(self.ohm, "Ω"),
            say(self.watts, "W"),
            say(self.rating_w, "W"),
        )


def resistor(
    ohm: float, volts: float, excess_ah: float, series: int, rated_w: float | None = None
) -> ResistorChoice:
    """What a resistor across a group at ``volts`` does (methods 36); raises Refused at 0 ohm.

    ``rated_w`` is its rating, the least that will do where nobody says.
    """
    if ohm <= 0.0:
        raise Refused(
            phrase("a resistor of {} Ω is a short circuit; accepted: over 0 Ω", digits(ohm, "g"))
        )
    amps, watts = volts / ohm, volts * volts / ohm
    rating = next((item for item in RATINGS_W if item >= SPARE * watts), RATINGS_W[-1])
    if rated_w is not None:
        rating = rated_w
    return ResistorChoice(
        ohm,
        amps,
        watts=watts,
        rating_w=rating,
        rise_k=RISE_AT_RATING_K * watts / rating,
        hours=excess_ah / amps,
        all_w=series * watts,
    )


def series_values(ohm: float) -> tuple[float, ...]:
    """The nearest values of the series about ``ohm``, from low to high."""
    values = sorted(step * 10.0**decade for decade in range(-1, 4) for step in E12)
    place = min(range(len(values)), key=lambda at: abs(values[at] / ohm - 1.0))
    low = min(max(0, place - NEIGHBOURS), len(values) - 2 * NEIGHBOURS - 1)
    return tuple(round(item, 4) for item in values[low : low + 2 * NEIGHBOURS + 1])


def ohm_for(hours: float, volts: float, excess_ah: float) -> float:
    """The largest resistor in ohm that takes ``excess_ah`` out within ``hours`` at ``volts``."""
    return volts * hours / excess_ah
