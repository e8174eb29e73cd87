"""What happens when one is unplugged and plugged in again, or when a brake gives back."""

from __future__ import annotations

from PyQt6.QtWidgets import QVBoxLayout

from lumvak.core import units
from lumvak.core.beside.joining import JoinedSides
from lumvak.core.beside.side import PackSide, why_not
from lumvak.core.beside.what_if import braking, replugged
from lumvak.core.evaluation import Evaluation
from lumvak.core.put_beside import load_of, second_of, side_of
from lumvak.core.units import QuantityError
from lumvak.ui.session import Session
from lumvak.ui.speech import parse, said_of, say, spoken
from lumvak.ui.stages.beside.other_file import OtherFile
from lumvak.ui.widgets.entry import EntryField
from lumvak.ui.widgets.flow import flowing, scrolled_body
from lumvak.ui.widgets.pages import Page
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import heading, plain, soft

# What is asked first: minutes together, minutes alone, and what a brake gives.
ASKED = ("20 min", "15 min", "8 A")


class WhatIfView(Page):
    """A question with its numbers, and its answer below."""

    def __init__(self, session: Session, other: OtherFile) -> None:
        super().__init__(session)
        self.other = other
        self.together = self._field("Both run for", ASKED[0])
        self.alone = self._field("Then this pack alone for", ASKED[1])
        self.brake = self._field("A brake gives", ASKED[2])
        self.replugged, self.braked, self.problem = plain(""), plain(""), plain("")
        self.waits = soft("Say first what stands beside this pack, under “both together”.")
        for label in (self.replugged, self.braked, self.problem):
            label.setWordWrap(True)
        self.problem.setObjectName("bad")
        outer = QVBoxLayout(scrolled_body(self))
        outer.setContentsMargins(THEME.px(24), 0, THEME.px(12), THEME.px(6))
        outer.setSpacing(THEME.px(8))
        outer.addWidget(self.waits)
        outer.addWidget(self.problem)
        outer.addWidget(heading("Unplugged, and plugged in again"))
        words = soft("both run for"), soft("then this pack alone for")
        outer.addWidget(flowing(words[0], self.together, words[1], self.alone, gap=8))
        outer.addWidget(self.replugged)
        outer.addWidget(heading("A brake gives back"))
        outer.addWidget(flowing(soft("into both"), self.brake, gap=8))
        outer.addWidget(self.braked)
        outer.addStretch(1)
        for field in (self.together, self.alone, self.brake):
            field.editingFinished.connect(lambda: self.show_evaluation(self.session.evaluation))

    @staticmethod
    def _field(name: str, text: str) -> EntryField:
        field = EntryField(text)
        field.setAccessibleName(name)
        field.setFixedWidth(THEME.px(84))
        return field

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Answer both questions for the packs of an evaluation."""
        second = second_of(evaluation, self.other.side())
        own = side_of(evaluation, evaluation.project.beside.own_at)
        may = second is not None and not why_not((own, second))
        self.waits.setVisible(not may)
        self.problem.setText("")
        for label in (self.replugged, self.braked):
            label.setVisible(may)
        if second is None or not may:
            self.problem.setVisible(False)
            return
        try:
            spans = [parse(field.text(), units.SECONDS) for field in (self.together, self.alone)]
            amps = parse(self.brake.text(), units.CURRENT)
        except QuantityError as problem:
            self.problem.setText(said_of(problem))
            self.problem.setVisible(True)
            return
        self.problem.setVisible(False)
        found = replugged(own, second, load_of(evaluation), spans[0], spans[1])
        stand = " and ".join(say(it, "%") for it in found.charges)
        self.replugged.setText(f"They stand at {stand} then. {_flows(found.joining)}")
        self.braked.setText(_takes((own, second), amps))


def _flows(joining: JoinedSides) -> str:
    apart, peak = say(abs(joining.apart_v), "V"), say(joining.peak_a, "A")
    if joining.is_safe:
        return f"{apart} apart: {peak} flow when it is plugged in again; every part bears it."
    worst = min(joining.limits, key=lambda it: it.limit_a / max(it.carries_a, 1e-9))
    return (
        f"{apart} apart: {peak} would flow when it is plugged in again; no more than "
        f"{say(worst.limit_a, 'A')} by {spoken(worst.what)} of {worst.side}. Wait until they are "
        "level, or charge the lower one first."
    )


def _takes(sides: tuple[PackSide, PackSide], amps: float) -> str:
    carried = braking(sides, amps)
    if not carried:
        return "Nothing is taken by either."
    most = {it.side: it.carries_a for it in carried}
    shares = ", ".join(f"{name} takes {say(it, 'A')}" for name, it in most.items())
    bad = [it for it in carried if not it.holds]
    if not bad:
        return f"{shares[:1].upper()}{shares[1:]}: every part bears it."
    worst = min(bad, key=lambda it: it.limit_a / it.carries_a)
    return (
        f"{shares[:1].upper()}{shares[1:]}; no more than {say(worst.limit_a, 'A')} by its "
        f"{spoken(worst.what)}. Brake less, or not when both are full."
    )
