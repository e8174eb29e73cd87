"""What can go wrong with a found pack, and the best verdict that each leaves."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Literal

from msgspec import Struct

from lumvak.core.as_found.known import KnownOfPack
from lumvak.core.as_found.limits import FoundLink
from lumvak.core.document.afterwards.as_found import AsFound, is_seen
from lumvak.core.said import Text, listed, phrase, say

Verdict = Literal["use", "use-within", "rebuild", "recycle"]
VERDICTS: tuple[Verdict, ...] = ("use", "use-within", "rebuild", "recycle")
Standing = Literal["there", "not ruled out"]
Weight = Literal["high", "middle", "low"]
# A cell that rests under this was run down, by its family, in V: it is never revived.
RUN_DOWN_V = {"cobalt": 2.0, "phosphate": 1.8, "titanate": 1.2, "sodium": 1.0}
# Groups further apart than this share of their charge are out of balance.
UNEVEN = 0.1
JOINT_KEYS = ("series-joints", "group-joints", "take-offs")
SWOLLEN = "Cells that swelled, leaked, burnt or lay in water go to where batteries are recycled."


class Risk(Struct, frozen=True):
    """Something that can go wrong: whether it is there or only not ruled out.

    ``leaves`` is the best verdict that it leaves, ``do`` what ends it, ``fields`` what would show
    it.
    """

    code: str
    standing: Standing
    weight: Weight
    leaves: Verdict
    text: Text
    do: Text
    fields: tuple[str, ...]


def worst_of(verdicts: Iterator[Verdict] | tuple[Verdict, ...]) -> Verdict:
    """The worst of verdicts; ``use`` for none."""
    return max(verdicts, key=VERDICTS.index, default="use")


def risks_of(found: AsFound, known: KnownOfPack, links: tuple[FoundLink, ...]) -> tuple[Risk, ...]:
    """All risks that are there or not ruled out, the gravest first."""
    made = [
        *_cells(found, known),
        *_kinds(found, known),
        *_build(found),
        *_protection(found, known),
        *_promises(found, links),
        *_charge(found, known),
    ]
    order = {"high": 0, "middle": 1, "low": 2}
    return tuple(
        sorted(made, key=lambda it: (-VERDICTS.index(it.leaves), order[it.weight], it.standing))
    )


def _unseen(code: str, weight: Weight, leaves: Verdict, text: Text, do: Text, *fields: str) -> Risk:
    return Risk(code, "not ruled out", weight, leaves, text=text, do=do, fields=fields)


def _there(code: str, weight: Weight, leaves: Verdict, text: Text, do: Text, *fields: str) -> Risk:
    return Risk(code, "there", weight, leaves, text=text, do=do, fields=fields)


def _cells(found: AsFound, known: KnownOfPack) -> Iterator[Risk]:
    if found.state is None:
        yield _unseen(
            "state",
            "high",
            "recycle",
            "Nobody looked whether it is swollen, leaking, wet or burnt",
            "Look at the wrapper from all sides, feel for bulges, smell it.",
            "state",
        )
    elif found.state != "sound":
        yield _there("state", "high", "recycle", f"It is {found.state}", SWOLLEN, "state")
    floor = RUN_DOWN_V[known.chemistry.family]
    if not found.group_v:
        yield _unseen(
            "run-down",
            "high",
            "rebuild",
            "Its groups were not read: one may have been run down",
            "Read each group at the balance plug, after some hours of rest.",
            "group_v",
        )
    else:
        low = [at for at, volts in enumerate(found.group_v, 1) if volts < floor]
        if low:
            yield _there(
                "run-down",
                "high",
                "rebuild",
                phrase("Group {} was run down to {}", low[0], say(found.group_v[low[0] - 1], "V")),
                "Its cells go out and are never charged again; the others may serve.",
                "group_v",
            )
        elif known.spread is not None and known.spread > UNEVEN:
            yield _there(
                "uneven",
                "middle",
                "use-within",
                phrase("Its groups stand {} of their charge apart", say(known.spread, "%")),
                "Bring them level, and read again after a week: a group that falls is leaking.",
                "group_v",
            )


def _kinds(found: AsFound, known: KnownOfPack) -> Iterator[Risk]:
    if known.cell is None:
        yield _unseen(
            "unknown-cells",
            "high",
            "use-within",
            "Its cells are of unknown kind",
            "Read what is printed on them; without marks test one as Cells in hand tells.",
            "cell",
        )
    if found.alike is None:
        yield _unseen(
            "mixed",
            "high",
            "rebuild",
            "Whether its cells are all alike was not seen",
            "Compare wrappers, colours and printed days of all cells.",
            "alike",
        )
    elif found.alike == "mixed":
        yield _there(
            "mixed",
            "high",
            "rebuild",
            "Cells of several kinds or ages are mixed in it",
            "Take it apart, measure each cell, and group them anew.",
            "alike",
        )


def _build(found: AsFound) -> Iterator[Risk]:
    if found.held is None:
        yield _unseen(
            "glued",
            "high",
            "rebuild",
            "How its cells are held was not seen: glued, cans of far potential may touch",
            "Take the wrapper off, the pack discharged to half, and look between the rows.",
            "held",
        )
    elif found.held == "glue":
        yield _there(
            "glued",
            "high",
            "rebuild",
            "Its cells are glued, with no barrier between cans of far potential",
            "Rebuild it in holders, or with barriers between the rows.",
            "held",
        )


def _protection(found: AsFound, known: KnownOfPack) -> Iterator[Risk]:
    if found.fuse is None:
        yield _unseen(
            "fuse",
            "high",
            "use-within",
            "Whether there is a main fuse was not seen",
            "Follow the + lead from the cells; fit one where none is found.",
            "fuse",
        )
    elif found.fuse == "none":
        yield _there(
            "fuse",
            "high",
            "use-within",
            "There is no main fuse",
            "Fit one close to the cells before it is used.",
            "fuse",
        )
    yield from _bms(found, known)
    if found.charger is None:
        yield _unseen(
            "charger",
            "middle",
            "use-within" if found.bms == "there" else "rebuild",
            "What ends a charge was not seen",
            "Read the charger's volts at its plug without the pack.",
            "charger",
        )
    elif found.charger == "bms":
        yield _there(
            "charger",
            "high" if found.bms == "none" else "middle",
            "rebuild" if found.bms == "none" else "use-within",
            "Its charger relies on the BMS to end the charge",
            "Take a charger that ends at the full voltage of the pack by itself.",
            "charger",
        )


def _bms(found: AsFound, known: KnownOfPack) -> Iterator[Risk]:
    if found.bms is None:
        yield _unseen(
            "no-bms",
            "high",
            "rebuild" if found.charger != "itself" else "use-within",
            "Whether there is a BMS was not seen",
            "Look where the balance leads end, under the wrapper.",
            "bms",
        )
    elif found.bms == "none":
        yield _there(
            "no-bms",
            "high",
            "use-within",
            "There is no BMS: nothing ends a discharge, or a charge of one group",
            "Fit one, or charge and watch it by its balance leads.",
            "bms",
        )
    if found.bms == "none":
        return
    if found.bleeds is None:
        yield _unseen(
            "no-balance",
            "middle",
            "use-within",
            "Whether its BMS balances was not seen",
            "Look for a row of like resistors, one for each group.",
            "bleeds",
        )
    elif not found.bleeds:
        yield _there(
            "no-balance",
            "middle",
            "use-within",
            "Its BMS does not balance: groups drift apart, and nothing brings them together",
            "Balance it by its leads now and then, or fit a BMS that does.",
            "bleeds",
        )
    yield from _sense_leads(found, known)


def _sense_leads(found: AsFound, known: KnownOfPack) -> Iterator[Risk]:
    wires, groups = found.sense_leads, known.series
    if wires is None:
        yield _unseen(
            "sense-leads",
            "high",
            "use-within",
            "The sense leads of its BMS were not counted against its groups",
            "Count them: as many as groups, or one more.",
            "sense_leads",
        )
    elif groups.ways and not groups.likely <= wires <= groups.likely + 1:
        yield _there(
            "sense-leads",
            "high",
            "use-within",
            phrase("Its BMS has {} sense leads for {} groups", wires, groups.likely),
            "A group that it does not see is overcharged unseen: count again, then fit the right "
            "BMS.",
            "sense_leads",
        )
    elif not groups.ways:
        yield _unseen(
            "sense-leads",
            "high",
            "use-within",
            "Its groups were not counted",
            "Count them by the cells, the balance leads or the full voltage.",
            "series_cells",
        )


def _charge(found: AsFound, known: KnownOfPack) -> Iterator[Risk]:
    """What it holds against what it was sold with: told, and no danger in itself."""
    holds = known.wear.capacity_ah
    if found.promised_ah is not None and holds.high < 0.9 * found.promised_ah:
        yield _there(
            "less-charge",
            "low",
            "use",
            phrase(
                "Sold with {}; it holds {} to {}",
                say(found.promised_ah, "Ah"),
                say(holds.low, "Ah"),
                say(holds.high, "Ah"),
            ),
            "Count on what it holds; where that is under half, its cells are not worth the work.",
            "measured_ah",
        )


def _promises(found: AsFound, links: tuple[FoundLink, ...]) -> Iterator[Risk]:
    if found.promised_a is None:
        yield _unseen(
            "no-promise",
            "low",
            "use-within",
            "What it was sold for is not known",
            "What it may give is told here: keep to that.",
            "promised_a",
        )
        return
    amps = found.promised_a
    less = [it for it in links if it.continuous.low < amps]
    if less:
        sure = [it for it in less if it.continuous.value < amps and _is_seen(found, it)]
        joints = any(it.key in JOINT_KEYS for it in less)
        make = _there if sure else _unseen
        yield make(
            "less",
            "high" if joints else "middle",
            "use-within",
            phrase(
                "Sold as {}; less is carried by {}" if sure else "Sold as {}; less may be by {}",
                say(amps, "A"),
                listed([it.name for it in (sure or less)]),
            ),
            "Keep within what is told here, or strengthen these parts.",
            *dict.fromkeys(field for it in less for field in it.fields),
        )


def _is_seen(found: AsFound, link: FoundLink) -> bool:
    """Whether all that sets a part was seen."""
    return all(is_seen(found, field) for field in link.fields if field != "form")
