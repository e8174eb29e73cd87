"""What remains possible of a harness in words, what to do about it, and what to read next."""

from __future__ import annotations

import math

from lumvak.core.said import Text, in_line, listed, phrase, say, sentences
from lumvak.core.taps.faults import OPEN, Fault, Name
from lumvak.core.taps.hypotheses import Hypothesis
from lumvak.core.taps.readings import JOINT, MAIN_MINUS, MAIN_PLUS, Case
from lumvak.core.taps.verdict import Next, TapVerdict

DO_GROUP = {
    "weak-group": "Read the group across its own ends, and its cells' history; charge it alone "
    "to the others' voltage, or change it.",
    "flat-group": "Read the group across its own ends: a cell may be missing, shorted or run "
    "down. Do not charge it before you know.",
    "reversed-group": "Take the pack apart there: the group lies the wrong way round.",
    "unexplained": "Read again, beginning where it first goes wrong; look whether the black probe "
    "is on the most negative tap.",
}
# What remains possible, in an answer to a reading.
NAMES: dict[Name, str] = {
    "right": "leads right", "swapped": "leads swapped", "shifted": "leads shifted",
    "reversed": "plug reversed", "open": "a lead open", "doubled": "two on one tap",
    "weak-group": "a group weak", "flat-group": "a group flat",
    "reversed-group": "a group reversed", "mixed": "leads mixed", "two-faults": "two faults",
    "unexplained": "something else",
}  # fmt: skip
AGAIN = "Cover the bare ends, and read all again."
PLUG_OUT = (
    "Read with the plug off the BMS: with it in, a lead that sits on nothing floats midway, and "
    "cannot be told. Volts prove no crimp: tug each, or read it loaded by 1 kΩ."
)


def repair(found: Hypothesis) -> Text:
    """What to do about a hypothesis; empty where all is right.

    Leads that are off by as many joints are moved together, each to the joint of its own number.
    """
    parts: list[Text] = [DO_GROUP[fault.name] for fault in found.faults if fault.name in DO_GROUP]
    moves = _moves(found.joint.tolist())
    if moves:
        parts += [*moves, AGAIN]
    return sentences(*parts)


def _moves(joint: list[int]) -> list[Text]:
    """How leads that sit at ``joint`` come to their own, in sentences."""
    last = len(joint) - 1
    off = {lead: place - lead for lead, place in enumerate(joint) if place not in (lead, OPEN)}
    opened = [lead for lead, place in enumerate(joint) if place == OPEN]
    found = list[Text]()
    if len(off) > 2 and all(place == last - lead for lead, place in enumerate(joint)):
        return ["Turn the plug's order round: its first pin belongs on the most negative tap."]
    for lead in sorted(off):
        other = joint[lead]
        if lead in off and off.get(other) == -off[lead] and other > lead:
            found.append(phrase("Change leads {} and {} over.", lead, other))
            del off[lead], off[other]
    while off:
        first = min(off)
        run = [first]
        while off.get(run[-1] + 1) == off[first]:
            run.append(run[-1] + 1)
        by = off[first]
        far = phrase("{} taps" if abs(by) > 1 else "{} tap", abs(by))
        found.append(
            phrase("Move lead {} from tap {} to tap {}.", first, first + by, first)
            if len(run) == 1
            else phrase(
                "Move leads {} to {} down by {} each."
                if by > 0
                else "Move leads {} to {} up by {} each.",
                first,
                run[-1],
                far,
            )
        )
        for lead in run:
            del off[lead]
    found += [
        phrase("Mend the crimp or the joint of lead {}: it belongs on tap {}.", loose, loose)
        for loose in opened
    ]
    return found


def said(found: Hypothesis) -> Text:
    """A hypothesis in a sentence."""
    lack = {group: _volts(volts, within) for group, volts, within in found.lack}
    return sentences(*(phrase("{}.", _fault(fault, lack)) for fault in found.faults))


def briefly(found: Hypothesis) -> Text:
    """A hypothesis that ends a sentence, without its full stop."""
    lack = {group: _volts(volts, within) for group, volts, within in found.lack}
    return listed((_fault(fault, lack) for fault in found.faults), ". ")


def _volts(volts: float, within: float) -> Text:
    """What a group lacks, and how sure that is."""
    off = round(within, 2)
    lacks = say(round(volts, 2), "V")
    return phrase("{} ± {}", lacks, say(off, "V")) if off else lacks


def _fault(fault: Fault, lack: dict[int, Text]) -> Text:
    leads, groups = fault.leads, fault.groups
    if fault.name == "mixed":
        many = len(leads) // 2
        sits = [
            phrase("{} on tap {}", lead, joint)
            for lead, joint in zip(leads[:many], leads[many:], strict=True)
        ]
        return phrase("The order of {} leads is mixed: {}", many, listed(sits, last=" and "))
    if fault.name == "right":
        return "Every lead sits on its tap"
    if fault.name == "swapped":
        return phrase("Leads {} and {} are swapped", leads[0], leads[1])
    if fault.name == "shifted" and fault.up:
        return phrase(
            "From lead {} on each sits one tap too high; tap {} has none", leads[0], leads[0]
        )
    if fault.name == "shifted":
        return phrase(
            "From lead {} on each sits one tap too low; tap {} has two", leads[0], leads[0] - 1
        )
    if fault.name == "reversed":
        return "The plug is the wrong way round: its first lead is on the most positive tap"
    if fault.name == "open":
        return phrase("Lead {} is open: it sits on nothing", leads[0])
    if fault.name == "doubled":
        return phrase("Lead {} sits on tap {}, where another is too", leads[0], leads[1])
    if fault.name == "weak-group":
        return phrase("Group {} is {} under what it should be", groups[0], lack[groups[0]])
    if fault.name == "flat-group":
        return phrase(
            "Group {} gives next to nothing: flat, missing or shorted. It lacks {}",
            groups[0],
            lack[groups[0]],
        )
    if fault.name == "reversed-group":
        return phrase("Group {} is the wrong way round: {} are lacking", groups[0], lack[groups[0]])
    return "Nothing that is known explains these readings"


def end_said(end: int) -> Text:
    """An end of a reading: ``lead 3``, ``main minus``, ``tap 3``."""
    if end >= JOINT:
        return phrase("tap {}", end - JOINT)
    return {MAIN_MINUS: "main minus", MAIN_PLUS: "main plus"}.get(end, phrase("lead {}", end))


def next_said(wanted: Next) -> Text:
    """The reading that decides, and what it would be for each that remains."""
    if wanted.decides == ("unexplained",):
        return phrase("Read from {} to {}.", end_said(wanted.start), end_said(wanted.end))
    answers: dict[Text, list[str]] = {}
    for name, volts in zip(wanted.decides, wanted.expects, strict=True):
        shown = "nothing steady" if math.isnan(volts) else say(round(volts, 2), "V")
        if NAMES[name] not in answers.setdefault(shown, []):
            answers[shown].append(NAMES[name])
    told = listed(
        (phrase("{}: {}", shown, listed(names, " or ")) for shown, names in answers.items()), "; "
    )
    return phrase("Read from {} to {}. {}.", end_said(wanted.start), end_said(wanted.end), told)


def blind_v(found: TapVerdict) -> float:
    """So many V a group may lack at the most, and not be told by the readings."""
    return max((item.least_told_v for item in found.groups), default=0.0)


def groups_said(found: TapVerdict) -> Text:
    """What the readings tell of the groups, in a sentence; empty where nothing is known."""
    if not found.groups:
        return ""
    untold = [item for item in found.groups if not item.told]
    if not untold:
        return phrase(
            "Group voltages are known to {}: none is weak.", say(round(blind_v(found), 2), "V")
        )
    return phrase(
        "Group voltages are known no closer than {} by these readings ({} of {}): read across "
        "them, from lead to lead.",
        say(round(blind_v(found), 2), "V"),
        len(untold),
        len(found.groups),
    )


def nothing_wrong_said(found: TapVerdict) -> Text:
    """What is known where no lead is known to be wrong, and what is read next."""
    then = "" if found.next is None else next_said(found.next)
    if found.safe:
        return sentences("Every lead reads as its tap does.", groups_said(found), then)
    return sentences(
        "The totals fit, but an open lead 0 reads 0 V too. It is told only from it upwards.", then
    )


def verdict_said(case: Case, found: TapVerdict) -> Text:
    """The verdict in sentences: of the leads, of the groups, what remains, what to do and read."""
    if found.safe:
        return phrase("Safe to plug in: {}", in_line(nothing_wrong_said(found)))
    if found.unproven:
        return phrase("Not yet safe: {}", in_line(nothing_wrong_said(found)))
    parts: list[Text] = ["Do not plug in."]
    if len(found.hypotheses) == 1:
        parts += [said(found.hypotheses[0]), repair(found.hypotheses[0])]
    else:
        shown = found.hypotheses[:4]
        more = len(found.hypotheses) - len(shown)
        parts.append(phrase("{} things explain it:", len(found.hypotheses)))
        parts += [phrase("({}) {}", place, said(item)) for place, item in enumerate(shown, 1)]
        if more:
            parts.append(phrase("And {} more.", more))
        if found.next is None:
            parts.append("No reading of leads tells them apart; mend what is named and read again.")
            parts += [text for item in found.hypotheses if (text := repair(item))][:1]
    if found.next is not None:
        parts.append(next_said(found.next))
    return sentences(*parts)
