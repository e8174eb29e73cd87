"""What was proven as figures: parameters as measured or still assumed, and what hangs on them."""

from __future__ import annotations

from lumvak.core.figures.figure import Figure, Rule
from lumvak.core.proving.correction import Corrected, Proven
from lumvak.core.proving.proof import PackProof
from lumvak.core.said import Text, phrase, say

# Key, label, unit, rule and section of docs/methods.md of each figure that is made here.
# fmt: off
PROVEN_AH = Rule("proven.capacity", "Charge of the weakest group, as proven", "Ah", "{}",
                 "methods 42 [19]")
PROVEN_CELLS = Rule("proven.resistance", "Resistance of the cells, as proven", "mΩ", "{}",
                    "methods 42 [19]")
PROVEN_JOINTS = Rule("proven.joints", "Series connections together, as proven", "mΩ", "{}",
                     "methods 42 [19]")
PROVEN_PATH = Rule("proven.path", "From the cells to the output, as proven", "mΩ", "{}",
                   "methods 42 [19]")
PROVEN_COOLING = Rule("proven.cooling", "Cells to the air, as proven", "K/W", "{}",
                      "methods 42 [19]")
PROVEN_STRIP = Rule("proven.strip", "Busiest strip over the cells, as proven", "K", "{}",
                    "methods 42 [19]")
PROVEN_LEADS = Rule("proven.leads", "Main leads over the air, as proven", "K", "{}",
                    "methods 42 [19]")
PROVEN_A = Rule("proven.continuous_a", "The path holds continuously, as proven", "A",
                "least of the links, those of strips and leads ÷ √(their rise as proven ÷ as "
                "designed); {}", "methods 42")
PROVEN_H = Rule("proven.run_time_h", "Run time from full and new, as proven", "h",
                "groups run at the continuous current with the parameters as proven; {}",
                "methods 42")
# fmt: on
PARAMETER_RULES = {
    "capacity": PROVEN_AH,
    "resistance": PROVEN_CELLS,
    "joints": PROVEN_JOINTS,
    "path": PROVEN_PATH,
    "cooling": PROVEN_COOLING,
    "strip": PROVEN_STRIP,
    "leads": PROVEN_LEADS,
}
# One whose spread stays over this share of what it was is still assumed.
STILL = 0.98


def _moved(item: Corrected) -> Text:
    return phrase(
        "from {} ± {} of drawn packs, by what was read: ± {} now",
        say(item.before, item.unit),
        say(item.sigma_before, item.unit),
        say(item.sigma_after, item.unit),
    )


def _band(it: Proven, unit: str) -> Text:
    return phrase("nine in ten from {} to {}", say(it.low, unit), say(it.high, unit))


def proof_figures(proof: PackProof) -> tuple[Figure, ...]:
    """The parameters, the rating and the run time as proven."""
    parameters = {
        item.name: PARAMETER_RULES[item.name].of(
            item.after,
            origin="measured" if item.sigma_after < STILL * item.sigma_before else "assumed",
            rule=_moved(item),
        )
        for item in proof.parameters
    }
    rating = PROVEN_A.of(
        proof.continuous.value,
        parameters["strip"],
        parameters["leads"],
        rule=_band(proof.continuous, "A"),
    )
    hours = PROVEN_H.of(
        proof.hours.value,
        parameters["capacity"],
        parameters["resistance"],
        parameters["joints"],
        parameters["path"],
        parameters["cooling"],
        rule=_band(proof.hours, "h"),
    )
    return (rating, hours, *parameters.values())
