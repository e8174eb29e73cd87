"""The shopping sheet: windows in a shop's words, quantities with spares, a line for a friend."""

from __future__ import annotations

import math
from collections.abc import Mapping
from typing import Any

from msgspec import Struct

from lumvak.core.catalogue.boards import KIND_NAMES
from lumvak.core.catalogue.cells import FAMILY_NAMES
from lumvak.core.catalogue.chargers import SHORT_KINDS
from lumvak.core.catalogue.power_parts import FUSE_FORMS
from lumvak.core.conductors.lead_wire import OFFERED_MM2
from lumvak.core.evaluation import Evaluation
from lumvak.core.joints.candidates import layers_name
from lumvak.core.joints.proposal import asked_of
from lumvak.core.power.as_specified import RATINGS_A, fuse_as_specified
from lumvak.core.said import Text, in_line, listed, phrase, say, wire_name
from lumvak.core.specification.topic import Specification
from lumvak.core.specification.window import FigureWindow, PartSpec, side_said
from lumvak.core.specification.wires import SECTION

# So much more is bought of what is counted or cut, and never less than one more of a cell.
SPARE = {"cell": 0.03, "series": 0.15, "group": 0.15, "leads": 0.1, "charge-leads": 0.1,
         "balance-leads": 0.1, "fuse": 1.0, "charge-fuse": 1.0, "holder": 0.05}  # fmt: skip
# So many ratings are told singly.
MOST_RATINGS = 4
WAKES = {"itself": "by itself", "load": "once the load is off"}
TELEMETRY = {"wire": "by wire", "radio": "by radio"}
# How a word of a window is said, by its field.
WORDS: dict[str, Mapping[Any, str]] = {
    "family": FAMILY_NAMES,
    "form": FUSE_FORMS,
    "wakes": WAKES,
    "telemetry": TELEMETRY,
    "kind": {**KIND_NAMES, **SHORT_KINDS, "lead": "for lead, its stages off"},
}


class ShoppingLine(Struct, frozen=True):
    """A part to buy: how many, with spares, what it must be, and what is better so."""

    part: PartSpec
    quantity: Text
    must: tuple[Text, ...]
    better: tuple[Text, ...]
    open: tuple[Text, ...]


def choice_said(window: FigureWindow) -> Text:
    """The words of a window, as a person says them."""
    words = WORDS.get(window.name, {})
    return listed([words.get(value, value) for value in window.one_of], " or ")


def window_said(window: FigureWindow) -> Text:
    """A window without its label: ``22 A or more, 26.4 A wanted``; ``any`` where all does."""
    if window.one_of:
        return choice_said(window)
    if window.name == "rating_a":
        return _ratings_said(window)
    if window.name == "area_mm2" and window.least is not None and window.most is None:
        gauge = next((it for it in OFFERED_MM2 if it >= window.least.number * (1.0 - 1e-9)), None)
        if gauge is not None and window.label == SECTION:
            return phrase("{} or thicker", wire_name(gauge))
    wanted = None if window.wanted is None else side_said(window, window.wanted.number)
    if window.tight == "both" and window.least is not None:
        return phrase("{}", side_said(window, window.least.number))
    if window.least is not None and window.most is not None:
        sides = (
            side_said(window, window.least.number),
            side_said(window, window.most.number),
        )
        if wanted is None:
            return phrase("{} to {}", *sides)
        return phrase("{} to {}, {} wanted", *sides, wanted)
    if window.least is not None:
        least = side_said(window, window.least.number)
        if wanted is None:
            return phrase("{} or more", least)
        return phrase("{} or more, {} wanted", least, wanted)
    if window.most is not None:
        most = side_said(window, window.most.number)
        if wanted is None:
            return phrase("up to {}", most)
        return phrase("up to {}, {} wanted", most, wanted)
    return "any" if wanted is None else phrase("{} wanted", wanted)


def _ratings_said(window: FigureWindow) -> Text:
    """The ratings in which fuses are sold that lie in a window."""
    sold = [it for it in RATINGS_A if window.takes(it)]
    if not sold:
        sides = [side_said(window, it.number) for it in (window.least, window.most) if it]
        return phrase("none is sold from {}", listed(sides, " to "))
    if len(sold) > MOST_RATINGS:
        return phrase("{} to {}", say(sold[0], "A"), say(sold[-1], "A"))
    return listed([say(it, "A") for it in sold], ", ", " or ")


def shopping(specification: Specification) -> tuple[ShoppingLine, ...]:
    """What to buy, part by part."""
    return tuple(_line(part) for part in specification.parts if part.needed and part.windows)


def _line(part: PartSpec) -> ShoppingLine:
    must = [it for it in part.windows if it.must and not it.open and not _empty_case(it)]
    better = [it for it in part.windows if not it.must and not it.open]
    return ShoppingLine(
        part,
        quantity_said(part),
        must=tuple(_said(it) for it in must),
        better=tuple(_said(it) for it in better),
        open=tuple(in_line(it.label) for it in part.windows if it.open and it.wanted is None),
    )


def _empty_case(window: FigureWindow) -> bool:
    return bool(window.case) and window.empty


def _said(window: FigureWindow) -> Text:
    return phrase("{}: {}", in_line(window.label), window_said(window))


def quantity_said(part: PartSpec) -> Text:
    """How many or how much of a part, with what is bought over it."""
    spare = SPARE.get(part.key, 0.0)
    if part.unit == "m":
        return say(math.ceil(part.quantity * (1.0 + spare) * 10.0 - 1e-9) / 10.0, "m")
    count = math.ceil(part.quantity * (1.0 + spare) - 1e-9)
    extra = count - round(part.quantity)
    return (
        phrase("{} and {} in reserve", round(part.quantity), extra)
        if extra
        else phrase("{}", round(part.quantity))
    )


def two_lines(evaluation: Evaluation, specification: Specification) -> Text:
    """The answer for a friend, in two lines: what the pack is, and what to buy for it."""
    sized, laid_out = evaluation.sized, evaluation.laid_out
    choice, power = sized.choice, evaluation.power
    cells = {it.name: it for it in specification.of("cell").windows}
    asked = [
        side_said(cells[name], cells[name].least.number)  # type: ignore[union-attr]
        for name in ("capacity_min_ah", "continuous_a")
        if name in cells and cells[name].least is not None
    ]
    board = specification.of("bms").of("continuous_a")
    assert board.least is not None and board.wanted is not None
    series, school = laid_out.series, evaluation.project.joints.school
    carries = series.chosen.carries(asked_of(series.setting, series.over), school)
    joint = series.chosen if carries else series.proposal
    place = power.fuse
    serves = place.chosen is not None and place.chosen.serves
    fuse = place.part if serves or place.part is None else fuse_as_specified(power.fuse_asked)
    parts: list[Text] = [
        phrase("{}S{}P of cells of {} or more", choice.series, choice.parallel, listed(asked)),
        phrase(
            "series connections {} × {}, {}",
            joint.strips,
            joint.part.said,
            layers_name(joint.layers),
        )
        if choice.series > 1
        else "",
        listed(
            [
                phrase(
                    "BMS {}S for {} or more, {} wanted",
                    choice.series,
                    say(board.least.number, "A"),
                    say(board.wanted.number, "A"),
                ),
                *(
                    phrase("holds {} for {}", say(it.least.number, "A"), say(it.at_s, "s"))
                    for it in specification.of("bms").windows
                    if it.name == "stages"
                    and it.at_s is not None
                    and it.least is not None
                    and it.least.number > board.wanted.number
                ),
            ]
        ),
        ""
        if fuse is None
        else phrase(
            "fuse {}, {} DC or more", say(fuse.rating_a, "A"), say(sized.pack.full.value, "V")
        ),
        phrase("main leads {}", window_said(specification.of("leads").of("area_mm2"))),
    ]
    return listed([part for part in parts if part], "; ")
