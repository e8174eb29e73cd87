"""What happens when one opens, is unplugged for a while, brakes, has a weak group, is charged."""

from __future__ import annotations

import math

from PyQt6.QtWidgets import QVBoxLayout

from lumvak.core import units
from lumvak.core.beside.charging_both import charged_apart, charged_together
from lumvak.core.beside.joining import JoinedSides
from lumvak.core.beside.sharing import SharedLoad, shared
from lumvak.core.beside.side import (
    PackSide,
    parts_carry,
    standing_at,
    why_not,
    with_weak_group,
)
from lumvak.core.beside.together import together
from lumvak.core.beside.what_if import braking, replugged
from lumvak.core.evaluation import Evaluation
from lumvak.core.put_beside import load_of, sides_of
from lumvak.core.units import QuantityError
from lumvak.ui.session import Session
from lumvak.ui.speech import in_words, parse, said_of, say, say_hours, spoken, worded
from lumvak.ui.stages.beside.other_file import OtherFile
from lumvak.ui.widgets.choice import ChoiceRow
from lumvak.ui.widgets.entry import EntryField
from lumvak.ui.widgets.flow import flowing, scrolled_body
from lumvak.ui.widgets.pages import Page
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import heading, plain, soft

# What is asked first: minutes together, minutes alone, what a brake gives, how much a weak group
# holds, what a charger gives.
ASKED = ("20 min", "15 min", "8 A", "70 %", "4 A")
# Where a charge of both begins, if they are not lower.
EMPTIED = 0.1
KINDS = (units.SECONDS, units.SECONDS, units.CURRENT, units.FRACTION, units.CURRENT)


class WhatIfView(Page):
    """A question with its numbers, and its answer below."""

    def __init__(self, session: Session, other: OtherFile) -> None:
        """It is long, for it lists the questions one after the other."""
        super().__init__(session)
        self.other = other
        names = (
            "Both run for",
            "Then this pack alone for",
            "A brake gives",
            "A weak group holds",
            "A charger gives",
        )
        self.asked = [self._field(*pair) for pair in zip(names, ASKED, strict=True)]
        self.together, self.alone, self.brake, self.weak, self.charger = self.asked
        self.weak_in = ChoiceRow(((0, "this pack"), (1, "the second")), "Whose group is weak")
        self.weak_in.show_value(1)
        self.replugged, self.braked, self.problem = plain(""), plain(""), plain("")
        self.opened, self.weakened, self.charged = plain(""), plain(""), plain("")
        self.answers = (
            self.replugged,
            self.braked,
            self.opened,
            self.weakened,
            self.charged,
        )
        self.waits = soft("Say first what stands beside this pack, under “both together”.")
        for label in (*self.answers, self.problem):
            label.setWordWrap(True)
        self.problem.setObjectName("bad")
        outer = QVBoxLayout(scrolled_body(self))
        outer.setContentsMargins(THEME.px(24), 0, THEME.px(12), THEME.px(6))
        outer.setSpacing(THEME.px(7))
        outer.addWidget(self.waits)
        outer.addWidget(self.problem)
        words = soft("both run for"), soft("then this pack alone for")
        of = soft("of what the others do, in")
        parts = (
            ("One BMS opens", None, self.opened),
            (
                "Unplugged, and plugged in again",
                flowing(words[0], self.together, words[1], self.alone, gap=8),
                self.replugged,
            ),
            ("A brake gives back", flowing(soft("into both"), self.brake, gap=8), self.braked),
            (
                "One group is weak",
                flowing(soft("it holds"), self.weak, of, self.weak_in, gap=8),
                self.weakened,
            ),
            (
                "Both are charged",
                flowing(soft("by one charger of"), self.charger, gap=8),
                self.charged,
            ),
        )
        for title, row, answer in parts:
            outer.addWidget(heading(title))
            if row is not None:
                outer.addWidget(row)
            outer.addWidget(answer)
        outer.addStretch(1)
        for field in self.asked:
            field.editingFinished.connect(self._again)
        self.weak_in.picked.connect(self._pick)

    def _pick(self, place: int) -> None:
        self.weak_in.show_value(place)
        self._again()

    def _again(self) -> None:
        self.show_evaluation(self.session.evaluation)

    @staticmethod
    def _field(name: str, text: str) -> EntryField:
        field = EntryField(text)
        field.setAccessibleName(name)
        field.setFixedWidth(THEME.px(84))
        return field

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Answer all questions for the packs of an evaluation."""
        sides = sides_of(evaluation, self.other.side())
        may = sides is not None and not why_not(sides)
        self.waits.setVisible(not may)
        self.problem.setText("")
        self.problem.setVisible(False)
        for label in self.answers:
            label.setVisible(may)
        if sides is None or not may:
            return
        try:
            together_s, alone_s, brake_a, weak, charger_a = (
                parse(field.text(), kind) for field, kind in zip(self.asked, KINDS, strict=True)
            )
        except QuantityError as problem:
            self.problem.setText(said_of(problem))
            self.problem.setVisible(True)
            return
        load = load_of(evaluation)
        found = replugged(sides[0], sides[1], load, together_s, alone_s)
        stand = " and ".join(say(it, "%") for it in found.charges)
        self.replugged.setText(worded("They stand at {} then. {}", stand, _flows(found.joining)))
        self.braked.setText(_takes(sides, brake_a))
        self.opened.setText(_opened(sides, load))
        self.weakened.setText(_weakened(sides, load, weak, self.weak_in.value))
        volts = evaluation.charging.right.volts.number
        self.charged.setText(_charged(sides, max(charger_a, 1e-3), volts))


def _opened(sides: tuple[PackSide, ...], load: SharedLoad) -> str:
    """Whether each bears all of the load, and for how long, once the others are gone."""
    said = []
    for side in sides:
        course = shared([side], load)
        carried = tuple(parts_carry(side, float(course.amps.max()), "gives_a", "alone"))
        bad = [it for it in carried if not it.holds]
        lasts = worded("{} takes all for {}", side.name, say_hours(course.hours))
        if bad:
            worst = min(bad, key=lambda it: it.limit_a / it.carries_a)
            lasts += worded(
                ", and does not bear it: its {}, {}", spoken(worst.what), say(worst.limit_a, "A")
            )
        elif carried:
            lasts += " and bears it"
        said.append(lasts)
    return worded("With nobody else: {}.", "; ".join(said))


def _weakened(sides: tuple[PackSide, ...], load: SharedLoad, share: float, place: int) -> str:
    """What one weak group costs, and whether the other bears all once its BMS opened."""
    changed = tuple(
        with_weak_group(side, share) if at == place else side for at, side in enumerate(sides)
    )
    before, now = together(sides, load), together(changed, load)
    if before.course is None or now.course is None or now.first_opens is None:
        return ""
    name, seconds = now.first_opens
    bad = [it for it in now.carried if it.when == "alone" and not it.holds]
    then = "the other bears the rest"
    if bad:
        worst = min(bad, key=lambda it: it.limit_a / it.carries_a)
        then = worded("the other takes all, over what its {} bears", spoken(worst.what))
    return worded(
        "{}{} opens after {}; {}. Together they run {} in place of {}.",
        name[:1].upper(),
        name[1:],
        say_hours(seconds / 3600.0),
        then,
        say_hours(now.course.hours),
        say_hours(before.course.hours),
    )


def _charged(sides: tuple[PackSide, ...], amps: float, volts: float) -> str:
    """Who is full first on one charger, and each on one of its own."""
    low = tuple(standing_at(it, min(it.at, EMPTIED)) for it in sides)
    both = charged_together(low, amps, volts)
    first = low[both.first]
    bad = [it for it in both.carried if not it.holds]
    over = ""
    if bad:
        worst = min(bad, key=lambda it: it.limit_a / it.carries_a)
        over = worded(
            " {} would take {}: over its {}, {}.",
            worst.side,
            say(worst.carries_a, "A"),
            spoken(worst.what),
            say(worst.limit_a, "A"),
        )
    own = charged_apart(low, [(amps, volts)] * len(low))
    each = ", ".join(f"{it.name} {say_hours(one.hours)}" for it, one in zip(low, own, strict=True))
    if math.isinf(both.hours):
        return worded("Never: a charger of {} does not fill them.", say(volts, "V"))
    return worded(
        "From {}: all are full after {}, {} first, after {}.{} Each on one of its own: {}.",
        say(EMPTIED, "%"),
        say_hours(both.hours),
        first.name,
        say_hours(both.full_s[both.first] / 3600.0),
        over,
        each,
    )


def _flows(joining: JoinedSides) -> str:
    apart, peak = say(abs(joining.apart_v), "V"), say(joining.peak_a, "A")
    if joining.is_safe:
        return worded(
            "{} apart: {} flow when it is plugged in again; every part bears it.", apart, peak
        )
    worst = min(joining.limits, key=lambda it: it.limit_a / max(it.carries_a, 1e-9))
    return worded(
        "{} apart: {} would flow when it is plugged in again; no more than "
        "{} by {} of {}. Wait until they are level, or charge the lower "
        "one first.",
        apart,
        peak,
        say(worst.limit_a, "A"),
        spoken(worst.what),
        worst.side,
    )


def _takes(sides: tuple[PackSide, ...], amps: float) -> str:
    carried = braking(sides, amps)
    if not carried:
        return in_words("Nothing is taken by either.")
    most = {it.side: it.carries_a for it in carried}
    shares = ", ".join(worded("{} takes {}", name, say(it, "A")) for name, it in most.items())
    bad = [it for it in carried if not it.holds]
    if not bad:
        return worded("{}{}: every part bears it.", shares[:1].upper(), shares[1:])
    worst = min(bad, key=lambda it: it.limit_a / it.carries_a)
    return worded(
        "{}{}; no more than {} by its {}. Brake less, or not when both are full.",
        shares[:1].upper(),
        shares[1:],
        say(worst.limit_a, "A"),
        spoken(worst.what),
    )
