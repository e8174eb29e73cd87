"""What the pack was before, and what becomes of it: its claims, its past, and what goes on."""

from __future__ import annotations

from collections.abc import Iterator

from msgspec import Struct
from PyQt6.QtWidgets import QPushButton, QVBoxLayout

from lumvak.core.document.afterwards.passport import Passport
from lumvak.core.document.afterwards.record_of_pack import How
from lumvak.core.evaluation import Evaluation
from lumvak.core.fields import fields_of
from lumvak.core.record_of_pack.passport import passport_of
from lumvak.ui.session import Session
from lumvak.ui.speech import in_words, say, worded
from lumvak.ui.widgets.flow import flowing, scrolled_body
from lumvak.ui.widgets.pages import Page
from lumvak.ui.widgets.rows import Column, row_of
from lumvak.ui.widgets.tables import RowsTable, fit_height
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import heading, soft

ONWARD: tuple[tuple[How, str, str], ...] = (
    ("rebuilt", "it is rebuilt …", "The same design and cells; tests and places begin anew."),
    ("extended", "it is extended …", "New cells join its groups; it is the old pack of them."),
    ("taken apart", "it is taken apart …", "Its cells become a lot of cells in hand."),
)


class _Claim(Struct, frozen=True):
    """A claim as a row: what, as claimed, as it is here, and whether they differ."""

    what: str
    claimed: str
    here: str
    differs: bool


CLAIMS = (
    Column("what", lambda it: it.what, left=True, sample="Charge with at most", tip="Of what"),
    Column(
        "claimed",
        lambda it: it.claimed,
        left=True,
        sample="partly measured",
        tip="As its label says; nobody has checked it",
        mark=lambda it: "amber",
    ),
    Column(
        "here",
        lambda it: it.here,
        left=True,
        stretch=True,
        tip="As it is worked out or measured here; red where it is another",
        mark=lambda it: "crimson" if it.differs else "",
    ),
)
PAST = (
    Column("day", lambda it: it.day, left=True, sample="2026-05-31", tip="When it was taken over"),
    Column("it was", lambda it: it.how, left=True, sample="taken apart", tip="What became of it"),
    Column("pack", lambda it: _said_of(it.was), left=True, stretch=True, tip="What it was"),
)


class HistoryView(Page):
    """Claims of the label at the top, packs before it below, and what becomes of this one."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.claim_head = heading("Claimed by its label")
        self.claims = RowsTable(CLAIMS, "Claimed by its label")
        self.past_head = heading("Taken over from")
        self.past = RowsTable(PAST, "Packs before")
        self.onward = [QPushButton(words) for _, words, _ in ONWARD]
        outer = QVBoxLayout(scrolled_body(self))
        outer.setContentsMargins(THEME.px(24), 0, THEME.px(12), THEME.px(6))
        outer.setSpacing(THEME.px(8))
        for widget in (self.claim_head, self.claims, self.past_head, self.past):
            outer.addWidget(widget)
        outer.addWidget(heading("What becomes of it"))
        outer.addWidget(
            soft(
                "A project of its own goes on from this one, with the whole log. What was read of "
                "the pack as a whole stays here: it says nothing of what is built from it.",
                wrap=True,
            )
        )
        for button, (how, _, says) in zip(self.onward, ONWARD, strict=True):
            outer.addWidget(flowing(button, soft(says), gap=8))
            button.clicked.connect(lambda _, how=how: self.session.goes_on.emit(how))
        outer.addStretch(1)

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Show what is claimed, and what was before."""
        record = evaluation.project.record
        claims = [*_claims(record.claimed, passport_of(evaluation))] if record.claimed else []
        for part in (self.claim_head, self.claims):
            part.setVisible(bool(claims))
        for other in (self.past_head, self.past):
            other.setVisible(bool(record.taken_over))
        rows = [row_of(CLAIMS, it, value=place) for place, it in enumerate(claims)]
        self.claims.show_rows(rows)
        fit_height(self.claims, len(rows), 12, firm=True)
        past = [row_of(PAST, it, value=place) for place, it in enumerate(record.taken_over)]
        self.past.show_rows(past)
        fit_height(self.past, len(past), 6, firm=True)


def _claims(claimed: tuple[Passport, ...], here: Passport) -> Iterator[_Claim]:
    known = fields_of(Passport)
    for passport in claimed:
        for name in Passport.__struct_fields__:
            value, own = getattr(passport, name), getattr(here, name)
            if value is None or value in ("", False):
                continue
            unit = known[name].unit
            texts = [_text(it, unit) for it in (value, own)]
            yield _Claim(known[name].title, texts[0], texts[1], texts[0] != texts[1])


def _text(value: object, unit: str) -> str:
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, float):
        return say(value, unit)
    return "" if value is None else str(value)


def _said_of(was: Passport) -> str:
    size = worded(
        "{} in series, {} in parallel, {}",
        was.series,
        was.parallel,
        say(was.capacity_ah, in_words("Ah")),
    )
    return f"{was.name}: {size}{f', built {was.built}' if was.built else ''}"
