"""The first charge in stages, and the log of a charge on what is expected, as it grows."""

from __future__ import annotations

import time
from collections.abc import Callable
from pathlib import Path

import numpy as np
import pyqtgraph as pg
from PyQt6.QtWidgets import QFileDialog, QPushButton, QVBoxLayout, QWidget

from lumvak.core import units
from lumvak.core.charging.charge_log import LogRead, Remark
from lumvak.core.charging.first_charge import CAUTIONS, FirstCharge, PlanStage
from lumvak.core.charging_in_hand import log_in_hand, plan_in_hand, why_no_plan
from lumvak.core.document.charging import LONGEST_LOG_S, LogRow
from lumvak.core.evaluation import Evaluation
from lumvak.core.said import capital, listed, phrase, sentences
from lumvak.core.steps import Steps
from lumvak.core.units import QuantityError
from lumvak.files.logs.charge_log import log_csv, read_charge_log
from lumvak.files.problem import FileProblem, read_text, write_atomically
from lumvak.ui.bench_mode import BenchMode, BenchStep
from lumvak.ui.exports import ask_place, write_out
from lumvak.ui.session import Session
from lumvak.ui.speech import digits, in_words, parse, said_of, say, say_hours, spoken, worded
from lumvak.ui.stages.charging.plan import NAMES, PLAN, plan_row
from lumvak.ui.stages.charging.simulated import Simulated
from lumvak.ui.widgets.entry import large_entry
from lumvak.ui.widgets.flow import Turning, flowing, scrolled_body
from lumvak.ui.widgets.pages import Page
from lumvak.ui.widgets.plots import keep_room, named_plot, round_range, show_points
from lumvak.ui.widgets.quantity_field import edit_or_why, mark_bad, small_field
from lumvak.ui.widgets.rows import Column, LazyRows, Row
from lumvak.ui.widgets.tables import RowsTable, fit_height, keep_rows
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import heading, plain, soft

LOG = (
    Column("at", tip="Since the first reading"),
    Column("volts", tip="Of the pack"),
    Column("amps", tip="Where none was read, that of the reading before"),
    Column("warmest", tip="As it was read"),
    Column("so far", tip="Counted up to here"),
    Column("it is", left=True, stretch=True, wraps=True, tip="Against what is expected"),
)
HOW = "volts amps °C, or volts and amps alone; volts of every group after a semicolon"
# A clock this far behind the last reading was set.
BACK_S = 2.0
CLOCK_JUMPED = (
    "The computer's clock jumped. The reading is kept, a minute after the one before; what was "
    "counted in between is not to be relied on."
)
MOST_DOTS = 2000
BUTTONS = ("import a log …", "export as CSV …", "forget the last", "begin anew")


class LogView(Page):
    """The plan, the field that keeps a reading, its course, and what is said of it."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        # One that goes on while the computer sleeps, and that nobody sets.
        self.clock: Callable[[], float] = lambda: time.clock_gettime(time.CLOCK_BOOTTIME)
        # When the first reading was taken, by the clock; of a log that was brought in unknown.
        self._begun: float | None = None
        self._steps = Steps()
        self.bench: BenchMode | None = None
        self.plan_table = RowsTable(PLAN, "The first charge in stages")
        self.stage, self.stage_says = "slow", soft("", wrap=True)
        self.entry = large_entry("Reading of the charge")
        self.buttons = {name: QPushButton(name) for name in BUTTONS}
        self.wall = small_field(session, "charging.log.wall_wh", "drawn from the mains", width=70)
        self.problem = plain("")
        self.problem.setObjectName("bad")
        self.problem.setWordWrap(True)
        self.problem.hide()
        self.says = soft("", wrap=True)
        self.stop, self.stop_more = plain(""), plain("")
        self.stop.setFont(THEME.font("title", strong=True))
        for label in (self.stop, self.stop_more):
            label.setWordWrap(True)
            label.hide()
        self.course = named_plot("pack, V", "hours")
        self.course.setAccessibleName(in_words("Volts of the charge against what is expected"))
        keep_room(self.course, 190, 260)
        edge = pg.mkPen(None)
        self.band = (self.course.plot(pen=edge), self.course.plot(pen=edge))
        self.course.addItem(pg.FillBetweenItem(*self.band, brush=THEME.colour("verdigris_wash")))
        self.expected = self.course.plot(
            pen=pg.mkPen(THEME.colour("verdigris"), width=2), name="expected"
        )
        self.read = self.course.plot(
            pen=pg.mkPen(THEME.colour("copper"), width=1),
            symbol="o",
            symbolSize=6,
            symbolBrush=THEME.colour("copper"),
            symbolPen=None,
            name="read",
        )
        self.table = RowsTable(LOG, "Readings of the charge")
        self.simulated = Simulated(lambda seen, _: plan_in_hand(seen))
        self.plan: FirstCharge | None = None
        self._lay_out()
        self.entry.returnPressed.connect(self.take)
        self.buttons["import a log …"].clicked.connect(self.ask_in)
        self.buttons["export as CSV …"].clicked.connect(self.ask_out)
        self.buttons["forget the last"].clicked.connect(self.forget)
        self.buttons["begin anew"].clicked.connect(self.begin_anew)
        self.plan_table.picked.connect(self.turn_to)
        self.simulated.ready.connect(self._take_plan)
        self.simulated.failed.connect(lambda text: session.tell("stop", text))

    def _lay_out(self) -> None:
        outer = QVBoxLayout(scrolled_body(self))
        outer.setContentsMargins(THEME.px(24), 0, THEME.px(12), THEME.px(6))
        outer.setSpacing(THEME.px(6))
        outer.addWidget(soft(" ".join(CAUTIONS), wrap=True))
        outer.addWidget(self.plan_table)
        outer.addWidget(self.stage_says)
        outer.addWidget(heading("The log"))
        outer.addWidget(flowing(self.entry, soft(HOW), *self.buttons.values(), self.wall, gap=10))
        outer.addWidget(self.problem)
        outer.addWidget(self.stop)
        outer.addWidget(self.stop_more)
        outer.addWidget(self.says)
        both = Turning(760)
        both.columns.addWidget(self.course, 4)
        self.held = QWidget()
        right = QVBoxLayout(self.held)
        right.setContentsMargins(0, 0, 0, 0)
        right.addWidget(self.table)
        both.columns.addWidget(self.held, 5)
        keep_rows(self.table, 6)
        outer.addWidget(both, 1)

    # What is shown.

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Show plan and log of an evaluation."""
        log = evaluation.project.charging.log
        self.entry.setPlaceholderText(f"{digits(54.2, '.1f')} {digits(2.0, '.1f')} 25")
        for later in (self.wall, *(self.buttons[name] for name in BUTTONS[1:])):
            later.setVisible(bool(log.rows))
        if problem := why_no_plan(evaluation):
            self.simulated.cancel()
            self.plan = None
            self.plan_table.show_rows([])
            self.plan_table.hide()
            self.stage_says.setText(spoken(problem))
            show_points(self.expected, [], [])
        else:
            self.plan_table.show()
            self.simulated.ask(evaluation)
        if self.plan is not None and not self.simulated.busy:
            self._show_plan(self.plan)
        found = log_in_hand(evaluation, steps=self._steps)
        self._show_log(evaluation, found)
        self._draw(found)

    def _take_plan(self, plan: FirstCharge, evaluation: Evaluation) -> None:
        self.plan = plan
        self._show_plan(plan)
        self._draw(log_in_hand(self.session.evaluation, steps=self._steps))
        self.about = worded("about {}", say_hours(plan.hours))

    def _show_plan(self, plan: FirstCharge) -> None:
        names = [stage.name for stage in plan.stages]
        if self.stage not in names:
            self.stage = names[0]
        self.plan_table.show_rows(
            [plan_row(stage, stage.name == self.stage) for stage in plan.stages]
        )
        fit_height(self.plan_table, len(plan.stages), 5, firm=True)
        stage = plan.stages[names.index(self.stage)]
        self.stage_says.setText(
            spoken(
                sentences(
                    phrase("{}: {}", capital(NAMES[stage.name]), stage.watch),
                    phrase("Stop at {}.", listed(stage.stop, "; ")),
                    stage.by,
                )
            )
        )

    def turn_to(self, stage: str) -> None:
        """Say what to watch in a stage of the plan."""
        self.stage = stage
        if self.plan is not None:
            self._show_plan(self.plan)

    def _show_log(self, evaluation: Evaluation, found: LogRead) -> None:
        log = evaluation.project.charging.log
        if not log.rows:
            self.says.setText(
                in_words(
                    "No reading yet: type what the meter shows, Enter; the time is taken by itself"
                    ". F9 asks on the whole screen."
                )
            )
            for widget in (self.held, self.stop, self.stop_more):
                widget.hide()
            return
        self.held.show()
        words = [
            worded(
                "{} and {} so far.",
                say(found.taken_ah, in_words("Ah")),
                say(found.taken_wh, in_words("Wh")),
            )
        ]
        if log.wall_wh is not None and found.taken_wh > 0.0:
            words.append(
                worded("{} of what the mains gave.", say(found.taken_wh / log.wall_wh, "%"))
            )
        sizes = found.group_ah[np.isfinite(found.group_ah)]
        if len(sizes):
            words.append(
                worded(
                    "By their ends groups hold {} to {}; group {} the least.",
                    say(float(sizes.min()), in_words("Ah")),
                    say(float(sizes.max()), in_words("Ah")),
                    int(np.nanargmin(found.group_ah)) + 1,
                )
            )
        for item in found.remarks:
            if item.severity != "stop":
                words.append(_told(item))
        self.says.setText(" ".join(words))
        stops = [item for item in found.remarks if item.severity == "stop"]
        self.stop.setVisible(bool(stops))
        self.stop_more.setVisible(bool(stops))
        if stops:
            first = stops[0]
            self.stop.setStyleSheet(f"color: {THEME.colour('crimson').name()}")
            self.stop.setText(worded("STOP. {}", spoken(first.do)))
            self.stop_more.setText(" ".join(_told(item) for item in stops))
        marks = {item.reading: item for item in found.remarks}

        def shown(at: int) -> Row:
            # The last reading stands first.
            place = len(log.rows) - at
            return _reading_row(log.rows[place - 1], place, found, marks.get(place))

        self.table.show_rows(LazyRows(len(log.rows), shown))

    def _draw(self, found: LogRead) -> None:
        """The expected course ahead, the band at what was read, and the readings."""
        plan = self.plan
        self.course.setVisible(plan is not None or len(found.seconds) > 0)
        hours = found.seconds / 3600.0
        # Of very many readings the line alone is seen, and dots would be all that takes time.
        self.read.setSymbol("o" if len(hours) <= MOST_DOTS else None)
        show_points(self.read, hours, found.volts)
        # At what was read the band is that of the charge counted; before, that of the plan.
        across, band = hours, found.band_v
        if len(hours) < 2 and plan is not None and plan.band_v is not None:
            across, band = plan.seconds / 3600.0, plan.band_v
        for line, edge in zip(self.band, band, strict=True):
            show_points(line, across, edge)
        ends, volts = [float(hours[-1])] if len(hours) else [], list(found.volts)
        if plan is not None:
            show_points(self.expected, plan.seconds / 3600.0, plan.volts)
            ends.append(plan.hours)
            volts += [float(plan.volts.min()), float(plan.volts.max())]
        if volts:
            room = 0.02 * (max(volts) - min(volts)) + 0.1
            self.course.show_whole(
                round_range(0.0, max(*ends, 0.1)),
                round_range(min(volts) - room, max(volts) + room),
            )

    # What is taken.

    def take(self) -> None:
        """Keep the reading that was typed."""
        problem = self.keep(self.entry.text().strip())
        mark_bad(self.entry, self.problem, problem)
        if not problem:
            self.entry.clear()

    def keep(self, text: str) -> str:
        """Keep a reading as it was typed, at the time of the clock; returns what is wrong."""
        rows, now = self.session.project.charging.log.rows, self.clock()
        if self._begun is None or not rows:
            self._begun = now - (rows[-1].seconds + 60.0 if rows else 0.0)
        last = rows[-1].seconds if rows else -1.0
        seconds = now - self._begun
        jumped = not last - BACK_S <= seconds <= LONGEST_LOG_S
        if jumped:
            # It is kept all the same, and the clock goes on from there.
            seconds = min(last + 60.0, LONGEST_LOG_S)
            self._begun = now - seconds
        seconds = max(seconds, last + 1.0)
        try:
            row = reading_of(text, seconds, self.session.evaluation.sized.choice.series)
        except QuantityError as problem:
            return said_of(problem)
        changes: dict[str, object] = {"charging.log.rows": (*rows, row)}
        if not rows:
            changes["charging.log.start"] = time.strftime("%Y-%m-%d %H:%M")
        if problem_said := edit_or_why(self.session, changes, "reading"):
            return problem_said
        self.session.keep_now()
        if jumped:
            self.session.tell("warn", CLOCK_JUMPED)
        return ""

    def forget(self) -> None:
        """Take the last reading out."""
        rows = self.session.project.charging.log.rows
        edit_or_why(self.session, {"charging.log.rows": rows[:-1]}, "last reading forgotten")

    def begin_anew(self) -> None:
        """Begin another log; undo brings this one back."""
        self._begun = None
        edit_or_why(
            self.session,
            {"charging.log.rows": (), "charging.log.start": "", "charging.log.wall_wh": None},
            "log begun anew",
        )

    def ask_in(self) -> None:
        """Ask for a log and bring it in."""
        name, _ = QFileDialog.getOpenFileName(
            self,
            "Bring a log of a charge in",
            str(Path.home()),
            "Tables (*.csv *.txt *.tsv *.log);;All files (*)",
        )
        if name:
            self.bring_in(Path(name))

    def ask_out(self) -> None:
        """Ask for a place and write the log there."""
        path = ask_place(self.session, self, "Export the log", "-charge.csv", "Tables (*.csv)")
        if path is not None:
            rows = self.session.project.charging.log.rows
            write_out(self.session, path, lambda: write_atomically(path, log_csv(rows)))

    def bring_in(self, path: Path) -> None:
        """Take a log in place of the one that is kept, all of it or nothing."""
        try:
            found = read_charge_log(
                read_text(path), path.name, self.session.evaluation.sized.choice.series
            )
        except FileProblem as problem:
            self.session.tell("stop", said_of(problem))
            return
        self._begun = None
        changes = {"charging.log.rows": found.rows, "charging.log.start": found.start[:40]}
        if problem_said := edit_or_why(self.session, changes, worded("log of {}", path.name)):
            self.session.tell("stop", problem_said)
            return
        self.session.keep_now()
        self.session.tell("note", f"{path.name}: {found.said}")

    # At the bench.

    def begin_bench(self) -> bool:
        """The stages of the plan, each read as often as it says."""
        plan, evaluation = self.plan, self.session.evaluation
        if problem := why_no_plan(evaluation):
            self.session.tell("stop", spoken(problem))
            return False
        if plan is None:
            plan = plan_in_hand(evaluation)
        steps = [
            self._bench_step(stage, minute)
            for stage in plan.stages
            if stage.amps
            for minute in stage.read
        ]
        if not steps:
            return False
        self.bench = BenchMode(self.session, "Charge", steps)
        self.bench.showFullScreen()
        return True

    def take_file(self, path: Path) -> None:
        self.bring_in(path)

    def bench_field(self) -> QWidget:
        return self.entry

    def _bench_step(self, stage: PlanStage, minute: float) -> BenchStep:
        return BenchStep(
            f"{NAMES[stage.name]}, {say(stage.amps, 'A')}",
            worded("read at {} min; until {}", f"{minute:.0f}", spoken(stage.until)),
            f"{stage.watch} {spoken(stage.by)}".strip(),
            worded("stop at {}", spoken(listed(stage.stop, "; "))),
            (),
            self.keep,
        )


def reading_of(text: str, seconds: float, groups: int) -> LogRow:
    """A reading from ``54.2 2.0 25; 4.17 4.16 …``; raises QuantityError naming what is accepted."""
    head, _, rest = text.partition(";")
    parts = head.split()
    if not 1 <= len(parts) <= 3:
        raise QuantityError(worded("“{}” is no reading; accepted: volts, amps and °C", head[:40]))
    volts = parse(parts[0], units.VOLTAGE)
    amps = parse(parts[1], units.CURRENT) if len(parts) > 1 else None
    warm = parse(parts[2], units.TEMPERATURE) if len(parts) > 2 else None
    each = tuple(parse(item, units.VOLTAGE) for item in rest.replace(";", " ").split())
    if each and len(each) != groups:
        raise QuantityError(
            worded("{} groups were typed; accepted: all {}, or none", len(each), groups)
        )
    if not 0.0 < volts <= 1000.0:
        raise QuantityError(worded("{}; accepted: over 0, up to 1000 V", say(volts, "V")))
    return LogRow(seconds=round(seconds, 1), volts=volts, amps=amps, warm_c=warm, groups=each)


def _reading_row(row: LogRow, place: int, found: LogRead, mark: Remark | None) -> Row:
    """A reading, the ``place``-th from 1, with what is said of it."""
    off = float(found.volts[place - 1] - found.expected_v[place - 1])
    near = worded("{} V", digits(off, "+.2f")) if mark is None else spoken(mark.text)
    role = {} if mark is None else {"stop": "crimson", "warn": "amber"}
    return Row(
        (
            _clock(row.seconds),
            worded("{} V", digits(row.volts, ".2f")),
            "" if row.amps is None else say(row.amps, "A"),
            "" if row.warm_c is None else say(row.warm_c, "°C"),
            say(float(found.ah[place - 1]), in_words("Ah")),
            near,
        ),
        key=place,
        marks={} if mark is None else {5: role.get(mark.severity, "soft")},
    )


def _told(item: Remark) -> str:
    return worded("At reading {}: {}. {}", item.reading, spoken(item.text), spoken(item.means))


def _clock(seconds: float) -> str:
    whole = round(seconds)
    return f"{whole // 3600}:{whole // 60 % 60:02d}:{whole % 60:02d}"
