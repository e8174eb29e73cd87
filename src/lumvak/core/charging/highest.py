"""The highest volts that a charger can show, and why: a verdict goes by them (methods 33)."""

from __future__ import annotations

from typing import Literal

from msgspec import Struct

from lumvak.core.catalogue.chargers import Charger
from lumvak.core.charging.charger import TOLERANCE, ChargeSetting
from lumvak.core.said import Text, listed, phrase, say

Why = Literal["set", "open", "equalise", "cold"]
# An equalise stage of a charger for lead over its absorption, as a share.
EQUALISE_OVER = 15.5 / 14.4
# One that follows the temperature raises its volts by 4 mV a K for each lead cell of 2.4 V.
WARM_C, COLD_PER_K = 25.0, 0.004 / 2.4
# Where nobody says whether it does, it is counted from here down.
COLD_C = 10.0


class Highest(Struct, frozen=True):
    """The most volts of a charger, and which of its stages shows them.

    ``known`` is whether it is said to be so, and not only not said to be otherwise; ``equalised``
    whether it is an equalise stage that the cold raises.
    """

    volts: float
    why: Why
    known: bool
    equalised: bool = False

    def shows(self, what: Text) -> Text:
        """Where the volts come from, with ``what`` they are named at its end."""
        if self.why == "open":
            return phrase("with nothing connected it shows {}", what)
        if self.why == "equalise" and self.known:
            return phrase("its equalise stage goes to some {}", what)
        if self.why == "equalise":
            return phrase("its equalise stage may go to some {}", what)
        if self.why == "cold":
            stage = "its equalise stage" if self.equalised else "its volts"
            raises = "in the cold it raises {} to some {}"
            return phrase(
                raises if self.known else "in the cold it may raise {} to some {}", stage, what
            )
        return what

    @property
    def mend(self) -> str:
        """What would take it away; empty where nothing but another charger does."""
        return {
            "set": "",
            "open": "",
            "equalise": "Turn its equalise stage off permanently, and any pulses; measure that "
            "it is.",
            "cold": "Turn its compensation and any equalise stage off, or charge in the warm.",
        }[self.why]


def highest_of(charger: Charger, celsius: float) -> Highest:
    """The highest of set volts, open volts, equalise stage and compensation at ``celsius``.

    A stage counts unless it is known to be off. One for nickel holds no volts: what it shows open
    is looked at beside.
    """
    found = [Highest(charger.volts, "set", True)]
    if charger.kind != "nickel" and charger.open_v is not None:
        found.append(Highest(charger.open_v, "open", True))
    if charger.kind == "lead":
        if charger.equalise != "off":
            known = charger.equalise == "on"
            found.append(Highest(charger.volts * EQUALISE_OVER, "equalise", known))
        cold = WARM_C if charger.compensates == "on" else COLD_C
        if charger.compensates != "off" and celsius < cold:
            base = max(found, key=lambda item: item.volts)
            raised = base.volts * (1.0 + COLD_PER_K * (WARM_C - celsius))
            known = charger.compensates == "on" and base.known
            found.append(Highest(raised, "cold", known, base.why == "equalise"))
    return max(found, key=lambda item: item.volts)


def unknown_stages(charger: Charger) -> Text:
    """What of a charger for lead is not known to be off, in a sentence; empty where nothing is."""
    if charger.kind != "lead":
        return ""
    parts = list[Text]()
    if charger.equalise == "unknown":
        most = say(charger.volts * EQUALISE_OVER, "V")
        parts.append(phrase("an equalise stage of some {} or pulses against sulphate", most))
    if charger.compensates == "unknown":
        parts.append("volts that rise in the cold")
    if not parts:
        return ""
    return phrase(
        "It may have {}: see that they are off. Check its numbers with a meter, not its name.",
        listed(parts, ", and "),
    )


def board_fails(charger: Charger, setting: ChargeSetting, highest: Highest) -> Text:
    """What becomes of the cells at the most volts, where no board cuts off."""
    cell, series = setting.cell, setting.series
    begins = "If the BMS fails" if setting.cuts_off else "As no BMS cuts off"
    if charger.kind == "nickel":
        return phrase("{}, charging never ends: the cells vent and burn.", begins)
    each = highest.volts / series
    if each <= cell.voltage_full_v * (1.0 + TOLERANCE):
        return phrase(
            "{}, the charger still ends at {} a cell on average; a group that is out of "
            "balance can go over it.",
            begins,
            say(each, "V"),
        )
    if each <= setting.limit_v:
        return phrase(
            "{}, the cells go to {}, over full: they age, and may vent.", begins, say(each, "V")
        )
    return phrase("{}, the cells go to {}: they vent and burn.", begins, say(each, "V"))
