"""What one joint on a cell is: as the builder says, as test joints on scrap read, or as usual."""

from __future__ import annotations

import math
from collections.abc import Iterator

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from lumvak.core.catalogue.cells import Cell
from lumvak.core.document.joints import Joints, Thread, WeldTest
from lumvak.core.figures.figure import Figure, Rule, typed, walk
from lumvak.core.figures.finding import Finding
from lumvak.core.figures.link import Link
from lumvak.core.joints.bridges import Bridge
from lumvak.core.joints.piece_sections import CONTACTS_MOHM, TAB_MOHM, joining_of
from lumvak.core.said import digits, phrase, say

# Key, label, unit, rule and section of docs/methods.md of each figure that is made here.
# fmt: off
CONTACT_MOHM = Rule("joints.contact_mohm", "One joint on a cell", "mΩ", "as the test joints read",
                    "methods 28")
SPREAD = Rule("joints.weld_test.spread", "Test joints differ by", "%",
              "standard deviation of {} ÷ mean", "methods 28")
BRIDGED_CONTACT_MOHM = Rule("network.contact_mohm", "Joint on a cell with its bridge", "mΩ",
                            "joint + bridge", "methods 19")
TESTED_CONTACT_MOHM = Rule("joints.contact_mohm", "One joint on a cell", "mΩ",
                           "test joints × their weld points ÷ weld points per cell", "methods 28")
WORST_K = Rule("joints.weld_test.worst_k", "Worst joint over its cell", "K",
               "current of the busiest cell² × worst joint × heat through a joint", "methods 28")
TAB_CONTACT_MOHM = Rule("network.contact_mohm", "Joint on a cell with its nickel tab", "mΩ",
                        "joint + {} mΩ of a nickel tab 0.15 × 7 mm, 5 mm long", "methods 19 [3]")
USUAL_CONTACT_MOHM = Rule("joints.contact_mohm", "One joint on a cell", "mΩ", "{}", "methods 19")
WORST_MOHM = Rule("joints.weld_test.worst_mohm", "Worst of {} joints", "mΩ",
                  "joint + {} times the spread: one of {}, by {} tests (Student's t)",
                  "methods 28 [10]")
# fmt: on

Array = NDArray[np.float64]
# With fewer test joints their spread says little; over this they are uneven; one that reads so many
# times the middle one is no joint.
FEWEST, UNEVEN, NO_JOINT = 5, 0.3, 2.0
# Clearance holes, medium fit, and plain washers of a thread in mm [15, 16].
SCREWS: dict[Thread, tuple[float, float]] = {
    "M4": (4.5, 9.0), "M5": (5.5, 10.0), "M6": (6.6, 12.0), "M8": (9.0, 16.0),
}  # fmt: skip
# Metal beyond the middle of a hole, in holes; cells so large have posts of M6.
EDGE_HOLES, BIG_POST_AH = 1.5, 40.0
STAGE = "hand"
MEAN = "joints.weld_test.mean_mohm"


class Screw(Struct, frozen=True):
    """What pieces are screwed on with: thread, hole and washer in mm, and how long slots are."""

    thread: Thread
    hole_mm: float
    washer_mm: float
    slot_mm: float

    @property
    def edge_mm(self) -> float:
        """Least distance in mm from the middle of a hole, or the far end of a slot, to an edge."""
        return EDGE_HOLES * self.hole_mm + self.slot_mm / 2.0


def screw_of(joints: Joints, cell: Cell) -> Screw | None:
    """The screws of a pack whose posts are screwed; ``None`` for others (methods 39)."""
    if joining_of(joints, cell) != "screw":
        return None
    thread = joints.thread or usual_thread(cell)
    hole, washer = SCREWS[thread]
    return Screw(thread, hole, washer, joints.slot_mm)


def usual_thread(cell: Cell) -> Thread:
    """The thread taken where none was said: by the capacity of the cell."""
    return "M6" if cell.capacity_typical_ah >= BIG_POST_AH else "M5"


def reads_of(test: WeldTest) -> Array:
    """Resistances in mohm of the test joints that were read, (n,)."""
    found = [read.read_mohm for read in test.reads]
    return np.array([value for value in found if value is not None], dtype=float)


def contact_of(joints: Joints, cell: Cell, bridge: Bridge | None) -> Figure:
    """Resistance in mohm of one joint on a cell, with its tab or bridge (methods 19, 28)."""
    method = joining_of(joints, cell)
    points = typed("joints.weld_points", "Weld points per cell", joints.weld_points, "")
    each = CONTACTS_MOHM[method]
    reads = reads_of(joints.weld_test)
    if joints.contact_mohm is None and len(reads):
        contact = _tested(joints, method, reads, points)
    else:
        contact = USUAL_CONTACT_MOHM.said_or(
            joints.contact_mohm,
            each / joints.weld_points if method == "weld" else each,
            *((points,) if method == "weld" else ()),
            rule=phrase("{} mΩ a weld point ÷ points", digits(each, "g"))
            if method == "weld"
            else phrase("{}: {} mΩ", method, digits(each, "g")),
        )
    if "tabs" not in (joints.side_a, joints.side_b):
        return contact
    if bridge is not None:
        return BRIDGED_CONTACT_MOHM.of(contact.number + bridge.mohm.number, contact, bridge.mohm)
    return TAB_CONTACT_MOHM.of(contact.number + TAB_MOHM, contact, rule=digits(TAB_MOHM, "g"))


def _tested(joints: Joints, method: str, reads: Array, points: Figure) -> Figure:
    count = len(reads)
    mean = Figure(
        MEAN,
        "Test joint, mean",
        float(reads.mean()),
        "mΩ",
        phrase("mean of {} test joints", count),
        "the project",
        origin="measured",
    )
    test = joints.weld_test
    if method != "weld" or test.points is None or test.points == joints.weld_points:
        return CONTACT_MOHM.of(mean.number, mean)
    made = typed("joints.weld_test.points", "Points of a test weld", test.points, "")
    return TESTED_CONTACT_MOHM.of(mean.number * test.points / points.number, mean, made, points)


class Tested(Struct, frozen=True):
    """What test joints tell: how even they are, and what the worst of the pack may be."""

    figures: tuple[Figure, ...] = ()
    findings: tuple[Finding, ...] = ()
    links: tuple[Link, ...] = ()


def scrap_topic(
    test: WeldTest,
    contact: Figure,
    joints_in_all: int,
    cell_a: Figure | None,
    weld: Figure,
    most_rise_k: float,
) -> Tested:
    """What the test joints tell of the pack's (methods 28).

    ``contact`` is what one joint is taken as, ``cell_a`` the current of the busiest cell, ``weld``
    how many K a watt in a joint warms it over the cell.
    """
    if not test.reads:
        return Tested()
    reads = reads_of(test)
    figures: tuple[Figure, ...] = ()
    mean = next((item for item in walk((contact,)) if item.key == MEAN), None)
    if len(reads) > 1 and mean is not None:
        figures = _worst(reads, contact, joints_in_all)
        if cell_a is not None:
            worst = figures[-1]
            watts = cell_a.number**2 * worst.number * 1e-3
            figures += (WORST_K.of(watts * weld.number, cell_a, worst, weld),)
    return Tested(figures, tuple(_findings(test, reads, figures, most_rise_k)))


def _worst(reads: Array, contact: Figure, joints_in_all: int) -> tuple[Figure, ...]:
    # Loaded where it is wanted: it takes longer than an evaluation.
    from scipy.special import stdtrit

    count = len(reads)
    share = float(reads.std(ddof=1) / reads.mean())
    spread = SPREAD.of(share, origin="measured", rule=count)
    # So far out lies one of so many, where the spread is known from so few.
    out = -float(stdtrit(count - 1, 1.0 / (joints_in_all + 1.0))) * math.sqrt(1.0 + 1.0 / count)
    joint = next(item for item in walk((contact,)) if item.key == "joints.contact_mohm")
    worst = WORST_MOHM.of(
        contact.number + out * share * joint.number,
        contact,
        spread,
        label=joints_in_all,
        rule=(digits(out, ".2f"), joints_in_all, count),
    )
    return spread, worst


def _findings(
    test: WeldTest, reads: Array, figures: tuple[Figure, ...], most_rise_k: float
) -> Iterator[Finding]:
    """It is long, for each finding is a few sentences."""
    pulled = [read.pulled for read in test.reads if read.pulled]
    clean = pulled.count("clean")
    if clean:
        yield Finding(
            "weld-clean",
            "stop",
            text=phrase(
                "{} of {} test joints came off clean when they were pulled", clean, len(pulled)
            ),
            why="A joint that holds tears the strip and leaves metal behind. These carry current "
            "until something shakes.",
            do="Clean both faces, press harder, give more energy or take a thinner strip; test "
            "again before a cell of the pack is joined.",
            stage=STAGE,
            figure="joints.contact_mohm",
        )
    if not len(reads):
        return
    off = int((reads > NO_JOINT * np.median(reads)).sum())
    spread = next((item for item in figures if item.key.endswith("spread")), None)
    if off:
        yield Finding(
            "weld-off",
            "warn",
            text=phrase("{} of {} test joints read over twice the middle one", off, len(reads)),
            why="One of them in the pack leaves its cell idle and loads its neighbours.",
            do="Look at the tips and at how the strip lies; test again.",
            stage=STAGE,
            figure="joints.contact_mohm",
        )
    elif spread is not None and spread.number > UNEVEN:
        yield Finding(
            "weld-uneven",
            "warn",
            text=phrase("Test joints differ by {}", say(spread.number, "%")),
            why=phrase("Over {} the welding is not under control.", say(UNEVEN, "%")),
            do="Same pressure, same place, tips dressed; test again.",
            stage=STAGE,
            figure=spread.key,
        )
    if len(reads) < FEWEST:
        yield Finding(
            "weld-few",
            "note",
            text=phrase("{} test joints say little of how even they are", len(reads)),
            why="The worst of the pack's is reckoned from their spread.",
            do=phrase("Make {} or more on scrap of the same metal.", FEWEST),
            stage=STAGE,
            figure="joints.contact_mohm",
        )
    rise = next((item for item in figures if item.key.endswith("worst_k")), None)
    if rise is not None and rise.number > most_rise_k:
        yield Finding(
            "weld-hot",
            "warn",
            text=phrase("The worst joint may be {} over its cell", say(rise.number, "K")),
            why=phrase("{} are let for strips.", say(most_rise_k, "K")),
            do="More weld points per cell, or evener ones.",
            stage=STAGE,
            figure=rise.key,
        )
