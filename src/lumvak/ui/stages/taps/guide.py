"""Balance leads one after the other: the joint, the side, the way, colour, pin and length."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtWidgets import QPushButton, QVBoxLayout, QWidget

from lumvak.core import units
from lumvak.core.document.taps import TapWay
from lumvak.core.evaluation import Evaluation, guides_in_hand
from lumvak.core.taps.guide import USUAL, TapGuide, by_side, order_said, unused_pins
from lumvak.core.taps.routes import reach_mm, strays
from lumvak.core.units import QuantityError
from lumvak.ui.bench_mode import BenchMode, BenchStep
from lumvak.ui.session import Session
from lumvak.ui.speech import digits, in_words, parse, said_of, say, shown, worded
from lumvak.ui.stages.taps.sides import BothSides, facing_of, sides_of
from lumvak.ui.stages.taps.way_view import WayView
from lumvak.ui.widgets.entry import EntryField
from lumvak.ui.widgets.flow import Turning, flowing, scrolled_body
from lumvak.ui.widgets.pages import Page
from lumvak.ui.widgets.quantity_field import edit_or_why, mark_bad, small_field
from lumvak.ui.widgets.rows import Column, Row, row_of
from lumvak.ui.widgets.tables import RowsTable, keep_rows
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import plain, side_by_side, soft, tip


def _pin(item: TapGuide) -> str:
    """The pin, and the plug where it is not the first."""
    if not item.pin:
        return "none"
    return item.pin if item.plug <= 1 else worded("{}, plug {}", item.pin, item.plug)


def _over(item: TapGuide) -> str:
    """Where the way of a lead must be insulated."""
    if item.across is None:
        return worded("Lead {} lies over no other tap.", item.number)
    return worded(
        "Lead {} lies over tap {}, {} apart: insulate it there.",
        item.number,
        item.across,
        say(item.across_v, "V"),
    )


COLUMNS = (
    Column("lead", text=lambda it: str(it[0].number), tip="From 0 on the most negative tap"),
    Column(
        "on",
        text=lambda it: it[0].place,
        left=True,
        sample="g12c10p",
        tip="The terminal that it sits on",
    ),
    Column(
        "side",
        text=lambda it: it[0].side,
        left=True,
        sample="side A",
        tip="The side of the pack that it is worked from",
    ),
    Column(
        "colour",
        text=lambda it: it[0].colour,
        left=True,
        sample="yellow",
        tip="Of the wires at hand, in their order",
    ),
    Column(
        "pin",
        text=lambda it: _pin(it[0]),
        left=True,
        sample="B12, plug 2",
        tip="Of the BMS, as its sheet prints it",
    ),
    Column(
        "length",
        text=lambda it: say(it[0].length_mm, in_words("mm")),
        tip="As routed, with slack and both ends",
    ),
    Column(
        "should read",
        text=lambda it: worded("{} V", digits(it[0].expected_v, ".2f")),
        tip="From main minus, as the groups are now",
    ),
    Column(
        "is",
        text=lambda it: "soldered" if it[1] else "",
        left=True,
        stretch=True,
        sample="soldered",
        tip="Whether it is in its place",
    ),
)
CAUTION = (
    "One at a time: strip one end, solder it off the weld, cover it, then the next. The plug stays "
    "out until all are checked."
)


class GuideView(Page):
    """A row a lead; both sides below, the marked one with its way."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.at = 0
        self.bench: BenchMode | None = None
        self.colours = EntryField()
        self.colours.setAccessibleName(in_words("Colours of wires at hand"))
        self.colours.setFixedWidth(THEME.px(270))
        self.fields = {
            "area_mm2": small_field(session, "balance_leads.area_mm2", "section", width=70),
            "spare_mm": small_field(session, "balance_leads.spare_mm", "for both ends"),
            "group_v": small_field(
                session, "balance_leads.group_v", "a group has now", figure="taps.group_v"
            ),
        }
        self.problem = plain("")
        self.problem.setObjectName("bad")
        self.problem.setWordWrap(True)
        self.problem.hide()
        self.says = soft("", wrap=True)
        self.table = RowsTable(COLUMNS, "Balance leads")
        self.table.setObjectName("balance_leads.ways")
        self.way = EntryField()
        self.way.setAccessibleName(in_words("Corners of its route"))
        self.way.setToolTip(tip("Corners of its route in mm; or drag it on the drawing"))
        self.way.setFixedWidth(THEME.px(150))
        self.proposed = QPushButton("as proposed")
        self.over = soft("", wrap=True)
        self.sides = BothSides(WayView)
        outer = QVBoxLayout(scrolled_body(self))
        outer.setContentsMargins(THEME.px(24), 0, THEME.px(12), THEME.px(6))
        outer.setSpacing(THEME.px(6))
        outer.addWidget(
            flowing(side_by_side(soft("colours"), self.colours), *self.fields.values(), gap=14)
        )
        outer.addWidget(self.problem)
        outer.addWidget(self.says)
        outer.addWidget(soft(CAUTION, wrap=True))
        both = Turning(700)
        both.columns.addWidget(self.table, 5)
        drawn = QWidget()
        right = QVBoxLayout(drawn)
        right.setContentsMargins(0, 0, 0, 0)
        right.addWidget(flowing(soft("route"), self.way, self.proposed, gap=8))
        right.addWidget(self.over)
        right.addWidget(self.sides, 1)
        both.columns.addWidget(drawn, 3)
        outer.addWidget(both, 1)
        keep_rows(self.table, 7)
        for view in self.sides.views:
            if isinstance(view, WayView):
                view.way_laid.connect(self._take_dragged)
        self.way.editingFinished.connect(self._take_way)
        self.proposed.clicked.connect(lambda: self.lay(()))
        self.colours.editingFinished.connect(self._take_colours)
        self.table.picked.connect(self.turn_to)

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Show the balance leads of an evaluation."""
        leads = evaluation.project.balance_leads
        if not self.colours.isModified():
            self.colours.setText(", ".join(leads.colours))
            self.colours.setCursorPosition(0)
        guides = guides_in_hand(evaluation)
        self.at = min(self.at, len(guides) - 1)
        self.way.setPlaceholderText(ways_said(guides[self.at].route_mm[1:-1].tolist()))
        own = next((item.corners for item in leads.ways if item.lead == self.at), ())
        if not self.way.isModified():
            self.way.setText(ways_said(own))
        self.proposed.setEnabled(bool(own))
        self.over.setText(_over(guides[self.at]))
        done = set(leads.soldered)
        self.table.show_rows([_row(item, item.number == self.at, done) for item in guides])
        self.sides.show_sides(sides_of(evaluation, guides, self.at))
        self.says.setText(_said(evaluation, guides))

    def turn_to(self, number: int) -> None:
        """Mark a lead and its way."""
        self.at = number
        self.way.setModified(False)
        self.show_evaluation(self.session.evaluation)

    def lay(self, corners: tuple[tuple[float, float], ...]) -> str:
        """Lay the way of the lead in hand by its corners; none is the proposed way."""
        layout = self.session.evaluation.laid_out.joined_pack.layout
        if strays(corners, layout):
            reach = reach_mm(layout)
            spans = (
                worded("{} to {}", say(-reach, in_words("mm")), say(size + reach, in_words("mm")))
                for size in layout.size_mm[:2]
            )
            return worded(
                "Route of lead {} lies too far out; accepted: {}", self.at, " and ".join(spans)
            )
        kept = [item for item in self.session.project.balance_leads.ways if item.lead != self.at]
        if corners:
            kept.append(TapWay(lead=self.at, corners=corners))
        return edit_or_why(
            self.session, {"balance_leads.ways": tuple(kept)}, worded("route of lead {}", self.at)
        )

    def _take_dragged(self, corners: tuple[tuple[float, float], ...]) -> None:
        mark_bad(self.way, self.problem, self.lay(corners))

    def _take_way(self) -> None:
        text = self.way.text().strip()
        own = next(
            (
                item.corners
                for item in self.session.project.balance_leads.ways
                if item.lead == self.at
            ),
            (),
        )
        problem = ""
        if text != ways_said(own):
            try:
                problem = self.lay(ways_read(text))
            except QuantityError as error:
                problem = said_of(error)
        mark_bad(self.way, self.problem, problem)
        self.way.setModified(bool(problem))

    def _take_colours(self) -> None:
        wanted = tuple(item.strip() for item in self.colours.text().split(",") if item.strip())
        if wanted == self.session.project.balance_leads.colours:
            problem = ""
        else:
            problem = edit_or_why(self.session, {"balance_leads.colours": wanted}, "colours")
        mark_bad(self.colours, self.problem, problem)
        self.colours.setModified(bool(problem))

    # At the bench.

    def begin_bench(self) -> bool:
        """Each lead that is not soldered yet, one side after the other."""
        evaluation = self.session.evaluation
        guides = guides_in_hand(evaluation)
        done = set(evaluation.project.balance_leads.soldered)
        steps = [
            self._bench_step(evaluation, guides, item)
            for item in by_side(guides)
            if item.number not in done
        ]
        if not steps:
            return False
        self.bench = BenchMode(self.session, "Balance leads", steps)
        self.bench.showFullScreen()
        return True

    def _bench_step(
        self, evaluation: Evaluation, guides: tuple[TapGuide, ...], item: TapGuide
    ) -> BenchStep:
        number = item.number

        def take(text: str) -> str:
            leads = self.session.project.balance_leads
            changes: dict[str, object] = {
                "balance_leads.soldered": (*(at for at in leads.soldered if at != number), number)
            }
            if text:
                try:
                    volts = parse(text, units.VOLTAGE)
                except QuantityError as error:
                    return said_of(error)
                kept = [total for total in leads.totals if total.lead != number]
                changes["balance_leads.totals"] = (*kept, {"lead": number, "volts": volts})
            if problem := edit_or_why(
                self.session, changes, worded("lead {} in its place", number)
            ):
                return problem
            self.session.keep_now()
            return ""

        cover = "every tap but this one"
        if item.across is not None:
            cover += worded(
                "; its route passes tap {}, {} apart", item.across, say(item.across_v, "V")
            )
        pin = worded(", pin {}", _pin(item)) if item.pin else ", no pin on the plug"
        return BenchStep(
            worded("lead {}, {}", number, item.colour),
            worded("to {}, {}{}", item.place, item.side, pin),
            cover=cover,
            expected=worded("{} V from main minus", digits(item.expected_v, ".2f")),
            sides=facing_of(evaluation, guides, item),
            take=take,
            near_mm=(float(item.route_mm[0, 0]), float(item.route_mm[0, 1])),
        )


def ways_said(corners: Sequence[Sequence[float]]) -> str:
    """Corners in mm as they are typed, in the builder's own unit: ``12;30  80;30``."""
    return "  ".join(
        ";".join(digits(float(shown(value, "mm")), ".4g") for value in corner) for corner in corners
    )


def ways_read(text: str) -> tuple[tuple[float, float], ...]:
    """Corners in mm from ``12;30 80;30``; raises QuantityError."""
    found = []
    for item in text.split():
        parts = item.split(";")
        if len(parts) != 2:
            raise QuantityError(worded("“{}” is no corner; write both sides of it, as 12;30", item))
        x, y = (parse(part, units.LENGTH_MM) for part in parts)
        found.append((x, y))
    return tuple(found)


def _row(item: TapGuide, chosen: bool, done: set[int]) -> Row:
    return row_of(
        COLUMNS, (item, item.number in done), value=item.number, key=item.number, chosen=chosen
    )


def _said(evaluation: Evaluation, guides: tuple[TapGuide, ...]) -> str:
    """What the board asks of its plug, and how much wire there is."""
    board = evaluation.sized.boards.board
    whole = say(sum(item.length_mm for item in guides) / 1000.0, "m")
    said = [worded("{} leads, {} in all. {}", len(guides), whole, order_said(board))]
    if board is None or board.plug is None:
        said.append("The usual plug is taken: a lead to each tap, B0 on the most negative.")
    plug = USUAL if board is None or board.plug is None else board.plug
    spare = () if board is None else unused_pins(plug, board.series, evaluation.sized.choice.series)
    if spare:
        words = {
            "empty": "stay empty",
            "bridged": worded("are bridged to {}", guides[-1].pin),
            "capped": "are capped",
        }
        said.append(f"{', '.join(spare)} {words[plug.unused]}.")
    return " ".join(said)
