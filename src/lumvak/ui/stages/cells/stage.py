"""Stage: cells and count. The ladder of counts, the chart, packs side by side, the library."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QVBoxLayout, QWidget

from lumvak.core.catalogue.cells import FORMS
from lumvak.core.comparison.series_ladder import Rung
from lumvak.core.evaluation import Evaluation
from lumvak.core.sizing.search import wanted_forms
from lumvak.ui.language import turn
from lumvak.ui.session import Session
from lumvak.ui.speech import in_words
from lumvak.ui.stages.cells.answer import VIEWS
from lumvak.ui.stages.cells.ladder import LadderView
from lumvak.ui.stages.cells.options import OptionsTable
from lumvak.ui.widgets.choice import Several
from lumvak.ui.widgets.flow import flowing, scrolled
from lumvak.ui.widgets.pages import Page, Split, Stack, StageHead, on_sheet
from lumvak.ui.widgets.quantity_field import try_edit
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import soft

if TYPE_CHECKING:
    from lumvak.ui.stages.cells.chart import ChartView
    from lumvak.ui.stages.cells.library import LibraryView
    from lumvak.ui.stages.cells.sheet_curves import SheetCurvesView
    from lumvak.ui.stages.cells.side_by_side import BesideView
    from lumvak.ui.stages.shop import ShopView

TITLES = {
    "counts": ("How many in series?", "from empty to full, dotted where the load cannot use it"),
    "chart": ("Which pack?", "drag a rectangle, and the table shows what is in it"),
    "beside": ("Side by side", ""),
    "library": ("Which cells?", "what each would do for this need, and its data"),
    "curves": ("How does it behave?", "discharges and pulses of its sheet, and what fits them"),
    "shop": ("What to look for in a shop", ""),
}


class CellsStage(Page):
    """One of several views above, the table of options below; picking one updates everything."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        on_sheet(self)
        self.head = StageHead(VIEWS, "View of the options")
        self.view = self.head.view
        self.forms = Several([(form, form) for form in FORMS], "Forms of cells")
        self.forms.setToolTip(
            in_words(
                "Forms that you can get and join; a cell asked for by name is shown all the same"
            )
        )
        self.ladder = LadderView()
        self.options = OptionsTable(session)
        self.table = self.options.table
        self.beside: BesideView | None = None
        self.chart: ChartView | None = None
        self.library: LibraryView | None = None
        self.curves: SheetCurvesView | None = None
        self.shop: ShopView | None = None
        self._lay_out()
        self.view.picked.connect(self.show_view)
        self.forms.picked.connect(self._want)
        self.ladder.picked.connect(self._pick_rung)
        self.show_view("counts")

    def _lay_out(self) -> None:
        counts = QWidget()
        inner = QVBoxLayout(counts)
        inner.setContentsMargins(THEME.px(24), 0, THEME.px(12), 0)
        inner.addWidget(scrolled(self.ladder))
        self.above = Stack()
        self.above.addWidget(counts)
        self.split = Split(
            self.session,
            "cells.counts",
            Qt.Orientation.Vertical,
            (self.above, self.options),
            (216, 330),
        )
        self.pages = Stack()
        self.packs = scrolled(self.split)
        self.pages.addWidget(self.packs)
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.setSpacing(THEME.px(4))
        outer.addWidget(self.head)
        self.wanted = flowing(soft("cells that I can get and join"), self.forms, gap=10)
        self.wanted.setContentsMargins(THEME.px(24), 0, THEME.px(12), 0)
        outer.addWidget(self.wanted)
        outer.addWidget(self.pages, 1)

    def _chart(self) -> ChartView:
        """The chart, made when it is first asked for: the plotting library takes a while."""
        if self.chart is None:
            from lumvak.ui.stages.cells.chart import ChartView

            self.chart = ChartView(self.session)
            self.above.addWidget(self.chart)
            self.chart.brushed.connect(self.options.brush)
            self.chart.unbrushed.connect(self.options.unbrush)
            self.options.unbrushed.connect(self.chart.drop_brush)
        return self.chart

    def _library(self) -> LibraryView:
        """The library, made when it is first asked for."""
        if self.library is None:
            from lumvak.ui.stages.cells.library import LibraryView

            self.library = LibraryView(self.session)
            self.pages.addWidget(self.library)
        return self.library

    def _curves(self) -> SheetCurvesView:
        """What the sheet of a cell draws, made when it is first asked for."""
        if self.curves is None:
            from lumvak.ui.stages.cells.sheet_curves import SheetCurvesView

            self.curves = SheetCurvesView(self.session)
            self.pages.addWidget(self.curves)
        return self.curves

    def _beside(self) -> BesideView:
        """The packs side by side, made when they are first asked for."""
        if self.beside is None:
            from lumvak.ui.stages.cells.side_by_side import BesideView

            self.beside = BesideView(self.session)
            self.pages.addWidget(self.beside)
        return self.beside

    def _shop(self) -> ShopView:
        """What to look for in a shop, made when it is first asked for."""
        if self.shop is None:
            from lumvak.ui.stages.shop import ShopView

            self.shop = ShopView(self.session, "cell")
            self.pages.addWidget(self.shop)
        return self.shop

    def show_view(self, view: str) -> None:
        """Turn to one of the views."""
        self.view.show_value(view)
        self.head.say(*TITLES[view])
        tall = min(290 if view == "chart" else 216, self.height() / 2 * 100 / THEME.percent)
        rest = max(self.split.height() * 100 / THEME.percent - tall, 1)
        self.split.lay(f"cells.{'chart' if view == 'chart' else 'counts'}", (tall, rest))
        if view == "chart":
            self.above.setCurrentWidget(self._chart())
        elif view == "counts":
            self.above.setCurrentIndex(0)
            if self.chart is not None:
                self.chart.drop_brush()
            self.options.unbrush()
        self.wanted.setVisible(view not in ("curves", "shop"))
        if view == "library":
            self.pages.setCurrentWidget(self._library())
        elif view == "curves":
            curves = self._curves()
            if self.library is not None and self.library.marked:
                curves.show_sheet(self.library.marked)
            self.pages.setCurrentWidget(curves)
        elif view == "shop":
            self.pages.setCurrentWidget(self._shop())
        else:
            self.pages.setCurrentWidget(self._beside() if view == "beside" else self.packs)
        self.show_evaluation(self.session.evaluation)
        turn(self)

    def take_file(self, path: Path) -> None:
        self._library().take_file(path)

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Show what is in view of an evaluation."""
        self.forms.show_value(wanted_forms(evaluation.project.pack, evaluation.project.need.kind))
        if self.view.value == "beside":
            self._beside().show_evaluation(evaluation)
            return
        if self.view.value == "library":
            self._library().show_evaluation(evaluation)
            return
        if self.view.value == "curves":
            self._curves().show_evaluation(evaluation)
            return
        if self.view.value == "shop":
            self._shop().show_evaluation(evaluation)
            return
        if self.view.value == "chart":
            self._chart().show_evaluation(evaluation)
        else:
            self.ladder.show_evaluation(evaluation)
        self.options.show_evaluation(evaluation)

    def _want(self, forms: tuple[str, ...]) -> None:
        """Look among these forms only, now and in projects begun later."""
        try_edit(self.session, {"pack.forms": forms}, "forms of cells")
        self.session.remembered.emit("forms", forms)

    def _pick_rung(self, rung: Rung) -> None:
        options = self.session.evaluation.sized.options
        catalogue = self.session.evaluation.sized.parts
        family = catalogue.chemistries[rung.chemistry].family
        for place in range(len(options)):
            cell = options.cell(place)
            if (
                catalogue.chemistry_of(cell).family == family
                and options.series[place] == rung.series
            ):
                self.options.pick((cell.id, rung.series, int(options.parallel[place])))
                return
        self.options.ask_about(rung.chemistry, rung.series, None)
