"""The builder's own resistor, and balancing at the bottom, as figures."""

from __future__ import annotations

from collections.abc import Iterator

from lumvak.core.balancing.by_hand import BottomPlan
from lumvak.core.balancing.means import bled_over_v
from lumvak.core.balancing.resistor import SPARE, ohm_for
from lumvak.core.document.charging import Module
from lumvak.core.figures.figure import Figure, Rule, typed

# Key, label, unit, rule and section of docs/methods.md of each figure that is made here.
# fmt: off
BLED_V = Rule("charging.module.from_v", "The resistor bleeds over", "V",
              "0.03 V under the charge limit of a cell", "methods 36")
RESISTOR_A = Rule("charging.resistor_a", "The resistor carries", "A", "V ÷ R", "methods 36")
RESISTOR_W = Rule("charging.resistor_w", "The resistor gives off", "W", "V² ÷ R", "methods 36")
RATING_W = Rule("charging.resistor_rating_w", "Rated in a closed box for at least", "W",
                "twice what it gives off", "methods 36")
MOST_OHM = Rule("charging.most_ohm", "Balanced within 3 h by at most", "ohm",
                "V × 3 h ÷ what the fullest must lose", "methods 36")
MIDDLE_V = Rule("charging.bottom_volts_v", "A group on the way to empty", "V",
                "OCV at half of what the groups hold", "methods 36")
LOAD_A = Rule("charging.bottom_a", "The resistor draws from a group", "A", "V ÷ R", "methods 36")
LONGEST_H = Rule("charging.bottom_h", "The fullest group is empty after", "h",
                 "its charge ÷ what the resistor draws", "methods 36")
STOP_V = Rule("charging.bottom_stop_v", "The charge stops with the smallest group at", "V",
              "charge voltage ÷ groups in series", "methods 36")
PACK_V = Rule("charging.bottom_pack_v", "The pack is then at", "V",
              "OCV of all groups at the charge that the smallest holds", "methods 36")
# fmt: on

# Within this many hours a pack should be even after a charge, where one asks for a resistor.
WANTED_H = 3.0


def resistor_figures(module: Module, ceiling_v: float, excess: Figure) -> Iterator[Figure]:
    """What the builder's resistor does across a group (methods 36).

    ``excess`` is the most in Ah that it has to take out of a group; where there is none nobody
    asks how soon.
    """
    volts = BLED_V.said_or(module.from_v, bled_over_v(module, ceiling_v))
    ohm = _ohm(module)
    yield RESISTOR_A.of(volts.number / ohm.number, volts, ohm)
    watts = RESISTOR_W.of(volts.number**2 / ohm.number, volts, ohm)
    yield watts
    yield RATING_W.of(SPARE * watts.number, watts)
    if excess.number > 0.0:
        yield MOST_OHM.of(ohm_for(WANTED_H, volts.number, excess.number), volts, excess)


def bottom_figures(
    plan: BottomPlan, module: Module, full: Figure, groups_from: Figure
) -> Iterator[Figure]:
    """Balancing at the bottom with the builder's resistor as the load (methods 36).

    ``full`` is the charge voltage of the pack, ``groups_from`` what is known of the groups'
    capacity.
    """
    volts = MIDDLE_V.of(plan.load_a * plan.load_ohm, groups_from)
    ohm = _ohm(module)
    amps = LOAD_A.of(plan.load_a, volts, ohm)
    yield amps
    yield LONGEST_H.of(plan.longest_h, groups_from, amps)
    stop = STOP_V.of(plan.stop_v, full)
    yield stop
    yield PACK_V.of(plan.pack_v, stop, groups_from)


def _ohm(module: Module) -> Figure:
    return typed("charging.module.ohm", "Resistor", module.ohm, "ohm")
