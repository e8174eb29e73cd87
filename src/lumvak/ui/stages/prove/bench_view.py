"""The bench: which instruments, what will be switched on, and a plan as it runs."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

import numpy as np
import pyqtgraph as pg
from PyQt6.QtGui import QColor
from PyQt6.QtWidgets import (
    QComboBox,
    QGridLayout,
    QHBoxLayout,
    QLineEdit,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from lumvak.bench.procedures import in_order
from lumvak.bench.simulated.faults import FAULTS
from lumvak.core.document.proving import ProofReading, TestName
from lumvak.core.evaluation import Evaluation
from lumvak.core.proving.bench_pack import BenchPack
from lumvak.core.proving.guide import GUIDES, settings_said
from lumvak.ui.session import Session
from lumvak.ui.speech import in_words, say, spoken, worded
from lumvak.ui.stages.prove.prover import Prover
from lumvak.ui.stages.prove.runner import BenchSource
from lumvak.ui.widgets.choice import ChoiceRow
from lumvak.ui.widgets.flow import flowing, scrolled_body
from lumvak.ui.widgets.pages import Page
from lumvak.ui.widgets.plots import Plot, keep_room, legend_look, named_plot, show_points
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import heading, plain, soft

ROLES = ("meter", "supply", "load", "thermometer", "bms")
ROLE_WORDS = {"meter": "meter", "supply": "supply", "load": "load",
              "thermometer": "thermometer", "bms": "BMS"}  # fmt: skip
SPEEDS = ((1000.0, "1000×"), (60.0, "60×"), (0.0, "at once"))
HINT = "TCPIP0::192.168.1.20::5025::SOCKET"
# What is drawn while a plan runs: of what, where, the words, the colour.
CURVES = (
    ("volts", "terminals", "output, V", "copper"),
    ("amps", "pack", "current, A", "verdigris"),
)


class BenchView(Page):
    """Instruments at the top, then what will happen, then what happens."""

    def __init__(self, session: Session, prover: Prover) -> None:
        super().__init__(session)
        self.prover = prover
        self.kind = ChoiceRow(((True, "simulated"), (False, "instruments")), "Bench")
        self.speed = ChoiceRow(SPEEDS, "Speed of the simulated bench")
        self.seed = QLineEdit("1")
        self.seed.setFixedWidth(THEME.px(64))
        self.seed.setAccessibleName(in_words("Seed of the simulated pack"))
        self.fault = QComboBox()
        self.fault.setAccessibleName(in_words("Hidden fault"))
        self.fault.addItem(in_words("none"), "")
        for name, words in FAULTS.items():
            self.fault.addItem(words, name)
        self.simulated = flowing(
            soft("speed"), self.speed, soft("seed"), self.seed, soft("fault"), self.fault, gap=8
        )
        self.resources = {role: QLineEdit() for role in ROLES}
        self.real = self._resources()
        self.will = heading("What will happen")
        self.acts = plain("")
        self.acts.setWordWrap(True)
        self.caution = plain("")
        self.caution.setWordWrap(True)
        self.caution.setObjectName("caution")
        self.begin = QPushButton("begin: this switches load and supply on")
        self.whole = QPushButton("the whole plan")
        self.pause, self.stop = QPushButton("pause"), QPushButton("stop, all off")
        self.go_on, self.no = QPushButton("done, go on"), QPushButton("no")
        self.asks, self.state = heading(""), soft("", wrap=True)
        self.alarm = plain("")
        self.alarm.setWordWrap(True)
        self.alarm.setFont(THEME.font("title", strong=True))
        self.alarm.setObjectName("bad")
        self.plot = self._plot()
        self._points: dict[str, list[tuple[float, float]]] = {}
        self._of: tuple[str, int] = ("", 0)
        self._at = 0.0
        self._lay_out()
        self.kind.picked.connect(self._pick_kind)
        self.speed.picked.connect(self.speed.show_value)
        self.begin.clicked.connect(lambda: self._start(self._wanted()))
        self.whole.clicked.connect(self._take_whole)
        self.pause.clicked.connect(self._pause)
        self.stop.clicked.connect(self._stop)
        self.go_on.clicked.connect(lambda: self._answer("yes"))
        self.no.clicked.connect(lambda: self._answer("no"))
        prover.ran.connect(self._show_running)
        prover.changed.connect(self._show)
        prover.read.connect(self._take_readings)

    def _resources(self) -> QWidget:
        box = QWidget()
        grid = QGridLayout(box)
        grid.setContentsMargins(0, 0, 0, 0)
        for row, role in enumerate(ROLES):
            field = self.resources[role]
            field.setPlaceholderText(HINT)
            field.setAccessibleName(worded("Resource of the {}", ROLE_WORDS[role]))
            grid.addWidget(soft(ROLE_WORDS[role]), row, 0)
            grid.addWidget(field, row, 1)
        return box

    def _plot(self) -> Plot:
        plot = named_plot("V, A", "minutes into the test")
        plot.setAccessibleName(in_words("Volts and amps of the test that runs"))
        plot.addLegend(offset=(-8, 8), **legend_look())
        keep_room(plot, 220)
        self.lines: dict[str, pg.PlotDataItem] = {}
        unseen = pg.mkPen(QColor(0, 0, 0, 0))
        edges = [plot.plot([], [], pen=unseen) for _ in range(2)]
        plot.addItem(pg.FillBetweenItem(*edges, brush=THEME.colour("copper_wash")))
        self.edges = edges
        for what, place, words, role in CURVES:
            pen = pg.mkPen(THEME.colour(role), width=2)
            self.lines[f"{what} {place}"] = plot.plot([], [], pen=pen, name=words)
        return plot

    def _lay_out(self) -> None:
        outer = QVBoxLayout(scrolled_body(self))
        outer.setContentsMargins(THEME.px(24), 0, THEME.px(12), THEME.px(6))
        outer.setSpacing(THEME.px(8))
        outer.addWidget(flowing(soft("bench"), self.kind, gap=8))
        outer.addWidget(self.simulated)
        outer.addWidget(self.real)
        both = QHBoxLayout()
        both.setSpacing(THEME.px(20))
        left, right = QVBoxLayout(), QVBoxLayout()
        left.setSpacing(THEME.px(8))
        left.addWidget(self.will)
        left.addWidget(self.acts)
        left.addWidget(self.caution)
        left.addWidget(flowing(self.whole, self.begin))
        left.addStretch(1)
        right.addWidget(self.alarm)
        right.addWidget(self.state)
        asked = QHBoxLayout()
        asked.addWidget(self.asks, 1)
        asked.addWidget(self.go_on)
        asked.addWidget(self.no)
        right.addLayout(asked)
        right.addWidget(flowing(self.pause, self.stop))
        right.addWidget(self.plot, 1)
        right.addStretch(0)
        # There is nothing to see before something was read.
        self.plot.setVisible(False)
        both.addLayout(left, 5)
        both.addLayout(right, 7)
        outer.addLayout(both, 1)

    # What is shown.

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Have results worked out for an evaluation; show what there is."""
        self.prover.follow(evaluation)
        self._show()

    def _wanted(self) -> tuple[TestName, ...]:
        return tuple(in_order(self.prover.wanted))

    def _show(self) -> None:
        simulated = bool(self.kind.value)
        self.simulated.setVisible(simulated)
        self.real.setVisible(not simulated)
        results = self.prover.results
        wanted = self._wanted()
        if results is not None:
            pack = results.ready.pack
            self.acts.setText("\n".join(_acts(wanted, pack)))
            cautions = dict.fromkeys(text for test in wanted for text in GUIDES[test].cautions)
            self.caution.setText(" ".join(list(cautions)[:3]))
        self._show_running()

    def _show_running(self) -> None:
        runner, running = self.prover.runner, self.prover.running
        ready = self.prover.results is not None and not running
        self.begin.setEnabled(ready and bool(self._wanted()))
        self.whole.setEnabled(ready)
        self.pause.setVisible(running)
        self.stop.setVisible(running)
        asks = runner.asks if runner is not None and running else ""
        self.asks.setText(asks)
        self.asks.setVisible(bool(asks))
        self.go_on.setVisible(bool(asks))
        self.no.setVisible(asks.endswith("?"))
        self.alarm.setText("" if runner is None else runner.alarm)
        self.alarm.setVisible(bool(self.alarm.text()))
        if runner is None:
            self.state.setText(in_words("Nothing is switched on.") if ready else "")
            return
        stopped = [
            f"{GUIDES[run.test].name}: {spoken(run.stopped)}" for run in runner.runs if run.stopped
        ]
        done = worded("{} of {} tests are done", len(runner.runs), len(runner.tests))
        if running:
            at = runner.at
            words = worded("{} runs", GUIDES[at].name) if at is not None else "It begins"
            paused = ", paused" if runner.paused.is_set() else ""
            self.state.setText(f"{words}{paused}; {done}.")
            self.pause.setText(in_words("go on") if runner.paused.is_set() else in_words("pause"))
        else:
            off = "" if runner.alarm else " Load and supply are off, read back."
            self.state.setText(
                "\n".join([f"{done}.{off}", *stopped, *filter(None, (runner.problem,))])
            )

    def _take_readings(self, readings: list[ProofReading]) -> None:
        """Draw what was read of the test that runs."""
        for reading in readings:
            minutes = (reading.at_s or 0.0) / 60.0
            # A test that begins anew, once the pack is full and cool, is drawn anew.
            if (reading.test, reading.attempt) != self._of or minutes < self._at:
                self._of = (reading.test, reading.attempt)
                self._points = {key: [] for key in self.lines}
            self._at = minutes
            key = f"{reading.what} {reading.place}"
            if key in self._points:
                self._points[key].append((minutes, reading.value))
            if reading.amps is not None and reading.place == "terminals":
                self._points["amps pack"].append((minutes, reading.amps))
        self.plot.setVisible(True)
        self._show_band()
        for key, points in self._points.items():
            x, y = np.array(points).T if points else (np.zeros(0), np.zeros(0))
            self.lines[key].setData(x, y)
        self._show_range()
        last = readings[-1]
        self.plot.setAccessibleName(
            worded(
                "Volts and amps of the test that runs: last {} {}", last.place, say(last.value, "")
            )
        )

    def _show_range(self) -> None:
        """All that was read; under a full discharge the volts with their band, closer."""
        shown = self._points
        results, low = self.prover.results, 0.0
        closer = self._of[0] == "full-discharge" and results is not None
        if closer and results is not None:
            self.lines["amps pack"].setData([], [])
            shown = {"volts": self._points["volts terminals"]}
            low = 0.96 * float(results.ready.course.low_v.min())
        points = [point for points in shown.values() for point in points]
        if points:
            times, values = np.array(points).T
            wide, high = max(float(times.max()), 0.1), max(float(values.max()), 0.1)
            self.plot.show_whole((0.0, wide), (low, low + 1.08 * (high - low)))

    def _show_band(self) -> None:
        """Where nine in ten sound packs run, under a full discharge."""
        results = self.prover.results
        if self._of[0] == "full-discharge" and results is not None:
            course = results.ready.course
            show_points(self.edges[0], course.minutes, course.low_v)
            show_points(self.edges[1], course.minutes, course.high_v)
        else:
            for edge in self.edges:
                show_points(edge, [], [])

    # What is done.

    def _pick_kind(self, simulated: bool) -> None:
        self.kind.show_value(simulated)
        self._show()

    def _take_whole(self) -> None:
        results = self.prover.results
        if results is not None:
            tests = [it.test for it in results.proof.tests]
            self.prover.wanted = tuple(in_order(tests))
            self._show()

    def source(self) -> BenchSource | None:
        """Where the tests are to be run; ``None``, and told, where that is not said yet."""
        if self.kind.value:
            text = self.seed.text().strip()
            if not (text.isascii() and text.isdigit() and len(text) < 10):
                self.session.tell(
                    "warn", worded("“{}” is no seed; accepted: a whole number.", text)
                )
                return None
            fault = self.fault.currentData()
            faults = (str(fault),) if fault else ()
            return BenchSource({}, int(text), faults, self.speed.value)
        named = {role: field.text().strip() for role, field in self.resources.items()}
        named = {role: text for role, text in named.items() if text}
        if not named:
            self.session.tell("warn", worded("No instrument is named; accepted: such as {}.", HINT))
            return None
        known = tuple(self.session.evaluation.sized.parts.instruments.values())
        return BenchSource(named, known=known)

    def _start(self, tests: tuple[TestName, ...]) -> None:
        source = self.source()
        if source is not None:
            self.prover.start(source, tests)

    def _pause(self) -> None:
        runner = self.prover.runner
        if runner is not None:
            (runner.paused.clear if runner.paused.is_set() else runner.paused.set)()
            self._show_running()

    def _stop(self) -> None:
        if self.prover.runner is not None:
            self.prover.runner.stop()

    def _answer(self, words: str) -> None:
        if self.prover.runner is not None:
            self.prover.runner.answer(words)


def _acts(wanted: Sequence[TestName], pack: BenchPack) -> Iterator[str]:
    """What will be done: what is read alone first, then what load and supply are set to."""
    said = {test: spoken(settings_said(test, pack)) for test in wanted}
    quiet = [GUIDES[test].name for test in wanted if not said[test]]
    if quiet:
        yield worded("Read alone, nothing on: {}.", ", ".join(quiet))
    for test in wanted:
        if said[test]:
            yield f"{GUIDES[test].name}. {said[test]}"
