"""What to look for in a shop: the windows of each part, and parts found held against them."""

from __future__ import annotations

from functools import partial
from typing import Any

from msgspec.structs import replace
from PyQt6.QtGui import QGuiApplication
from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QVBoxLayout

from lumvak.core.document.power import AS_SPECIFIED_ID
from lumvak.core.document.shopping import MOST_OF_A_KIND, GivenFigure, PartFound, PartKey
from lumvak.core.evaluation import Evaluation
from lumvak.core.joints.candidates import layers_name
from lumvak.core.record import Unfit
from lumvak.core.said import Text, capital, in_line, listed, phrase, sentences
from lumvak.core.specification.contradictions import contradictions, empty_parts
from lumvak.core.specification.examples import examples, examples_said
from lumvak.core.specification.given import HeldPart, held, short_words
from lumvak.core.specification.in_force import in_force_said
from lumvak.core.specification.own_part import PATHS, can_be_own, own_part
from lumvak.core.specification.printed import how_to_find, readings
from lumvak.core.specification.sheet import quantity_said, two_lines, window_said
from lumvak.core.specification.topic import Specification, specification_in_hand
from lumvak.core.specification.window import PartSpec
from lumvak.core.units import BY_UNIT, MONEY, Kind
from lumvak.files.problem import FileProblem
from lumvak.ui.session import Session
from lumvak.ui.speech import in_words, parse, said_of, say, spell, spoken, worded
from lumvak.ui.widgets.flow import flowing, scrolled_body
from lumvak.ui.widgets.grid import Grid
from lumvak.ui.widgets.grid_columns import GridColumn, Record, shown_column
from lumvak.ui.widgets.pages import Page, waiting
from lumvak.ui.widgets.quantity_field import edit_or_why, try_edit
from lumvak.ui.widgets.rows import Column, Row, row_of
from lumvak.ui.widgets.tables import RowsTable, keep_rows
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import heading, plain, soft

COLUMNS = (
    Column(
        "part",
        text=lambda it: it[0].name,
        mark=lambda it: it[1],
        left=True,
        stretch=True,
        tip="In the order of the current; amber where none at hand serves, red where none can be",
    ),
)
BETTER = "better so"
# The columns of what was found, and the fields that are not windows.
FOUND = ("yours", "another", "a third")
OTHERS = {"name": "name", "price": "cost", "reason": "why it is taken"}
HINT = (
    "Type what a sheet or a wrapper says under “yours”, as few figures as there are: each is held "
    "against its window at once."
)
PEAK = "peak_a"
# As wide as the longest name of a part asks for, with its bar.
LIST_PX = 136
# So many of what is not known are named.
MOST_UNKNOWN = 4
# Parts that may be left as specified, and where that is said.
OPEN: dict[PartKey, str] = {
    key: PATHS[key] for key in ("bms", "fuse", "charge-fuse", "connector", "series", "group")
}


class ShopView(Page):
    """Parts at the left; the windows of the one picked at the right, with room for three found."""

    def __init__(self, session: Session, part: PartKey = "bms") -> None:
        super().__init__(session)
        self.part: PartKey = part
        self.specification: Specification | None = None
        self.parts = RowsTable(COLUMNS, "Parts to look for")
        self.parts.setObjectName("shopping.found")
        self.lines = soft("", wrap=True)
        self.copy = QPushButton("copy these lines")
        self.copy.clicked.connect(self._copy)
        self.title, self.quantity = heading(""), soft("")
        self.why, self.examples = soft("", wrap=True), soft("", wrap=True)
        self.says = plain("")
        self.says.setWordWrap(True)
        self.grid = Grid(
            "Windows of the part",
            (
                shown_column("figure", "label", left=True),
                shown_column("look for", "window", left=True, wide=True),
                *(self._column(place) for place in range(MOST_OF_A_KIND)),
            ),
            self._take,
            dict,
            (6, 40),
            fixed=True,
        )
        self.verdict, self.at = plain(""), 0
        self.verdict.setWordWrap(True)
        self.judged: list[tuple[PartFound, HeldPart]] = []
        self.uses = [QPushButton("") for _ in FOUND]
        self.ways = QPushButton("what would open it?")
        self.ways.clicked.connect(self._find_ways)
        self.open = QPushButton("go on as specified")
        self.open.setToolTip(
            in_words("Count with the tight sides of the windows until one is bought")
        )
        self.open.clicked.connect(self._go_on)
        for place, button in enumerate(self.uses):
            button.clicked.connect(partial(self._use, place))
        self._lay_out()
        self.parts.picked.connect(self.turn_to)
        self.grid.table.currentCellChanged.connect(
            lambda row, column, *_: self._explain(row, column)
        )

    def _column(self, place: int) -> GridColumn:
        return GridColumn(
            FOUND[place],
            f"found{place}",
            self._read,
            _spelled,
            left=False,
            mark=lambda record: str(record.get(f"mark{place}", "")),
        )

    def _lay_out(self) -> None:
        outer = QVBoxLayout(scrolled_body(self))
        outer.setContentsMargins(THEME.px(24), 0, THEME.px(12), THEME.px(6))
        outer.setSpacing(THEME.px(6))
        top = QHBoxLayout()
        top.addWidget(self.lines, 1)
        top.addWidget(self.copy)
        outer.addLayout(top)
        both = QHBoxLayout()
        both.setSpacing(THEME.px(16))
        both.addWidget(self.parts, 3)
        keep_rows(self.parts, 6)
        self.parts.setMinimumWidth(THEME.px(LIST_PX))
        right = QVBoxLayout()
        right.setSpacing(THEME.px(4))
        head = QHBoxLayout()
        head.addWidget(self.title)
        head.addWidget(self.quantity, 1)
        right.addLayout(head)
        right.addWidget(self.says)
        right.addWidget(self.grid, 1)
        right.addWidget(self.why)
        right.addWidget(self.examples)
        right.addWidget(self.verdict)
        right.addWidget(flowing(*self.uses, self.open, self.ways))
        both.addLayout(right, 13)
        outer.addLayout(both, 1)

    # What is shown.

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Show the windows of an evaluation."""
        self.specification = specification = specification_in_hand(evaluation)
        self.lines.setText(spoken(two_lines(evaluation, specification)))
        empty = empty_parts(evaluation)
        self.parts.show_rows(
            [self._row(part, evaluation, empty) for part in specification.parts if part.windows]
        )
        self.session.add_figures(
            [it for part in specification.parts for w in part.windows for it in w.figures],
            self.session.revision,
        )
        self._show_part(evaluation, self.part in empty)

    def _row(self, part: PartSpec, evaluation: Evaluation, empty: frozenset[str]) -> Row:
        specified = in_force_said(part.key, evaluation).specified
        role = "crimson" if part.key in empty else "amber" if specified else ""
        return row_of(
            COLUMNS,
            (part, role),
            value=part.key,
            key=part.key,
            chosen=part.key == self.part,
            faded=not part.needed,
        )

    def turn_to(self, part: PartKey) -> None:
        """Show the windows of another part."""
        self.part = part
        self.show_evaluation(self.session.evaluation)

    def _spec(self) -> PartSpec:
        assert self.specification is not None
        return self.specification.of(self.part)

    def _found(self) -> list[PartFound]:
        """The parts found of the kind in view."""
        return [it for it in self.session.project.shopping.found if it.part == self.part]

    def _show_part(self, evaluation: Evaluation, empty: bool) -> None:
        spec, found = self._spec(), self._found()
        self.title.setText(spec.name)
        force = in_force_said(spec.key, evaluation)
        self.open.setVisible(spec.key in OPEN and not force.specified and not empty)
        self.ways.setVisible(empty)
        many = worded("{}; in force: {}", spoken(quantity_said(spec)), spoken(force.name))
        self.quantity.setText(many if force.name else spoken(quantity_said(spec)))
        for place in range(MOST_OF_A_KIND):
            self.grid.table.setColumnHidden(2 + place, place > len(found))
        self.says.setText(HINT if not found else "")
        self.says.setVisible(not found)
        self.examples.setText(spoken(examples_said(spec, examples(spec, evaluation))))
        judged = [held(spec, it.given, evaluation) for it in found]
        self.grid.show_records(_records(spec, found, judged), spec.key)
        self.judged = list(zip(found, judged, strict=True))
        self.at = min(self.at, max(len(found) - 1, 0))
        self._say_verdict()
        for place, button in enumerate(self.uses):
            shown = place < len(found)
            button.setVisible(shown and can_be_own(spec.key))
            if shown:
                button.setText(worded("use {}", found[place].name))

    def _say_verdict(self) -> None:
        """What is to be said of the part found whose column is in hand."""
        self.verdict.setVisible(bool(self.judged))
        if self.judged:
            found, held_part = self.judged[self.at]
            self.verdict.setText(spoken(verdict_said(found, held_part)))

    def _explain(self, row: int, column: int) -> None:
        """Why a figure must be so, and the working of the side that is tight."""
        record = self.grid.records[row] if 0 <= row < len(self.grid.records) else {}
        self.why.setText(str(record.get("why", "")))
        if 2 <= column < 2 + len(self.judged) and column - 2 != self.at:
            self.at = column - 2
            self._say_verdict()
        if 0 <= row < len(self.grid.records) and (key := self.grid.records[row].get("figure")):
            self.session.explain(str(key))

    def show_path(self, path: str) -> None:
        """Nothing but the parts found is set here."""

    # What is typed.

    def _read(self, text: str, record: Record) -> float | str | None:
        if not text:
            return None
        if record["kind"] in ("name", "reason") or record["words"]:
            return text
        if record["kind"] == "price":
            return parse(text, MONEY)
        return parse(text, _kind_of(str(record["unit"])))

    def _take(self, records: list[Record]) -> str:
        """Turn what was typed into parts found."""
        others = [it for it in self.session.project.shopping.found if it.part != self.part]
        made = []
        for place in range(MOST_OF_A_KIND):
            values = {str(it["name"]): it.get(f"found{place}") for it in records if it["name"]}
            if all(value in (None, "") for value in values.values()):
                continue
            figures = tuple(
                GivenFigure(name=name, word=value)
                if isinstance(value, str)
                else GivenFigure(name=name, value=float(value))
                for name, value in values.items()
                if name not in (*OTHERS, BETTER, "") and value not in (None, "")
            )
            made.append(
                PartFound(
                    part=self.part,
                    name=str(values["name"] or f"{self._spec().name} {place + 1}"),
                    figures=figures,
                    price=values["price"] if isinstance(values["price"], float) else None,
                    reason=str(values["reason"] or ""),
                )
            )
        changes = {"shopping.found": (*others, *made)}
        return edit_or_why(self.session, changes, worded("{} found", self._spec().name))

    def _use(self, place: int) -> None:
        """Keep a part found among one's own, and put it in force."""
        session, found = self.session, self._found()[place]
        try:
            own = own_part(found, session.evaluation)
            if own.part is not None:
                kept = {it.id: it for it in getattr(session.own, own.kind)}
                kept[own.part.id] = own.part
                parts = replace(session.own, **{own.kind: tuple(kept.values())})
                session.edit_own(parts, worded("{} kept", found.name))
        except (FileProblem, Unfit) as problem:
            session.tell("warn", said_of(problem))
            return
        if try_edit(session, own.changes, worded("{} taken", found.name)):
            session.tell(
                "note", worded("{} is in force; what its sheet leaves out is assumed.", found.name)
            )

    def _go_on(self) -> None:
        """Count with a part as specified until one is bought."""
        try_edit(self.session, {OPEN[self.part]: AS_SPECIFIED_ID})

    def _change(self, changes: dict[str, Any]) -> None:
        try_edit(self.session, changes)

    def _find_ways(self) -> None:
        """Try what would open a window that nothing lies in, and say so."""
        session = self.session
        evaluation = session.evaluation
        with waiting():
            found = contradictions(evaluation, session.trial())
        for item in found:
            if item.part != self.part:
                continue
            said = phrase("It must {} and {}.", *item.between)
            session.tell(
                "warn",
                worded("{} What would open it:", spoken(said)),
                [
                    (spoken(change.text), partial(self._change, change.changes))
                    for change in item.changes
                ],
            )

    def _copy(self) -> None:
        clipboard = QGuiApplication.clipboard()
        if clipboard is not None:
            clipboard.setText(f"{self.session.project.name}: {self.lines.text()}")
            self.session.tell("note", in_words("The lines are copied."))


def _kind_of(unit: str) -> Kind:
    return BY_UNIT["Ω" if unit == "ohm" else unit]


def _spelled(value: Any, record: Record) -> str:
    if value is None or value == "":
        return ""
    if isinstance(value, str):
        return value
    if record["kind"] == "price":
        return say(value, in_words("money"))
    return spell(value, _kind_of(str(record["unit"])))


def _records(spec: PartSpec, found: list[PartFound], judged: list[HeldPart]) -> list[Record]:
    """A row a figure: the name, the windows, what it costs and why it is taken."""
    rows = [_other("name", found), *_windows(spec, found, judged)]
    return [*rows, _other("price", found), _other("reason", found)]


def _other(name: str, found: list[PartFound]) -> Record:
    values = {f"found{place}": getattr(it, name) for place, it in enumerate(found)}
    empty = {f"found{place}": None for place in range(MOST_OF_A_KIND)}
    shown = {"kind": name, "name": name, "label": OTHERS.get(name, name), "window": "", "why": ""}
    return {**shown, "words": (), "figure": "", "unit": "", **empty, **values}


def _windows(spec: PartSpec, found: list[PartFound], judged: list[HeldPart]) -> list[Record]:
    rows, seen, better = [], set[str](), False
    for window in sorted(spec.windows, key=lambda it: not it.must):
        if not window.must and not better:
            better = True
            rows.append(_other(BETTER, []))
        name = PEAK if window.name == "stages" and window.least is not None else window.name
        typed = name not in seen and not (window.at_s is not None and name == window.name)
        seen.add(name)
        figure = window.least or window.most or window.wanted
        sets = listed([it for it in (window.set_by, window.most_by) if it])
        why = phrase("For the {}: {}.", sets, window.reason) if sets else window.reason
        if find := how_to_find(spec.key, window.name):
            why = sentences(why, phrase("To find out: {}.", find))
        row: Record = {
            "kind": "window",
            "name": name if typed else "",
            "label": spoken(window.label),
            "window": spoken(window_said(window)),
            "why": spoken(why),
            "words": window.one_of,
            "figure": "" if figure is None else figure.key,
            "unit": window.unit,
        }
        for place in range(MOST_OF_A_KIND):
            given = found[place].given if place < len(found) else {}
            row[f"found{place}"] = given.get(name) if typed else None
            if typed and place < len(found) and name in given:
                short = any(it.window is window for it in judged[place].short)
                row[f"mark{place}"] = "crimson" if short else "verdigris"
        rows.append(row)
    return rows


def verdict_said(found: PartFound, judged: HeldPart) -> Text:
    """What holds of a part found, what falls short and what that costs, what is not known."""
    said: list[Text] = []
    if judged.short:
        said.append(phrase("{} falls short.", found.name))
        said += [phrase("{}.", short_words(it)) for it in judged.short]
    elif judged.unknown:
        said.append(phrase("{} holds as far as is known.", found.name))
    else:
        said.append(phrase("{} holds.", found.name))
    said += [phrase("{}.", capital(text)) for text in readings(judged.spec, found.given)]
    if judged.layers is not None:
        said.append(phrase("Counted in {}.", layers_name(judged.layers)))
    if judged.then_a is not None:
        said.append(phrase("The path then gives {} continuous.", say(judged.then_a, "A")))
    if judged.unknown:
        named = [in_line(it.label) for it in judged.unknown]
        rest = len(named) - MOST_UNKNOWN
        names = listed(named[:MOST_UNKNOWN], ", ")
        said.append(
            phrase("Not known: {} and {} more.", names, rest)
            if rest > 0
            else phrase("Not known: {}.", names)
        )
    return sentences(*said)
