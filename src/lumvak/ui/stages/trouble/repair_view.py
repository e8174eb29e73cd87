"""How what was found is repaired, or why not, and what is to be proven again."""

from __future__ import annotations

from PyQt6.QtWidgets import QVBoxLayout

from lumvak.core.afterwards.repair import repair_of
from lumvak.core.evaluation import Evaluation
from lumvak.core.proving.guide import GUIDES
from lumvak.ui.session import Session
from lumvak.ui.speech import in_words, say, spoken, worded
from lumvak.ui.stages.trouble.answer import Found
from lumvak.ui.widgets.flow import scrolled_body
from lumvak.ui.widgets.pages import Page
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import heading, plain, soft

WAITS = "Say what is complained of first, and take what is asked for."
BY = {
    "builder": "A builder can mend it.",
    "part": "A part is replaced whole; nobody opens it.",
    "nobody": "Nobody should.",
    "nothing": "There is nothing to repair.",
}


class RepairView(Page):
    """The likeliest cause, whether it is to be repaired, the steps, and the tests."""

    def __init__(self, session: Session, found: Found) -> None:
        super().__init__(session)
        self.found = found
        self.waits = soft(WAITS)
        self.cause, self.by, self.tests = heading(""), soft("", wrap=True), soft("", wrap=True)
        self.steps = plain("")
        self.steps.setWordWrap(True)
        outer = QVBoxLayout(scrolled_body(self))
        outer.setContentsMargins(THEME.px(24), 0, THEME.px(12), THEME.px(6))
        outer.setSpacing(THEME.px(8))
        for widget in (self.waits, self.cause, self.by, self.steps, self.tests):
            outer.addWidget(widget)
        outer.addStretch(1)

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Show the plan for the likeliest cause."""
        found = self.found.of(evaluation)
        self.waits.setVisible(found is None)
        for label in (self.cause, self.by, self.steps, self.tests):
            label.setVisible(found is not None)
        if found is None:
            return
        first = found.ranked[0]
        plan = repair_of(evaluation, first)
        words = in_words(first.cause.words)
        self.cause.setText(f"{words[:1].upper()}{words[1:]}, {say(round(first.share, 2), '%')}")
        sure = "" if found.enough else " It is not sure yet: read on first."
        self.by.setText(
            worded("{}{} Used as it is: {}.", BY[first.cause.by], sure, first.cause.used)
        )
        self.steps.setText("\n".join(f"{at}. {spoken(it)}" for at, it in enumerate(plan.steps, 1)))
        again = ", ".join(in_words(GUIDES[it].name) for it in plan.tests)
        self.tests.setText(worded("Then again in Prove: {}.", again) if again else "")
