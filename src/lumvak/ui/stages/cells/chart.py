"""The chart of packs: two measures of the builder's choice, the edge marked, brushed by hand."""

from __future__ import annotations

import math
from typing import Any

import numpy as np
import pyqtgraph as pg
from PyQt6.QtCore import QPointF, QRectF, pyqtSignal
from PyQt6.QtGui import QColor
from PyQt6.QtWidgets import QComboBox, QHBoxLayout, QVBoxLayout

from lumvak.core.catalogue.cells import FAMILY_NAMES
from lumvak.core.comparison.all_packs import AXES, PackField, field_of, undominated
from lumvak.core.evaluation import Evaluation
from lumvak.ui.session import Session
from lumvak.ui.speech import digits, in_words, say, shown, shown_in, worded
from lumvak.ui.stages.cells.chart_keys import KeyedPlot
from lumvak.ui.widgets.pages import Page
from lumvak.ui.widgets.plots import BrushBox, NumberAxis, axis, round_range, show_points
from lumvak.ui.widgets.quantity_field import try_edit
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import soft, tip

SHAPES = {"cobalt": "o", "phosphate": "s", "titanate": "t1", "sodium": "d"}
BY_LOG = ("mass", "cost", "volume", "runtime")
SCALES = {"%": 100.0}
# Within so many px of a pack's dot a place is that of the pack.
NEAR_PX = 14
UNIT_WORDS = {"money": ""}


class _Axis(NumberAxis):
    """An axis that may be logarithmic, with ticks at 1, 2 and 5 of each decade."""

    by_log = False

    def tickValues(self, low: float, high: float, size: float) -> Any:
        if not self.by_log:
            return super().tickValues(low, high, size)
        decades = range(math.floor(low), math.ceil(high) + 1)
        ticks = [power + math.log10(step) for power in decades for step in (1.0, 2.0, 5.0)]
        return [(1.0, [tick for tick in ticks if low <= tick <= high])]

    def tickStrings(self, values: Any, scale: float, spacing: float) -> Any:
        if not self.by_log:
            return super().tickStrings(values, scale, spacing)
        return [digits(10.0**value, ".12g") for value in values]


class ChartView(Page):
    """Every pack that serves, with up to half as many cells again as needed.

    ``brushed`` tells the field and the places in it that lie in the rectangle drawn.
    """

    brushed = pyqtSignal(object, object)
    unbrushed = pyqtSignal()

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.field: PackField | None = None
        self.reach = np.zeros(0, dtype=np.intp)
        self.brush_rect: QRectF | None = None
        self._dressed = ("", "")
        self.box = BrushBox()
        self.plot = KeyedPlot(
            viewBox=self.box,
            axisItems={side: _Axis(side) for side in ("left", "bottom")},
        )
        self.plot.setAccessibleName(in_words("Chart of packs"))
        self.plot.getAxis("left").setWidth(THEME.px(52))
        self.plot.getPlotItem().setContentsMargins(0, THEME.px(8), THEME.px(6), THEME.px(4))
        self.across, self.up = self._axis_box("mass"), self._axis_box("cost")
        self.front = self.plot.plot(pen=pg.mkPen(THEME.colour("copper"), width=1.2))
        self.dots: dict[tuple[str, bool], Any] = {}
        for family, shape in SHAPES.items():
            for edge in (False, True):
                item = pg.ScatterPlotItem(
                    symbol=shape,
                    size=THEME.px(10 if edge else 6),
                    pen=pg.mkPen(THEME.colour("copper" if edge else "verdigris"), width=1.2),
                    brush=pg.mkBrush(THEME.colour("copper_wash" if edge else "verdigris_wash")),
                )
                self.plot.addItem(item)
                self.dots[family, edge] = item
        self.in_hand = pg.ScatterPlotItem(
            symbol="o", size=THEME.px(17), pen=pg.mkPen(THEME.colour("ink"), width=2), brush=None
        )
        self.plot.addItem(self.in_hand)
        self.band = pg.QtWidgets.QGraphicsRectItem()
        self.band.setPen(pg.mkPen(THEME.colour("verdigris"), width=1))
        tint = QColor(THEME.colour("verdigris"))
        tint.setAlpha(34)
        self.band.setBrush(pg.mkBrush(tint))
        self.plot.addItem(self.band, ignoreBounds=True)
        self.band.hide()
        self.told = soft("")
        self.told.setFont(THEME.font("note", table=True))
        self.told.setWordWrap(True)
        outer = QVBoxLayout(self)
        outer.setContentsMargins(THEME.px(24), 0, THEME.px(12), 0)
        outer.setSpacing(THEME.px(2))
        head = QHBoxLayout()
        head.setSpacing(THEME.px(8))
        for widget in (soft("across"), self.across, soft("up"), self.up):
            head.addWidget(widget)
        head.addStretch(1)
        outer.addLayout(head)
        outer.addWidget(self.told)
        outer.addWidget(self.plot, 1)
        self._connect()

    def _connect(self) -> None:
        self.box.brushed.connect(self.brush)
        self.box.clicked.connect(self.click)
        self.plot.drawing.connect(self._show_band)
        self.plot.brushed.connect(self.brush)
        self.plot.taken.connect(self.click)
        self.plot.moved.connect(self._tell)
        self.plot.dropped.connect(self._drop)

    def _axis_box(self, key: str) -> QComboBox:
        box = QComboBox()
        box.setAccessibleName(in_words("Measure"))
        for name, made in AXES.items():
            box.addItem(made.name, name)
        box.setCurrentIndex(box.findData(key))
        box.currentIndexChanged.connect(lambda _: self._change_axes())
        return box

    def _change_axes(self) -> None:
        self._drop()
        self._draw()

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Work out the field of an evaluation and draw it."""
        sized_pack = evaluation.sized.sized_pack
        self.field = field_of(
            sized_pack.table, sized_pack.demand, sized_pack.terms, sized_pack.pack
        )
        self.reach = self.field.within_reach()
        self._draw()
        if self.brush_rect is not None:
            self._tell_brush()

    def values_of(self, which: QComboBox, places: np.ndarray | None = None) -> np.ndarray:
        """Places on an axis of the packs shown, or of ``places`` of the field."""
        assert self.field is not None
        key = which.currentData()
        values = self.field.measures[key][self.reach if places is None else places]
        if key in BY_LOG:
            return np.log10(np.maximum(values, 1e-6))
        unit = AXES[key].unit
        return np.asarray(shown(values * SCALES.get(unit, 1.0), unit))

    def _draw(self) -> None:
        if self.field is None:
            return
        evaluation, field = self.session.evaluation, self.field
        x, y = self.values_of(self.across), self.values_of(self.up)
        measures = [AXES[box.currentData()] for box in (self.across, self.up)]
        edge = undominated(x, y, (measures[0].more, measures[1].more))
        self._dress_axes()
        families = np.array(
            [
                evaluation.sized.parts.chemistry_of(cell).family
                for cell in evaluation.sized.sized_pack.table.cells
            ]
        )
        family = families[field.rows[self.reach]]
        for (name, on_edge), item in self.dots.items():
            here = (family == name) & (edge == on_edge)
            show_points(item, x[here], y[here])
        order = np.argsort(x[edge], kind="stable")
        show_points(self.front, x[edge][order], y[edge][order])
        choice = evaluation.sized.choice
        mine = (
            (field.rows == choice.row)
            & (field.series == choice.series)
            & (field.parallel == choice.parallel)
        )
        show_points(self.in_hand, self.values_of(self.across, mine), self.values_of(self.up, mine))
        if len(x):
            self.plot.show_whole(self._range(self.across, x), self._range(self.up, y))
        words = ", ".join(
            f"{mark} {in_words(FAMILY_NAMES[name])}"
            for name, mark in (
                ("cobalt", "●"),
                ("phosphate", "■"),
                ("titanate", "▲"),
                ("sodium", "◆"),
            )
            if np.any(family == name)
        )
        self.told.setText(
            worded("{} of {} packs; {}; copper: unbeaten", len(x), len(field), words)
            if len(x)
            else worded("none of {} packs serves", len(field))
        )
        self.told.setToolTip(tip(self.told.text()))

    def _dress_axes(self) -> None:
        """Name the axes, where other measures are shown than before."""
        wanted = (self.across.currentData(), self.up.currentData())
        if wanted == self._dressed:
            return
        self._dressed = wanted
        for side, key in zip(("bottom", "left"), wanted, strict=True):
            measure = AXES[key]
            self.plot.getAxis(side).by_log = key in BY_LOG
            self.plot.getAxis(side).picture = None
            unit = UNIT_WORDS.get(measure.unit, shown_in(measure.unit))
            axis(self.plot, side, f"{measure.name}, {unit}" if unit else measure.name)

    def _range(self, which: QComboBox, values: np.ndarray) -> tuple[float, float]:
        """A range that stands still while values creep: round, or twentieths of a decade."""
        low, high = float(values.min()), float(values.max())
        if which.currentData() in BY_LOG:
            return math.floor(low * 20.0 - 0.5) / 20.0, math.ceil(high * 20.0 + 0.5) / 20.0
        return round_range(low, high)

    def _inside(self, rect: QRectF) -> np.ndarray:
        x, y = self.values_of(self.across), self.values_of(self.up)
        inside = (x >= rect.left()) & (x <= rect.right()) & (y >= rect.top()) & (y <= rect.bottom())
        return self.reach[inside]

    def brush(self, rect: QRectF) -> None:
        """Show the packs in a rectangle."""
        self.brush_rect = rect
        self._show_band(rect)
        self._tell_brush()

    def _show_band(self, rect: QRectF) -> None:
        self.band.setRect(rect)
        self.band.show()

    def _drop(self) -> None:
        self.drop_brush()
        self.unbrushed.emit()

    def _tell_brush(self) -> None:
        if self.brush_rect is not None and self.field is not None:
            self.brushed.emit(self.field, self._inside(self.brush_rect))

    def drop_brush(self) -> None:
        """Forget the rectangle."""
        self.brush_rect = None
        self.band.hide()

    def _nearest(self, place: QPointF) -> tuple[int, float]:
        """The pack in hand nearest to a place, by its place in the field, and how far in px."""
        x, y = self.values_of(self.across), self.values_of(self.up)
        wide, high = self.box.viewPixelSize()
        gap = np.hypot((x - place.x()) / wide, (y - place.y()) / high)
        near = int(np.argmin(gap))
        return int(self.reach[near]), float(gap[near])

    def _tell(self, place: QPointF) -> None:
        """Say which pack the cross is nearest to, with what the axes show of it."""
        if self.field is None or not len(self.reach):
            return
        at, away = self._nearest(place)
        cell = self.session.evaluation.sized.sized_pack.table.cells[int(self.field.rows[at])]
        measures = [AXES[box.currentData()] for box in (self.across, self.up)]
        values = [
            f"{measure.name} {say(float(self.field.measures[box.currentData()][at]), measure.unit)}"
            for measure, box in zip(measures, (self.across, self.up), strict=True)
        ]
        pack = worded(
            "{}S{}P of {}", int(self.field.series[at]), int(self.field.parallel[at]), cell.name
        )
        near = "" if away <= THEME.px(NEAR_PX) else "nearest: "
        self.plot.tell(f"{near}{pack}, {', '.join(values)}")

    def click(self, place: QPointF) -> None:
        """Take the nearest pack in hand; a click into the open drops the rectangle."""
        if self.field is None or not len(self.reach):
            return
        at, away = self._nearest(place)
        if away > THEME.px(NEAR_PX):
            if self.brush_rect is not None:
                self._drop()
            return
        cell = self.session.evaluation.sized.sized_pack.table.cells[int(self.field.rows[at])]
        series, parallel = int(self.field.series[at]), int(self.field.parallel[at])
        try_edit(
            self.session,
            {"pack.cell": cell.id, "pack.series": series, "pack.parallel": parallel},
        )
