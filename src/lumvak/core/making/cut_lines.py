"""The cut list by kinds of piece: how many of each size, and what they are for."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence

from msgspec import Struct

from lumvak.core.arrangement.layout import FACE_NAMES
from lumvak.core.making.cut_list import WIRE_FORM, Cut, Size
from lumvak.core.said import Quantity, Text, listed, phrase, say
from lumvak.core.spelling import spoken


class CutLine(Struct, frozen=True):
    """Equal pieces: what to cut and how many."""

    size: Size
    count: int


def cut_lines(cuts: Sequence[Cut]) -> tuple[CutLine, ...]:
    """Equal pieces counted together, longest first."""
    counted: Counter[Size] = Counter()
    for cut in cuts:
        counted[cut.size] += cut.count
    lines = [CutLine(size, count) for size, count in counted.items()]
    return tuple(
        sorted(
            lines,
            key=lambda line: (
                line.size.form,
                spoken(line.size.part),
                line.size.role,
                -line.size.length_mm,
            ),
        )
    )


def numbers_of(cuts: Sequence[Cut]) -> dict[Size, int]:
    """The number that each size has in the cut list, from 1."""
    return {line.size: place for place, line in enumerate(cut_lines(cuts), 1)}


def where(cut: Cut) -> Text:
    """Where a piece lies, in words: joint and side."""
    return phrase("tap {}, {}", cut.level, FACE_NAMES[cut.face])


def size_words(line: CutLine) -> Text:
    """``8 × 112 mm``, or the length of a wire."""
    if line.size.form == WIRE_FORM:
        return say(line.size.length_mm, "mm")
    parts: list[Text] = [
        Quantity((line.size.width_mm, line.size.length_mm), "mm", "sides", "g .1f"),
    ]
    if line.size.bends_mm:
        bends = (say(at, "mm") for at in line.size.bends_mm)
        parts.append(phrase("bent at {}", listed(bends, " and ")))
    if line.size.letter:
        parts.append(line.size.letter)
    return listed(parts)
