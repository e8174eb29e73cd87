"""What each test tells: its figures, what an outside usually means, and what would tell more."""

from __future__ import annotations

from msgspec import Struct

from lumvak.core.document.proving import TestName


class Observable(Struct, frozen=True):
    """A figure that a test gives; ``key`` is ``test.figure``.

    ``means`` is what a value outside usually means, ``next`` the test that would tell.
    """

    key: str
    label: str
    unit: str
    means: str
    next: str

    @property
    def test(self) -> str:
        """The test that gives it."""
        return self.key.partition(".")[0]


# fmt: off
OBSERVABLES = (
    Observable("insulation.case_v", "Pack to case", "V",
               "a wrapper or a strip touches the case", "a look with a lamp, nothing connected"),
    Observable("asleep.output_v", "Output while the BMS sleeps", "V",
               "the BMS is awake, or its switches leak", "the same an hour later"),
    Observable("groups.spread_v", "Between highest and lowest group", "V",
               "a group is flat, or was not charged like the others", "self-discharge"),
    Observable("total.difference_v", "Sum of the groups less the whole", "V",
               "a lead is on the wrong tap, or a meter is wrong", "balance leads, one by one"),
    Observable("staircase.pack_mohm", "Cells and joints", "mΩ",
               "cells older or colder than thought, or a bad joint", "drops"),
    Observable("staircase.path_mohm", "From the cells to the output", "mΩ",
               "a worn connector, a loose screw, thin leads", "drops"),
    Observable("staircase.eased_mohm", "Comes back after the load", "mΩ",
               "cells older or colder than thought", "the same, warmer by ten kelvin"),
    Observable("staircase.eased_s", "Time constant of what comes back", "s",
               "other cells than thought, or a clock read late", "the same once more"),
    Observable("staircase.strip_k", "Series connection over the cells", "K",
               "a thin or plated strip, few welds", "drops, and the strip test"),
    Observable("staircase.cells_k", "Cells over the air", "K",
               "less air than thought, or more resistance", "drops"),
    Observable("staircase.leads_k", "Main leads over the air", "K",
               "thinner leads than thought, or a bad crimp", "drops"),
    Observable("drops.fuse_mohm", "Across the fuse", "mΩ",
               "a loose screw or holder, an aged fuse", "the same after its contacts are cleaned"),
    Observable("drops.bms_mohm", "Across the BMS", "mΩ",
               "a switch that does not close, or half of them missing", "its warmth under load"),
    Observable("drops.connector_mohm", "Across the connector", "mΩ",
               "worn or badly crimped contacts", "the same after plugging it anew"),
    Observable("drops.joint_mohm", "Series connections, their mean", "mΩ",
               "strips thinner than thought, plated steel", "the strip test"),
    Observable("drops.worst", "Worst series connection, over the others", "",
               "a weld that does not hold, a strip missing", "a look at the joint, a pull on it"),
    Observable("over-current.trip_a", "Opens at", "A",
               "another BMS than its sheet says, or a level set otherwise", "the same once more"),
    Observable("full-charge.spread_v", "Between highest and lowest group when full", "V",
               "groups out of balance", "self-discharge"),
    Observable("charger-stop.stop_v", "Charger stops at", "V",
               "the wrong charger, or one that gives up early", "a meter on its plug alone"),
    Observable("over-voltage.trip_v", "Opens on charge at, highest group", "V",
               "another family of cells on the BMS, or a tap off", "the same on another group"),
    Observable("full-discharge.ah", "Charge from full to empty", "Ah",
               "a weak group, or one that did not start full", "which group ended it, twice"),
    Observable("full-discharge.wh", "Energy from full to empty", "Wh",
               "less charge, or more resistance", "staircase"),
    Observable("full-discharge.warm_k", "Warmest cells over the air at the end", "K",
               "less air than thought, or more resistance", "staircase"),
    Observable("under-voltage.trip_v", "Opens on discharge at, lowest group", "V",
               "another family of cells on the BMS, or a tap off", "the same on another group"),
    Observable("surge.peak_a", "Peak of a start, pulled fast", "A",
               "another motor or controller than thought, or a stiff start", "the same, slowly"),
    Observable("self-discharge.mv_day", "Most lost by a group in a day", "mV",
               "a soft short in a cell, or a BMS that draws from one group", "the same, BMS off"),
)
# fmt: on


def of_test(test: TestName) -> tuple[Observable, ...]:
    """What a test tells, the first of it what it is taken for."""
    return tuple(item for item in OBSERVABLES if item.test == test)
