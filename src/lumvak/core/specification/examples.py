"""Parts at hand as examples of what lies in the windows, and of what does not (methods 41)."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from typing import Any

from msgspec import Struct

from lumvak.core.document.shopping import PartKey
from lumvak.core.evaluation import Evaluation
from lumvak.core.said import Text, in_line, listed, phrase
from lumvak.core.specification.bms import bms_missed
from lumvak.core.specification.cell import cell_missed
from lumvak.core.specification.charger import charger_missed
from lumvak.core.specification.contacts import contact_missed
from lumvak.core.specification.fuse import charge_fuse_asked, fuse_missed, main_fuse_asked
from lumvak.core.specification.joints import conductor_missed, joint_asked
from lumvak.core.specification.window import PartSpec
from lumvak.core.specification.wires import charge_leads_asked, leads_missed, main_leads_asked

# So many are named.
MOST_NAMED = 4
Missed = Callable[[Any], tuple[str, ...]]


class Example(Struct, frozen=True):
    """A part at hand, and the fields in which it lies outside; none where it does."""

    name: Text
    id: str
    missed: tuple[str, ...]


def missed_by(spec: PartSpec, evaluation: Evaluation) -> Missed | None:
    """What tells in which fields a part lies outside the windows; ``None`` where nothing does."""
    ways: dict[PartKey, Missed] = {
        "cell": lambda part: cell_missed(spec, part, evaluation),
        "bms": lambda part: bms_missed(spec, part, evaluation),
        "fuse": lambda part: fuse_missed(spec, part, main_fuse_asked(evaluation)),
        "charge-fuse": lambda part: fuse_missed(spec, part, charge_fuse_asked(evaluation)),
        "connector": lambda part: contact_missed(spec, part, evaluation),
        "switch": lambda part: contact_missed(spec, part, evaluation),
        "leads": lambda part: leads_missed(part, main_leads_asked(evaluation), evaluation),
        "charge-leads": lambda part: leads_missed(part, charge_leads_asked(evaluation), evaluation),
        "charger": lambda part: charger_missed(spec, part, evaluation),
        "series": lambda part: conductor_missed(spec, part, joint_asked("series", evaluation)),
        "group": lambda part: conductor_missed(spec, part, joint_asked("group", evaluation)),
    }
    return ways.get(spec.key)


def examples(spec: PartSpec, evaluation: Evaluation) -> tuple[Example, ...]:
    """The parts at hand of a kind, those that lie in the windows first, then the nearest."""
    missed = missed_by(spec, evaluation)
    if missed is None:
        return ()
    found = [
        Example(getattr(part, "said", part.name), part.id, missed(part))
        for part in _at_hand(spec.key, evaluation)
    ]
    return tuple(sorted(found, key=lambda item: len(item.missed)))


def _at_hand(key: PartKey, evaluation: Evaluation) -> Iterable[Any]:
    parts, setting = evaluation.sized.parts, evaluation.sized.boards.setting
    chosen = evaluation.sized.choice.cell
    kinds: dict[PartKey, Iterable[Any]] = {
        "cell": sorted(
            (it for it in parts.cells.values() if it.format == chosen.format),
            key=lambda it: it.id != chosen.id,
        ),
        "bms": [
            it
            for it in parts.boards.values()
            if (it.series, it.family) == (setting.series, setting.family)
        ],
        "fuse": parts.rising_fuses,
        "charge-fuse": parts.rising_fuses,
        "connector": parts.cheapest_connectors,
        "switch": parts.cheapest_switches,
        "leads": sorted(parts.wires.values(), key=lambda it: it.area_mm2),
        "charge-leads": sorted(parts.wires.values(), key=lambda it: it.area_mm2),
        "charger": parts.chargers.values(),
        "series": parts.conductors.values(),
        "group": parts.conductors.values(),
    }
    return kinds.get(key, ())


def examples_said(spec: PartSpec, found: tuple[Example, ...]) -> Text:
    """Which parts at hand lie in the windows, and where the nearest other lies outside."""
    if not found:
        return ""
    inside = [item for item in found if not item.missed]
    outside = next((item for item in found if item.missed), None)
    if not inside and outside is not None:
        labels = listed([in_line(_label(spec, name)) for name in outside.missed])
        return phrase("No part at hand lies in all of them; {} is out by {}.", outside.name, labels)
    names = listed([item.name for item in inside[:MOST_NAMED]])
    more = len(inside) - MOST_NAMED
    if more > 0:
        return phrase("Examples at hand, made up: {} and {} more.", names, more)
    return phrase("Examples at hand, made up: {}.", names)


def _label(spec: PartSpec, name: str) -> Text:
    return next((window.label for window in spec.windows if window.name == name), name)
