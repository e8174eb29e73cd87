"""What remains possible of a harness in words, what to do about it, and what to read next."""

from __future__ import annotations

import math

from lumvak.core.taps.faults import OPEN, Fault, Name
from lumvak.core.taps.hypotheses import Hypothesis
from lumvak.core.taps.readings import JOINT, MAIN_MINUS, MAIN_PLUS, Case
from lumvak.core.taps.verdict import Next, TapVerdict
from lumvak.core.units import say

DO_GROUP = {
    "weak-group": "Read the group across its own joints, and its cells' history; charge it alone "
    "to the others' voltage, or change it.",
    "flat-group": "Read the group across its own joints: a cell may be missing, shorted or run "
    "down. Do not charge it before you know.",
    "reversed-group": "Take the pack apart there: the group lies the wrong way round.",
    "unexplained": "Read again, beginning where it first goes wrong; look whether the black probe "
    "is on the most negative joint.",
}
# What remains possible, in an answer to a reading.
NAMES: dict[Name, str] = {
    "right": "leads right", "swapped": "leads swapped", "shifted": "leads shifted",
    "reversed": "plug reversed", "open": "a lead open", "doubled": "two on one joint",
    "weak-group": "a group weak", "flat-group": "a group flat",
    "reversed-group": "a group reversed", "mixed": "leads mixed", "two-faults": "two faults",
    "unexplained": "something else",
}  # fmt: skip
AGAIN = "Cover the bare ends, and read all again."
PLUG_OUT = (
    "Read with the plug off the board: with it in, a lead that sits on nothing floats midway, and "
    "cannot be told. Volts prove no crimp: tug each, or read it loaded by 1 kΩ."
)


def repair(found: Hypothesis) -> str:
    """What to do about a hypothesis; empty where all is right.

    Leads that are off by as many joints are moved together, each to the joint of its own number.
    """
    parts = [DO_GROUP[fault.name] for fault in found.faults if fault.name in DO_GROUP]
    moves = _moves(found.joint.tolist())
    if moves:
        parts += [*moves, AGAIN]
    return " ".join(parts)


def _moves(joint: list[int]) -> list[str]:
    """How leads that sit at ``joint`` come to their own, in sentences."""
    last = len(joint) - 1
    off = {lead: place - lead for lead, place in enumerate(joint) if place not in (lead, OPEN)}
    opened = [lead for lead, place in enumerate(joint) if place == OPEN]
    found = []
    if len(off) > 2 and all(place == last - lead for lead, place in enumerate(joint)):
        return ["Turn the plug's order round: its first pin belongs on the most negative joint."]
    for lead in sorted(off):
        other = joint[lead]
        if lead in off and off.get(other) == -off[lead] and other > lead:
            found.append(f"Change leads {lead} and {other} over.")
            del off[lead], off[other]
    while off:
        first = min(off)
        run = [first]
        while off.get(run[-1] + 1) == off[first]:
            run.append(run[-1] + 1)
        by = off[first]
        far = f"{abs(by)} joint{'s' if abs(by) > 1 else ''}"
        found.append(
            f"Move lead {first} from joint {first + by} to joint {first}." if len(run) == 1 else
            f"Move leads {first} to {run[-1]} {'down' if by > 0 else 'up'} by {far} each."
        )  # fmt: skip
        for lead in run:
            del off[lead]
    found += [f"Mend the crimp or the joint of lead {loose}: it belongs on joint {loose}."
              for loose in opened]  # fmt: skip
    return found


def said(found: Hypothesis) -> str:
    """A hypothesis in a sentence."""
    lack = {group: _volts(volts, within) for group, volts, within in found.lack}
    return " ".join(_fault(fault, lack) for fault in found.faults)


def _volts(volts: float, within: float) -> str:
    """What a group lacks, and how sure that is."""
    off = round(within, 2)
    return say(round(volts, 2), "V") + (f" ± {say(off, 'V')}" if off else "")


def _fault(fault: Fault, lack: dict[int, str]) -> str:
    leads, groups = fault.leads, fault.groups
    if fault.name == "mixed":
        many = len(leads) // 2
        sits = [f"{lead} on joint {joint}" for lead, joint in
                zip(leads[:many], leads[many:], strict=True)]  # fmt: skip
        return f"The order of {many} leads is mixed: {', '.join(sits[:-1])} and {sits[-1]}."
    if fault.name == "right":
        return "Every lead sits on its joint."
    if fault.name == "swapped":
        return f"Leads {leads[0]} and {leads[1]} are swapped."
    if fault.name == "shifted" and fault.up:
        return f"From lead {leads[0]} on each sits one joint too high; joint {leads[0]} has none."
    if fault.name == "shifted":
        return (
            f"From lead {leads[0]} on each sits one joint too low; joint {leads[0] - 1} has two."
        )  # fmt: skip
    if fault.name == "reversed":
        return "The plug is the wrong way round: its first lead is on the most positive joint."
    if fault.name == "open":
        return f"Lead {leads[0]} is open: it sits on nothing."
    if fault.name == "doubled":
        return f"Lead {leads[0]} sits on joint {leads[1]}, where another is too."
    if fault.name == "weak-group":
        return f"Group {groups[0]} is {lack[groups[0]]} under what it should be."
    if fault.name == "flat-group":
        return (
            f"Group {groups[0]} gives next to nothing: flat, missing or shorted. It lacks "
            f"{lack[groups[0]]}."
        )
    if fault.name == "reversed-group":
        return f"Group {groups[0]} is the wrong way round: {lack[groups[0]]} are lacking."
    return "Nothing that is known explains these readings."


def end_said(end: int) -> str:
    """An end of a reading: ``lead 3``, ``main minus``, ``joint 3``."""
    if end >= JOINT:
        return f"joint {end - JOINT}"
    return {MAIN_MINUS: "main minus", MAIN_PLUS: "main plus"}.get(end, f"lead {end}")


def next_said(wanted: Next) -> str:
    """The reading that decides, and what it would be for each that remains."""
    if wanted.decides == ("unexplained",):
        return f"Read from {end_said(wanted.start)} to {end_said(wanted.end)}."
    answers: dict[str, list[str]] = {}
    for name, volts in zip(wanted.decides, wanted.expects, strict=True):
        shown = "nothing steady" if math.isnan(volts) else say(round(volts, 2), "V")
        if NAMES[name] not in answers.setdefault(shown, []):
            answers[shown].append(NAMES[name])
    told = "; ".join(f"{shown}: {' or '.join(names)}" for shown, names in answers.items())
    return f"Read from {end_said(wanted.start)} to {end_said(wanted.end)}. {told}."


def blind_v(found: TapVerdict) -> float:
    """So many V a group may lack at the most, and not be told by the readings."""
    return max((item.least_told_v for item in found.groups), default=0.0)


def groups_said(found: TapVerdict) -> str:
    """What the readings tell of the groups, in a sentence; empty where nothing is known."""
    if not found.groups:
        return ""
    untold = [item for item in found.groups if not item.told]
    if not untold:
        return f"Groups are told to {say(round(blind_v(found), 2), 'V')}: none is weak."
    return (
        f"Groups are not told finer than {say(round(blind_v(found), 2), 'V')} by these readings "
        f"({len(untold)} of {len(found.groups)}): read across them, from lead to lead."
    )


def verdict_said(case: Case, found: TapVerdict) -> str:
    """The verdict in sentences: of the leads, of the groups, what remains, what to do and read."""
    if found.safe:
        parts = ["Safe to plug in: every lead reads as its joint does.", groups_said(found)]
        if found.next is not None:
            parts.append(next_said(found.next))
        return " ".join(part for part in parts if part)
    if found.unproven:
        wanted = "" if found.next is None else f" {next_said(found.next)}"
        return (
            "Not yet safe: the totals fit, but an open lead 0 reads 0 V too. It is told only from "
            f"it upwards.{wanted}"
        )
    parts = ["Do not plug in."]
    if len(found.hypotheses) == 1:
        parts += [said(found.hypotheses[0]), repair(found.hypotheses[0])]
    else:
        shown = found.hypotheses[:4]
        more = len(found.hypotheses) - len(shown)
        parts.append(f"{len(found.hypotheses)} things explain it:")
        parts += [f"({place}) {said(item)}" for place, item in enumerate(shown, 1)]
        if more:
            parts.append(f"And {more} more.")
        if found.next is None:
            parts.append("No reading of leads tells them apart; mend what is named and read again.")
            parts += [text for item in found.hypotheses if (text := repair(item))][:1]
    if found.next is not None:
        parts.append(next_said(found.next))
    return " ".join(part for part in parts if part)
