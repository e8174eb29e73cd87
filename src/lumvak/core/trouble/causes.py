"""What may be wrong with a pack: how common each is, what it is complained of, how it is mended."""

from __future__ import annotations

from typing import Literal

from msgspec import Struct

from lumvak.core.document.afterwards.trouble import ComplaintName

COMPLAINTS: dict[ComplaintName, str] = {
    "dead": "nothing comes out",
    "drops-out": "drops out under load",
    "no-charge": "will not charge",
    "charges-short": "stops charging too soon",
    "jumps": "its volts jump about",
    "short-range": "does not last as it did",
    "low-group": "one group is low",
    "warm-spot": "gets warm in one spot",
    "cuts-out": "cuts out when it is pulled fast",
    "wakes-and-dies": "wakes, and dies again",
    "since-repair": "not since the last repair",
    "none": "no complaint",
}
Where = Literal["", "group", "joint", "tap"]
Mend = Literal["builder", "part", "nobody", "nothing"]


class TroubleCause(Struct, frozen=True):
    """Something that may be wrong.

    ``prior`` is how common it is among all troubles, in parts of 100 (ours); ``complaints`` how
    often it is complained of in each way; ``where`` in which kind of place it is. ``mend`` is what
    it takes, ``by`` whether a builder should, and ``used`` what happens if it is used as it is.
    """

    name: str
    words: str
    prior: float
    complaints: dict[ComplaintName, float]
    where: Where
    by: Mend
    mend: str
    used: str


def _cause(
    name: str,
    words: str,
    prior: float,
    complaints: dict[ComplaintName, float],
    where: Where = "",
    by: Mend = "builder",
    *,
    mend: str,
    used: str,
) -> TroubleCause:
    return TroubleCause(name, words, prior, complaints, where=where, by=by, mend=mend, used=used)


NEVER = "A cell that was run down or shorted inside is never revived: it can burn days later."
CAUSES: tuple[TroubleCause, ...] = (
    _cause(
        "group-flat",
        "a group is far lower than the others",
        6.0,
        {
            "low-group": 0.35,
            "drops-out": 0.2,
            "charges-short": 0.15,
            "dead": 0.15,
            "short-range": 0.15,
        },
        "group",
        mend="charge that group alone to the others, and watch it for a week",
        used="its cells are drawn under empty, and reversed at the end of a run",
    ),
    _cause(
        "group-weak",
        "a group has lost charge and resists more",
        8.0,
        {
            "drops-out": 0.3,
            "short-range": 0.35,
            "charges-short": 0.1,
            "low-group": 0.2,
            "cuts-out": 0.05,
        },
        "group",
        mend="new cells in that group, matched to the others",
        used="it ends every run and every charge first, and ages fastest",
    ),
    _cause(
        "group-shorted",
        "a group is shorted inside",
        2.0,
        {"warm-spot": 0.25, "low-group": 0.35, "dead": 0.2, "no-charge": 0.2},
        "group",
        "nobody",
        mend="its cells go out; " + NEVER,
        used="it warms by itself and may burn",
    ),
    _cause(
        "group-lost-cell",
        "cells of a group are no longer connected",
        4.0,
        {
            "short-range": 0.35,
            "drops-out": 0.3,
            "low-group": 0.2,
            "cuts-out": 0.1,
            "warm-spot": 0.05,
        },
        "group",
        mend="the group strip, or the open cell, of that group",
        used="the other cells of the group carry all of it",
    ),
    _cause(
        "group-leaking",
        "a group loses its charge by itself",
        4.0,
        {"low-group": 0.5, "dead": 0.15, "charges-short": 0.25, "short-range": 0.1},
        "group",
        mend="its cells go out; level the new ones",
        used="it is low again each week",
    ),
    _cause(
        "bleed-stuck",
        "the bleed of a group is stuck on",
        3.0,
        {"low-group": 0.65, "warm-spot": 0.2, "dead": 0.15},
        "group",
        "part",
        mend="another BMS",
        used="that group is drained as long as it is awake",
    ),
    _cause(
        "bms-misreads",
        "the BMS reads a group wrongly",
        3.0,
        {"charges-short": 0.4, "no-charge": 0.2, "drops-out": 0.3, "low-group": 0.1},
        "group",
        "part",
        mend="its tap first, else another BMS",
        used="that group is over- or undercharged unseen",
    ),
    _cause(
        "joint-resistive",
        "a series connection has a high resistance",
        5.0,
        {"warm-spot": 0.4, "drops-out": 0.25, "cuts-out": 0.25, "short-range": 0.1},
        "joint",
        mend="weld or solder that connection anew",
        used="it warms, and gets worse",
    ),
    _cause(
        "joint-broken",
        "a series connection is broken",
        3.0,
        {"dead": 0.6, "jumps": 0.4},
        "joint",
        mend="weld or solder that connection anew",
        used="it arcs where it touches",
    ),
    _cause(
        "tap-open",
        "a balance lead is broken",
        3.0,
        {"low-group": 0.3, "no-charge": 0.3, "dead": 0.2, "since-repair": 0.2},
        "tap",
        mend="solder or crimp that lead anew",
        used="the BMS does not see two groups",
    ),
    _cause(
        "tap-swapped",
        "two balance leads are swapped",
        2.0,
        {"since-repair": 0.6, "dead": 0.15, "no-charge": 0.2, "low-group": 0.05},
        "tap",
        mend="unplug at once, and put both in their order",
        used="it drives a current through the BMS that it may not bear",
    ),
    _cause(
        "tap-corroded",
        "a balance lead has a bad contact",
        2.0,
        {"low-group": 0.4, "no-charge": 0.2, "jumps": 0.1, "charges-short": 0.3},
        "tap",
        mend="clean or crimp that contact anew",
        used="the BMS sees groups that wander",
    ),
    _cause(
        "bms-tripped-low",
        "the BMS opened for the whole pack is empty",
        6.0,
        {"dead": 0.8, "wakes-and-dies": 0.2},
        "",
        "nothing",
        mend="charge it, and look why it ran so low",
        used="left so it is drained on under empty",
    ),
    _cause(
        "bms-tripped-high",
        "the BMS holds the charge off for it is full",
        2.0,
        {"no-charge": 0.9, "charges-short": 0.1},
        "",
        "nothing",
        mend="draw a little, then charge again",
        used="nothing, once it is drawn from",
    ),
    _cause(
        "bms-latched",
        "the BMS opened for an over-current and stays so",
        4.0,
        {"dead": 0.8, "cuts-out": 0.2},
        "",
        "nothing",
        mend="take the load off, touch the charger; then look what drew so much",
        used="it trips again",
    ),
    _cause(
        "bms-temperature",
        "the BMS opened for a temperature",
        2.0,
        {"dead": 0.3, "no-charge": 0.4, "drops-out": 0.3},
        "",
        "nothing",
        mend="let it come to room temperature",
        used="nothing, once it is cool",
    ),
    _cause(
        "bms-asleep",
        "the BMS is asleep",
        4.0,
        {"dead": 0.9, "wakes-and-dies": 0.1},
        "",
        "nothing",
        mend="wake it as its sheet says: button, load or charger",
        used="nothing",
    ),
    _cause(
        "bms-open",
        "the output switch of the BMS does not close",
        4.0,
        {"dead": 1.0},
        "",
        "part",
        mend="another BMS",
        used="it gives nothing",
    ),
    _cause(
        "bms-shorted",
        "the output switch of the BMS does not open",
        1.0,
        {"none": 0.9, "dead": 0.1},
        "",
        "part",
        mend="another BMS, before the next use",
        used="nothing ends a discharge or a short circuit",
    ),
    _cause(
        "bms-leaky",
        "the output switch of the BMS is half on",
        3.0,
        {"jumps": 0.85, "wakes-and-dies": 0.15},
        "",
        "part",
        mend="another BMS",
        used="it warms by itself, and fails closed or open",
    ),
    _cause(
        "thermistor-open",
        "the thermistor is open or shorted",
        2.0,
        {"no-charge": 0.6, "dead": 0.4},
        "",
        "part",
        mend="its plug, else another thermistor of the same kind",
        used="no temperature ends a charge or a discharge",
    ),
    _cause(
        "fuse-open",
        "the main fuse is open",
        5.0,
        {"dead": 1.0},
        "",
        mend="look what opened it; then a fuse of the same kind and rating",
        used="it gives nothing",
    ),
    _cause(
        "fuse-aged",
        "the main fuse has aged",
        1.0,
        {"cuts-out": 0.5, "drops-out": 0.3, "warm-spot": 0.2},
        "",
        mend="a new fuse of the same rating",
        used="it opens one day under load",
    ),
    _cause(
        "connector-worn",
        "the connector is worn",
        5.0,
        {"drops-out": 0.4, "jumps": 0.15, "warm-spot": 0.35, "cuts-out": 0.1},
        "",
        mend="a new connector, both halves",
        used="it warms, and melts its housing",
    ),
    _cause(
        "lead-broken",
        "a main lead is broken inside",
        3.0,
        {"dead": 0.75, "jumps": 0.25},
        "",
        mend="a new lead",
        used="it arcs inside its insulation",
    ),
    _cause(
        "charger-dead",
        "the charger gives nothing",
        5.0,
        {"no-charge": 1.0},
        "",
        "part",
        mend="another certified charger",
        used="it is not charged",
    ),
    _cause(
        "charger-wrong",
        "the charger ends at other volts",
        2.0,
        {"no-charge": 0.4, "charges-short": 0.6},
        "",
        "part",
        mend="a charger for this count and chemistry",
        used="too high it relies on the BMS alone",
    ),
    _cause(
        "charger-early",
        "the charger stops too low",
        2.0,
        {"charges-short": 0.9, "short-range": 0.1},
        "",
        "part",
        mend="another charger, or its volts set",
        used="a share of the charge is missing",
    ),
    _cause(
        "charge-fuse-open",
        "the fuse of the charge port is open",
        2.0,
        {"no-charge": 1.0},
        "",
        mend="look what opened it; then one of the same rating",
        used="it is not charged",
    ),
    _cause(
        "equipment-over",
        "the equipment draws more than the BMS lets",
        5.0,
        {"cuts-out": 0.7, "drops-out": 0.3},
        "",
        "nothing",
        mend="less current, or a BMS and a path for more",
        used="it cuts out at each pull",
    ),
    _cause(
        "precharge-missing",
        "the capacitors of the equipment trip it when it is plugged in",
        2.0,
        {"wakes-and-dies": 0.7, "cuts-out": 0.2, "dead": 0.1},
        "",
        mend="a precharge",
        used="contacts pit, and the BMS opens at each plug",
    ),
    _cause(
        "sound",
        "nothing is wrong with it",
        8.0,
        {"short-range": 0.45, "none": 0.5, "charges-short": 0.05},
        "",
        "nothing",
        mend="nothing: compare what it gives with what was wanted",
        used="it gives what it can",
    ),
    _cause(
        "something-else",
        "something that is not in this list",
        5.0,
        dict.fromkeys(COMPLAINTS, 1.0 / 12.0),
        "",
        mend="ask somebody who has seen more of them",
        used="nobody knows",
    ),
)
BY_NAME = {it.name: it for it in CAUSES}
# A complaint that a cause is not known for is made of it so seldom.
SELDOM = 0.004
