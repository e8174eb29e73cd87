"""An old tool given a new pack: the work as one thread, and the old pack beside the new one."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Literal

from msgspec import Struct

from lumvak.core.evaluation import Evaluation
from lumvak.core.figures.figure import Figure, Rule
from lumvak.core.figures.finding import Finding
from lumvak.core.said import Text, phrase, say

# Key, label, unit, rule and section of docs/methods.md of each figure that is made here.
# fmt: off
OLD_V = Rule("old.nominal_v", "Old pack, rated", "V", "1.2 V × nickel cells", "methods 2")
OLD_WH = Rule("old.energy_wh", "Old pack, energy", "Wh", "rated volts × capacity", "methods 46")
OLD_H = Rule("old.runtime_h", "Old pack, run time", "h", "capacity ÷ current of the tool",
             "methods 46")
RATIO = Rule("old.{}_ratio", "{}, new over old", "", "new ÷ old", "methods 46")
# fmt: on
# A nickel cell of the usual size of tools, in mm: what ribs and cups of its housing are made for.
SUB_C_MM, SUB_C_HIGH_MM = 22.5, 43.0
Standing = Literal["done", "to do", "stop"]


class ThreadStep(Struct, frozen=True):
    """A step of the conversion: its stage, what is asked, how it stands and the answer."""

    stage: str
    what: str
    standing: Standing
    answer: Text


class OldAndNewPack(Struct, frozen=True):
    """A row of the comparison; ``old`` and ``new`` are ``None`` where nobody knows."""

    what: str
    unit: str
    old: Figure | None
    new: Figure | None

    @property
    def ratio(self) -> Figure | None:
        """The new over the old, as a figure; ``None`` where one of both is not known."""
        if self.old is None or self.new is None or not self.old.number:
            return None
        value = self.new.number / self.old.number
        key = self.new.key.replace(".", "_")
        return RATIO.of(value, self.new, self.old, key=key, label=self.what)


def is_conversion(evaluation: Evaluation) -> bool:
    """Whether the project gives an old tool a new pack."""
    need = evaluation.project.need
    return need.kind == "tool" and need.nickel_cells is not None


def rows_of(evaluation: Evaluation) -> tuple[OldAndNewPack, ...]:
    """The old pack beside the new one (methods 46)."""
    figures = evaluation.figures
    known = figures.get
    cells, current = known("need.nickel_cells"), known("demand.mean_current_a")
    capacity = known("need.replaced_capacity_ah")
    rated = known("need.replaced_voltage_v")
    if rated is None and cells is not None and cells.value is not None:
        rated = OLD_V.of(1.2 * cells.number, cells)
    energy = hours = None
    if capacity is not None and rated is not None:
        energy = OLD_WH.of(rated.number * capacity.number, rated, capacity)
    if capacity is not None and current is not None and current.number > 0.0:
        hours = OLD_H.of(capacity.number / current.number, capacity, current)
    return (
        OldAndNewPack("rated volts", "V", rated, known("pack.voltage_nominal_v")),
        OldAndNewPack(
            "volts when full", "V", known("need.max_voltage_v"), known("pack.voltage_full_v")
        ),
        OldAndNewPack("capacity", "Ah", capacity, known("pack.capacity_ah")),
        OldAndNewPack("energy", "Wh", energy, known("pack.energy_wh")),
        OldAndNewPack("run time", "h", hours, known("run.time_h")),
        OldAndNewPack("mass", "kg", known("need.replaced_mass_kg"), known("pack.mass_kg")),
        OldAndNewPack("cost", "money", known("need.replaced_cost"), known("pack.cost")),
    )


def thread_of(evaluation: Evaluation) -> tuple[ThreadStep, ...]:
    """The steps in the order of the work, each with how it stands now."""
    return tuple(_steps(evaluation))


def _worst(evaluation: Evaluation, stage: str, codes: tuple[str, ...] = ()) -> Finding | None:
    """What stops a stage: the first stop of it, or of these codes the first of any weight."""
    for item in evaluation.findings:
        if item.stage == stage and (item.severity == "stop" or item.code in codes):
            return item
    return None


def _stands(stop: Finding | None, done: bool) -> Standing:
    return "stop" if stop is not None else "done" if done else "to do"


def _steps(evaluation: Evaluation) -> Iterator[ThreadStep]:
    """It is long, for it is one step after the other."""
    need, choice = evaluation.project.need, evaluation.sized.choice
    figures = evaluation.figures
    count = need.nickel_cells
    yield ThreadStep(
        "need",
        "count its nickel cells",
        _stands(_worst(evaluation, "need", ("nickel-count",)), count is not None),
        "not counted" if count is None else phrase("{} of 1.2 V", count),
    )
    stop = _worst(evaluation, "cells")
    full, stood = figures["pack.voltage_full_v"], figures["need.max_voltage_v"]
    yield ThreadStep(
        "cells",
        "volts when full",
        _stands(stop, True),
        phrase(
            "{} {}: {}, where the tool stood {} before",
            *(choice.count, choice.cell.name),
            say(full.number, "V", full.key),
            say(stood.number, "V", stood.key),
        ),
    )
    room = evaluation.project.arrangement.room
    fits = _worst(evaluation, "arrangement", ("does-not-fit",))
    answer: Text = "say how much room its housing has"
    if room.kind != "none":
        answer = fits.text if fits is not None else "the pack fits in it"
    yield ThreadStep(
        "arrangement", "room in the housing", _stands(fits, room.kind != "none"), answer
    )
    built = evaluation.project.record.built is not None
    yield ThreadStep(
        "arrangement",
        "plastic that goes",
        "done" if built else "to do",
        plastic_said(evaluation),
    )
    yield ThreadStep(
        "need",
        "contacts",
        "to do" if need.contacts is None else "done",
        contacts_said(need.contacts),
    )
    stop = _worst(evaluation, "power")
    yield ThreadStep(
        "power",
        "BMS, fuse and leads",
        _stands(stop, True),
        "nothing stops them" if stop is None else stop.text,
    )
    verdict = evaluation.charging.verdict
    right = evaluation.charging.right.volts
    if verdict.charger.kind == "nickel":
        said: Text = phrase(
            "{} is for nickel and is never plugged in: take one that ends at {}",
            verdict.charger.name,
            say(right.number, "V", right.key),
        )
    else:
        serves = "serves" if verdict.kind == "right" else verdict.kind_words
        said = phrase("the old one goes; {} {}", verdict.charger.name, serves)
    yield ThreadStep("charging", "its charger", "stop" if verdict.stop else "done", said)


def plastic_said(evaluation: Evaluation) -> Text:
    """What of the old housing has to go for cells of this size."""
    cell, count = evaluation.sized.choice.cell, evaluation.project.need.nickel_cells or 0
    longer = cell.height_mm - SUB_C_HIGH_MM
    words: Text = phrase(
        "the ribs and cups that held {} cells of about {} × {} mm go; these are {} mm wide and "
        "stand {} mm {}",
        count,
        *(f"{SUB_C_MM:g}", f"{SUB_C_HIGH_MM:g}", f"{cell.pitch_mm:.0f}"),
        f"{abs(longer):.0f}",
        "higher" if longer >= 0.0 else "lower",
    )
    return phrase(
        "{}. Latch, contact tower and seam stay: nothing that holds the pack in the tool is cut",
        words,
    )


def contacts_said(contacts: int | None) -> Text:
    """What is done with the contacts of the old pack."""
    if contacts is None:
        return "two, or three with one for the charger's sensor: look at the old pack"
    if contacts == 3:
        return (
            "the third went to a sensor that told the old charger to end: it stays without a wire, "
            "for no charger of nickel may find one"
        )
    return "two: the new pack goes on them behind its BMS, and charges by a plug of its own"
