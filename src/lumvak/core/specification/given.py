"""A part in hand, as few of its figures as there are, held against its windows (methods 41)."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence

from msgspec import Struct

from lumvak.core.document.shopping import PartKey
from lumvak.core.evaluation import Evaluation
from lumvak.core.joints.candidates import Candidate
from lumvak.core.power.fuses import LOADING
from lumvak.core.said import Text, phrase
from lumvak.core.specification.joints import conductor_in_hand, joint_asked, section_worth_mm2
from lumvak.core.specification.window import FigureWindow, PartSpec, side_said

# What sheets print for a while: the field that it is, with the windows it is held against.
PRINTED: dict[str, str] = {"peak_a": "stages", "short_a": "short_a"}
# The link of the path that a part is, and the field that limits it continuously.
LINKS: dict[PartKey, tuple[str, str]] = {
    "bms": ("board", "continuous_a"),
    "fuse": ("fuse", "rating_a"),
    "connector": ("connector", "continuous_a"),
    "switch": ("switch", "continuous_a"),
}


class HeldFigure(Struct, frozen=True):
    """A figure of a part in hand in its window: what was given, and what it falls short by.

    ``short_by`` is how far it lies outside, in its unit; 0 where it holds, and of words.
    """

    window: FigureWindow
    value: float | str
    short_by: float = 0.0


class HeldPart(Struct, frozen=True):
    """What holds of a part in hand, what falls short, and what is not known of it.

    ``then_a`` is what the path holds continuously with it, ``None`` where that is not told by what
    is known; ``layers`` is in how many a strip or bar is counted.
    """

    spec: PartSpec
    holds: tuple[HeldFigure, ...]
    short: tuple[HeldFigure, ...]
    unknown: tuple[FigureWindow, ...]
    then_a: float | None
    layers: int | None = None

    @property
    def does(self) -> bool:
        """Whether nothing falls short, as far as is known."""
        return not self.short


def held(spec: PartSpec, given: Mapping[str, float | str], evaluation: Evaluation) -> HeldPart:
    """Hold what is known of a part against its windows; ``given`` by the fields of the catalogue.

    ``peak_a`` is what a BMS holds for the length of the peak, ``form`` the form of a fuse. Raises
    KeyError with the name that the part has not.
    """
    laid = _laid(spec.key, given, evaluation)
    if laid is not None and "area_mm2" not in given:
        worth = section_worth_mm2(laid, joint_asked(spec.key, evaluation))
        given = {"join": laid.part.join, **given, "area_mm2": worth}
    known = {PRINTED.get(name, name) for name in given}
    fields = {window.name for window in spec.windows}
    for name in given:
        if PRINTED.get(name, name) not in fields:
            raise KeyError(name)
    holds: list[HeldFigure] = []
    short: list[HeldFigure] = []
    unknown: list[FigureWindow] = []
    for window in _asked(spec, given):
        if window.name not in known:
            if window.must and not window.open:
                unknown.append(window)
            continue
        value = _value_of(window, given)
        if value is None:
            if window.must:
                unknown.append(window)
            continue
        item = HeldFigure(window, value, _short_by(window, value))
        (holds if window.takes(value) else short).append(item)
    return HeldPart(
        spec,
        tuple(holds),
        tuple(short),
        tuple(unknown),
        then_a=_then(spec.key, given, evaluation, laid),
        layers=None if laid is None else laid.layers,
    )


def _asked(spec: PartSpec, given: Mapping[str, float | str]) -> Sequence[FigureWindow]:
    """The windows that a part is held against: of a fuse, those of the form that takes it best."""
    cases = [window for window in spec.windows if window.case]
    others = [window for window in spec.windows if not window.case]
    if not cases:
        return others
    form, value = given.get("form"), given.get(cases[0].name)
    own = [window for window in cases if window.case == form] or cases
    if isinstance(value, float | int):
        own = sorted(own, key=lambda it: (not it.takes(float(value)), _short_by(it, float(value))))
    return (own[0], *others)


def _value_of(window: FigureWindow, given: Mapping[str, float | str]) -> float | str | None:
    """What is known of a window's figure; of one for a while only where it says for how long."""
    if window.at_s is None:
        return given.get(window.name)
    if window.least is None:
        return None
    for name, field in PRINTED.items():
        if field == window.name and name in given:
            return given[name]
    return None


def _short_by(window: FigureWindow, value: float | str) -> float:
    if isinstance(value, str):
        return 0.0
    low, high = window.bounds
    return max(low - value, value - high, 0.0)


def _laid(
    key: PartKey, given: Mapping[str, float | str], evaluation: Evaluation
) -> Candidate | None:
    """The conductor in hand, where it is one and its thickness is known."""
    if key not in ("series", "group"):
        return None
    return conductor_in_hand(given, joint_asked(key, evaluation))


def _then(
    key: PartKey,
    given: Mapping[str, float | str],
    evaluation: Evaluation,
    laid: Candidate | None,
) -> float | None:
    """What the path holds continuously with the part in place of the one in force."""
    if laid is not None:
        own = laid.limits_a[evaluation.project.joints.school] / joint_asked(key, evaluation).over
        others = [it.continuous_a for it in evaluation.path.links if it.key != f"{key}-joints"]
        return min([own, *others])
    if key not in LINKS:
        return None
    link, field = LINKS[key]
    value = given.get(field)
    if not isinstance(value, float | int):
        return None
    own = LOADING * value if key == "fuse" else float(value)
    others = [it.continuous_a for it in evaluation.path.links if it.key != link]
    return min([own, *others], default=math.inf)


def short_words(item: HeldFigure) -> Text:
    """How far a figure falls short, and why that matters."""
    window = item.window
    if isinstance(item.value, str):
        return phrase("{} is {}: {}", window.label, item.value, window.reason)
    low, _ = window.bounds
    if item.value < low:
        return phrase(
            "{} is {}, {} are wanted for the {}: {}",
            window.label,
            side_said(window, item.value),
            side_said(window, low),
            window.set_by,
            window.reason,
        )
    return phrase(
        "{} is {}, at most {} for the {}: {}",
        window.label,
        side_said(window, item.value),
        side_said(window, window.bounds[1]),
        window.most_by or window.set_by,
        window.reason,
    )
