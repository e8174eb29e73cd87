"""Practise: a pack with something hidden, probes to put on it, and what each reading told."""

from __future__ import annotations

from collections.abc import Sequence

from msgspec import Struct
from PyQt6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QHBoxLayout,
    QLineEdit,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from lumvak.bench.practise.levels import FIRST_SEED, LEVELS, SAID, SOUND, Level
from lumvak.bench.practise.search import CAUSE_OF
from lumvak.bench.practise.trail import ACTS, READ, Act, Done, hidden_said, places, told_said
from lumvak.bench.simulated.faults import PLACES, Hidden
from lumvak.core.trouble.diagnosis import Diagnosis, grouped
from lumvak.core.trouble.how import cause_said, place_said, state_said
from lumvak.files.kept.score_card import Scored, best_of
from lumvak.ui.laid_over.over import Over
from lumvak.ui.laid_over.practising import Practising
from lumvak.ui.speech import digits, in_words, say, spoken, worded
from lumvak.ui.widgets.flow import flowing, scrolled
from lumvak.ui.widgets.pages import waiting
from lumvak.ui.widgets.rows import Column, row_of
from lumvak.ui.widgets.tables import RowsTable, keep_rows
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import heading, plain, soft

WIDE, HIGH, LIST_PX = 1180, 720, 230
MILLIVOLTS_UNDER_V = 0.2
PLACE_WORDS = {
    "pack": "ends of the cells", "terminals": "output", "charger": "charger's plug",
    "fuse": "fuse", "bms": "BMS", "connector": "connector",
    "air": "air", "cells": "cells", "strip": "busiest strip", "lead": "main lead",
}  # fmt: skip
KIND_WORDS = {
    "whole": "volts at", "across": "volts across", "groups": "groups",
    "series connections": "connections", "shown by the BMS": "BMS shows",
    "warmth": "warmth of",
}  # fmt: skip


class _LevelLine(Struct, frozen=True):
    """A level as a row: how it went best."""

    level: Level
    best: Scored | None


def _best_said(line: _LevelLine) -> str:
    best = line.best
    if best is None:
        return ""
    if not best.right:
        return in_words("not found")
    return f"{'found' if best.whole else 'nearly'}, {best.readings}"


LEVEL_COLUMNS = (
    Column("level", lambda it: str(it.level.number), sample="00", tip="From easy to hard"),
    Column(
        "best",
        _best_said,
        left=True,
        stretch=True,
        mark=lambda it: "verdigris" if it.best is not None and it.best.whole else "",
        tip="Best so far: with how many readings; nearly is the wrong place, or an unsafe step",
    ),
)


class _TrailLine(Struct, frozen=True):
    """A step of the trail, with what it told once that is known."""

    number: int
    done: Done
    bits: float | None


def _told(line: _TrailLine) -> str:
    if line.bits is None:
        return ""
    said = told_said(line.bits, line.done.value is not None)
    return (
        worded("{}, {} bits", said, f"{line.bits:+.1f}").replace("-", "−")
        if said
        else line.done.unsafe
    )


TRAIL_COLUMNS = (
    Column("no.", lambda it: str(it.number), sample="00", tip="In which order"),
    Column("while", lambda it: it.done.state, left=True, sample="awake, charger on", tip="State"),
    Column(
        "done",
        lambda it: act_said(it.done.act),
        left=True,
        sample="between 3 and 4 was read",
        tip="What was done, or where it was read",
    ),
    Column("shows", lambda it: _shown(it.done), sample="−00.0000 V", tip="What the meter showed"),
    Column(
        "told",
        _told,
        left=True,
        stretch=True,
        mark=lambda it: "crimson" if it.done.unsafe and it.bits is not None else "",
        tip="What it told of what was hidden, once you answered",
    ),
)


def act_said(act: Act) -> str:
    """An act or a place in words."""
    if act.do != READ:
        return ACTS[act.do]
    name, _, number = act.place.partition(":")
    if name == "joint":
        return worded("between {} and {}", number, int(number) + 1)
    return {"group": worded("group {}", number), "shown": worded("BMS shows {}", number)}.get(
        name, PLACE_WORDS.get(name, name)
    )


def _shown(done: Done) -> str:
    if done.value is None:
        return ""
    if done.unit != "V":
        return say(round(done.value, 1), done.unit)
    # As a meter shows it.
    if abs(done.value) < MILLIVOLTS_UNDER_V:
        return worded("{} mV", digits(1000.0 * done.value, ".1f"))
    return worded("{} V", digits(done.value, ".3f"))


class PractisePage(Over):
    """Levels at the left; the pack in hand, its trail and the answer at the right."""

    def __init__(self, over: QWidget, practising: Practising) -> None:
        super().__init__(over, "Practise", WIDE, HIGH)
        self.practising = practising
        self.levels = RowsTable(LEVEL_COLUMNS, "Levels")
        self.seed = QLineEdit(str(FIRST_SEED))
        self.seed.setAccessibleName(in_words("Pack of the level"))
        self.seed.setFixedWidth(THEME.px(70))
        self.begin = QPushButton("begin")
        self.says, self.state = heading(""), soft("", wrap=True)
        self.where = QVBoxLayout()
        self.trail = RowsTable(TRAIL_COLUMNS, "What was done")
        self.answers = [_AnswerField(place) for place in (1, 2)]
        self.beside = QCheckBox("a search beside it")
        self.beside.setToolTip(
            in_words("What Trouble makes of what was read so far; it knows no more")
        )
        self.search, self.take = soft("", wrap=True), QPushButton("take that reading")
        self.give = QPushButton("this is what it hides")
        self.result = plain("")
        self.result.setWordWrap(True)
        self.problem = soft(practising.problem, wrap=True)
        self._places: dict[str, QPushButton] = {}
        self._acts: dict[str, QPushButton] = {}
        self._picked, self._series = 1, 0
        self._lay_out()
        self.levels.picked.connect(self._pick)
        self.begin.clicked.connect(self._begin)
        self.give.clicked.connect(self._give)
        self.beside.clicked.connect(lambda _: self._show())
        self.take.clicked.connect(self._take)
        practising.changed.connect(self._show)
        practising.said.connect(self.problem.setText)
        self._show()

    def _lay_out(self) -> None:
        left, right = QVBoxLayout(), QVBoxLayout()
        left.addWidget(heading("Practise"))
        left.addWidget(
            soft(
                "A pack hides something. Read until you know, then say what it is. Escape leaves; "
                "the pack stays as it is.",
                wrap=True,
            )
        )
        left.addWidget(self.levels, 1)
        left.addWidget(flowing(soft("pack no."), self.seed, self.begin, gap=6))
        left.addWidget(self.problem)
        right.addWidget(self.says)
        right.addWidget(self.state)
        where = QWidget()
        where.setLayout(self.where)
        self.where.setContentsMargins(0, 0, 0, 0)
        self.where.setSpacing(THEME.px(4))
        right.addWidget(scrolled(where), 7)
        right.addWidget(self.trail, 5)
        keep_rows(self.trail, 4)
        right.addWidget(flowing(self.beside, self.take, gap=8))
        right.addWidget(self.search)
        right.addWidget(flowing(*self.answers, self.give, gap=8))
        right.addWidget(self.result)
        both = QHBoxLayout()
        both.setSpacing(THEME.px(20))
        box = QWidget()
        box.setLayout(left)
        box.setFixedWidth(THEME.px(LIST_PX))
        left.setContentsMargins(0, 0, 0, 0)
        both.addWidget(box)
        both.addLayout(right, 1)
        self.body.addLayout(both)

    # What is shown.

    def ask(self) -> None:
        """Lie over the window."""
        self.lie_over()
        self.levels.setFocus()

    def _show(self) -> None:
        practising = self.practising
        level = practising.level
        lines = [_LevelLine(it, best_of(practising.scores, it.number)) for it in LEVELS]
        self.levels.show_rows(
            [
                row_of(
                    LEVEL_COLUMNS,
                    it,
                    value=it.level.number,
                    key=it.level.number,
                    chosen=it.level.number == self._picked,
                )
                for it in lines
            ]
        )
        self.says.setText(
            in_words("Pick a level, and begin.") if level is None else f"“{level.says}”"
        )
        two = level is not None and level.pairs
        things = "two things" if two else "one thing, or nothing"
        size = worded("{} groups; {} may be wrong with it. The BMS is", practising.series, things)
        self.state.setText("" if level is None else f"{size} {practising.state}.")
        if practising.series != self._series:
            self._series = practising.series
            self._show_places()
        for button in (*self._places.values(), *self._acts.values()):
            button.setEnabled(practising.running)
        bits = None if practising.told is None else practising.told.bits
        trail = [
            _TrailLine(at + 1, it, None if bits is None else bits[at])
            for at, it in enumerate(practising.done)
        ]
        rows = [row_of(TRAIL_COLUMNS, it, value=it.number, key=it.number) for it in trail]
        self.trail.show_rows(rows[::-1])
        for place, field in enumerate(self.answers):
            field.setVisible(level is not None and (place == 0 or two))
            field.setEnabled(practising.running)
            field.show_series(practising.series)
        self.give.setVisible(level is not None)
        self.give.setEnabled(practising.running)
        self.result.setText(self._result())
        self._show_search()

    def _show_search(self) -> None:
        """What a search makes of what was read, and what it asks for next."""
        practising = self.practising
        self.beside.setVisible(practising.level is not None)
        wanted = practising.asked if self.beside.isChecked() else None
        self.take.setVisible(wanted is not None)
        found = practising.search if self.beside.isChecked() else None
        self.search.setVisible(found is not None)
        if found is None:
            return
        said = [f"{spoken(cause_said(it))}, {100.0 * it.share:.0f} %" for it in grouped(found)[:3]]
        likely = worded("Likeliest: {}.", "; ".join(said))
        if not practising.running:
            tail = _as_search_has(practising.hidden, found)
        elif wanted is None:
            tail = "More readings here would tell it little."
        else:
            state = spoken(state_said(wanted.state, wanted.amount))
            tail = worded("It asks for {}, {}.", spoken(place_said(wanted.place)), state)
        self.search.setText(f"{likely} {tail}")

    def _show_places(self) -> None:
        """Buttons for every place of the pack in hand, and for what can be done with it."""
        while (item := self.where.takeAt(0)) is not None:
            if (old := item.widget()) is not None:
                old.deleteLater()
        self._places, self._acts = {}, {}
        for kind, names in places(self._series).items():
            buttons = []
            for name in names:
                button = self._button(name)
                button.clicked.connect(lambda _, name=name: self.practising.do(Act(READ, name)))
                self._places[name] = button
                buttons.append(button)
            self.where.addWidget(flowing(soft(KIND_WORDS[kind]), *buttons, gap=6))
        acts = []
        for name, words in ACTS.items():
            button = QPushButton(words)
            button.clicked.connect(lambda _, name=name: self._do(name))
            self._acts[name] = button
            acts.append(button)
        self.where.addWidget(flowing(soft("do"), *acts, gap=6))
        self.where.addStretch(1)

    @staticmethod
    def _button(name: str) -> QPushButton:
        kind, _, number = name.partition(":")
        words = f"{number}–{int(number) + 1}" if kind == "joint" else number or PLACE_WORDS[kind]
        button = QPushButton(words)
        button.setAccessibleName(worded("Read {}", act_said(Act(READ, name))))
        return button

    def _result(self) -> str:
        practising, score = self.practising, self.practising.score
        if score is None:
            return ""
        verdict = "Found" if score.right and score.place_right else "Not found"
        if score.right and not score.place_right:
            verdict = "Found, but elsewhere"
        said = f"{verdict}: {hidden_said(practising.hidden)}."
        if practising.told is None:
            return worded("{} Working out what each reading told …", said)
        unsafe = list(dict.fromkeys(it.unsafe for it in practising.done if it.unsafe))
        readings = sum(it.act.do == READ for it in practising.done)
        told = worded("{} readings, {} of them told nothing.", readings, practising.needless)
        sure = worded("After them one may be sure to {} %.", f"{100.0 * practising.told.sure:.0f}")
        danger = worded(" Unsafe: {}.", "; ".join(unsafe)) if unsafe else " Nothing was unsafe."
        return f"{said} {told} {sure}{danger}"

    # What is done.

    def _pick(self, number: int) -> None:
        self._picked = number
        self._show()

    def _begin(self) -> None:
        text = self.seed.text().strip()
        if not (text.isascii() and text.isdigit() and len(text) < 10):
            self.problem.setText(worded("“{}” is no pack; accepted: a whole number.", text[:20]))
            return
        self.problem.setText("")
        with waiting():
            self.practising.begin(self._picked, int(text))

    def _do(self, name: str) -> None:
        with waiting():
            self.practising.do(Act(name))

    def _take(self) -> None:
        with waiting():
            self.practising.take_asked()

    def _give(self) -> None:
        shown = [it for it in self.answers if not it.isHidden()]
        self.practising.give([item for field in shown if (item := field.answer) is not None])


def _as_search_has(hidden: Sequence[Hidden], found: Diagnosis) -> str:
    """Where a search has what was hidden in its ranking."""
    names = [it.cause.name for it in grouped(found)]
    wanted = [CAUSE_OF.get(it.fault, "") for it in hidden] or [SOUND]
    places = [names.index(it) + 1 for it in wanted if it in names]
    if len(places) < len(wanted):
        return in_words("It does not name what was hidden.")
    return worded("What was hidden is no. {} of its causes.", " and ".join(map(str, places)))


class _AnswerField(QWidget):
    """A fault to choose, and its place where it has one."""

    def __init__(self, number: int) -> None:
        super().__init__()
        self.fault, self.place = QComboBox(), QComboBox()
        self.fault.setAccessibleName(worded("What it hides, {}", number))
        self.place.setAccessibleName(worded("Where, {}", number))
        for name, words in SAID.items():
            self.fault.addItem(words, name)
        self._series = -1
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.addWidget(self.fault)
        row.addWidget(self.place)
        self.fault.currentIndexChanged.connect(lambda _: self._fill())

    def show_series(self, series: int) -> None:
        """Offer the places of a pack."""
        if series != self._series:
            self._series = series
            self._fill()

    def _fill(self) -> None:
        kind = PLACES.get(str(self.fault.currentData()))
        self.place.clear()
        self.place.setVisible(kind is not None)
        for words in _place_words(kind, str(self.fault.currentData()), self._series):
            self.place.addItem(words)

    @property
    def answer(self) -> Hidden | None:
        """The fault with its place; none where it is sound."""
        name = str(self.fault.currentData())
        if name == SOUND:
            return None
        return Hidden(name, max(self.place.currentIndex(), 0) if name in PLACES else 0)


def _place_words(kind: str | None, fault: str, series: int) -> Sequence[str]:
    if kind == "group":
        return [worded("group {}", group) for group in range(1, series + 1)]
    if kind == "joint":
        return [worded("between {} and {}", joint, joint + 1) for joint in range(1, series)]
    if fault == "swapped-leads":
        return [worded("leads {} and {}", lead, lead + 1) for lead in range(1, series)]
    return [worded("lead {}", lead) for lead in range(1, series)] if kind == "lead" else []
