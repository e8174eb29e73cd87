"""Stage: the need. What is to be powered, and what limits it sets."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPen, QResizeEvent
from PyQt6.QtWidgets import QBoxLayout, QHBoxLayout, QScrollArea, QVBoxLayout, QWidget

from lumvak.core import units
from lumvak.core.evaluate import Evaluation
from lumvak.core.units import say
from lumvak.ui.fields import QuantityField, bound_choice, heading, soft
from lumvak.ui.session import Session
from lumvak.ui.stages.dutyfield import DutyField
from lumvak.ui.theme import THEME

KINDS = (("vehicle", "light vehicle"), ("tool", "cordless tool"), ("supply", "fixed supply"))
TWO_COLUMNS_PX = 730
ENCLOSURES = (("closed", "closed in"), ("still", "in still air"), ("moving", "in moving air"))
BASES = (
    ("runtime", "run time"),
    ("capacity", "Ah"),
    ("energy", "Wh"),
    ("distance", "distance"),
    ("open", "left open"),
)


class NeedDrawing(QWidget):
    """The need drawn: the voltage window with the pack in it, and the load with its peak."""

    def __init__(self) -> None:
        super().__init__()
        self._seen: Evaluation | None = None
        self.setMinimumHeight(THEME.px(118))
        self.setMaximumHeight(THEME.px(210))

    def show_evaluation(self, seen: Evaluation) -> None:
        """Draw this need."""
        self._seen = seen
        demand = seen.demand
        self.setAccessibleName(
            f"Stops at {say(demand.window.stop.value, 'V')}, survives "
            f"{say(demand.window.highest.value, 'V')}; pack from "
            f"{say(seen.figures['pack.voltage_empty_v'].value, 'V')} to "
            f"{say(seen.pack.full.value, 'V')}"
        )
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(THEME.px(600), THEME.px(118))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        if self._seen is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setFont(THEME.font("note", table=True))
        half = self.width() / 2
        self._paint_window(painter, QRectF(0, 0, half - THEME.px(28), self.height()), self._seen)
        self._paint_load(
            painter, QRectF(half + THEME.px(12), 0, half - THEME.px(12), self.height()), self._seen
        )

    def _paint_window(self, painter: QPainter, rect: QRectF, seen: Evaluation) -> None:
        window, pack = seen.demand.window, seen.pack
        empty = seen.figures["pack.voltage_empty_v"].number
        stop, highest, full = window.stop.number, window.highest.number, pack.full.number
        low, high = min(stop, empty), max(highest, full)
        margin = 0.12 * (high - low)
        low, high = low - margin, high + margin

        def x(volts: float) -> float:
            return rect.left() + (volts - low) / (high - low) * rect.width()

        top, base = THEME.px(26), self.height() - THEME.px(30)
        box = QRectF(x(stop), top, x(highest) - x(stop), base - top)
        painter.fillRect(box, THEME.colour("tint"))
        painter.setPen(QPen(THEME.colour("verdigris"), 1.5))
        painter.drawLine(box.topLeft(), box.bottomLeft())
        painter.drawLine(box.topRight(), box.bottomRight())
        painter.setPen(THEME.colour("verdigris"))
        left = Qt.AlignmentFlag.AlignLeft
        painter.drawText(
            QRectF(box.left() + 4, top + 2, 200, 20), left, f"stops at {say(stop, 'V')}"
        )
        metrics = painter.fontMetrics()
        words = f"stops at {say(stop, 'V')}", f"survives {say(highest, 'V')}"
        crowded = sum(map(metrics.horizontalAdvance, words)) + THEME.px(16) > box.width()
        second = top + 2 + (THEME.px(16) if crowded else 0)
        painter.drawText(
            QRectF(box.right() - 204, second, 200, 20), Qt.AlignmentFlag.AlignRight, words[1]
        )
        thick = THEME.px(14)
        middle = (top + THEME.px(20) + base) / 2
        bar = QRectF(x(empty), middle - thick / 2, x(full) - x(empty), thick)
        painter.fillRect(bar, THEME.colour("copper_wash"))
        painter.setPen(QPen(THEME.colour("copper"), 2))
        nominal = x(pack.nominal.number)
        painter.drawLine(
            round(nominal), round(bar.top() - 4), round(nominal), round(bar.bottom() + 4)
        )
        painter.setPen(THEME.colour("soft"))
        painter.drawText(
            QRectF(rect.left(), 0, rect.width(), 20),
            left,
            f"voltage window, and {seen.choice.series} in series of {seen.choice.cell.name} in it",
        )
        painter.setPen(THEME.colour("line"))
        painter.drawLine(round(rect.left()), base, round(rect.right()), base)
        painter.setPen(THEME.colour("soft"))
        for volts, word in ((empty, "empty"), (pack.nominal.number, "nominal"), (full, "full")):
            painter.drawText(
                QRectF(x(volts) - 60, base + 4, 120, 20),
                Qt.AlignmentFlag.AlignHCenter,
                f"{word} {say(volts, 'V')}",
            )

    def _paint_load(self, painter: QPainter, rect: QRectF, seen: Evaluation) -> None:
        load, peak = seen.pack.current.number, seen.demand.peak.number
        seconds = seen.demand.peak_duration.number
        painter.setPen(THEME.colour("soft"))
        painter.drawText(
            QRectF(rect.left(), 0, rect.width(), 20),
            Qt.AlignmentFlag.AlignLeft,
            "current drawn from the pack",
        )
        base, top = self.height() - THEME.px(30), THEME.px(30)
        if seen.demand.duty:
            self._paint_duty(painter, rect, seen, base - top)
            return
        right = rect.right() - THEME.px(64)
        scale = (base - top) / max(load, peak)
        width = right - rect.left()
        start, stop = rect.left() + width * 0.34, rect.left() + width * 0.52
        painter.fillRect(
            QRectF(rect.left(), base - load * scale, width, load * scale), THEME.colour("copper")
        )
        painter.fillRect(
            QRectF(start, base - peak * scale, stop - start, (peak - load) * scale),
            THEME.colour("copper_wash"),
        )
        painter.setPen(THEME.colour("line"))
        painter.drawLine(round(rect.left()), base, round(right), base)
        painter.setPen(THEME.colour("ink"))
        painter.drawText(
            QRectF(right + THEME.px(6), base - load * scale - THEME.px(9), THEME.px(64), 20),
            Qt.AlignmentFlag.AlignLeft,
            say(load, "A"),
        )
        if peak > load * 1.02:
            painter.drawText(
                QRectF(stop + THEME.px(6), top - 2, 160, 20),
                Qt.AlignmentFlag.AlignLeft,
                f"{say(peak, 'A')} for {say(seconds, 's')}",
            )
        painter.setPen(THEME.colour("soft"))
        painter.drawText(
            QRectF(rect.left(), base + 4, width, 20), Qt.AlignmentFlag.AlignRight, "time"
        )

    def _paint_duty(self, painter: QPainter, rect: QRectF, seen: Evaluation, height: float) -> None:
        duty, unit = seen.demand.duty, seen.project.need.duty_unit
        base = rect.bottom() - THEME.px(30)
        right = rect.right() - THEME.px(64)
        whole = sum(seconds for _, seconds in duty)
        scale = height / max(amount for amount, _ in duty)
        x = rect.left()
        for amount, seconds in duty:
            width = seconds / whole * (right - rect.left())
            bar = QRectF(x, base - amount * scale, width, amount * scale)
            painter.fillRect(bar, THEME.colour("copper_wash"))
            x += width
        heat = seen.demand.load_figure.number
        mean = heat * seen.demand.mean_share
        for value, role, word in ((heat, "copper", "heat"), (mean, "verdigris", "mean")):
            y = base - value * scale
            painter.setPen(QPen(THEME.colour(role), 1.5))
            painter.drawLine(round(rect.left()), round(y), round(right), round(y))
            shift = -THEME.px(17) if word == "heat" else THEME.px(1)
            painter.drawText(
                QRectF(right - THEME.px(30), y + shift, THEME.px(94), 20),
                Qt.AlignmentFlag.AlignRight,
                f"{word} {say(value, unit)}",
            )
        painter.setPen(THEME.colour("line"))
        painter.drawLine(round(rect.left()), round(base), round(right), round(base))
        painter.setPen(THEME.colour("soft"))
        painter.drawText(
            QRectF(rect.left(), base + 4, right - rect.left(), 20),
            Qt.AlignmentFlag.AlignRight,
            f"one round, {say(whole, 's')}",
        )


class NeedStage(QScrollArea):
    """The fields of the need, in two columns, and the need drawn below."""

    key = "need"

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.setObjectName("sheet")
        self.setWidgetResizable(True)
        body = QWidget()
        self.setWidget(body)
        outer = QVBoxLayout(body)
        outer.setContentsMargins(THEME.px(24), THEME.px(16), THEME.px(20), THEME.px(10))
        outer.setSpacing(THEME.px(10))
        top = QHBoxLayout()
        top.addWidget(heading("What is to be powered?"))
        top.addStretch(1)
        self.kind = bound_choice(session, "need.kind", KINDS, "Equipment")
        top.addWidget(self.kind)
        outer.addLayout(top)
        self._make_fields()
        self.columns = QHBoxLayout()
        self.columns.setSpacing(THEME.px(28))
        self.columns.addLayout(self._left(), 1)
        self.columns.addLayout(self._right(), 1)
        outer.addLayout(self.columns)
        self.drawing = NeedDrawing()
        outer.addWidget(self.drawing, 1)

    def _field(
        self, name: str, label: str, kind: units.Kind, optional: bool = False
    ) -> QuantityField:
        return QuantityField(self.session, f"need.{name}", label, kind, optional=optional)

    def _make_fields(self) -> None:
        make = self._field
        self.fields = {
            "rated_voltage_v": make("rated_voltage_v", "Rated voltage", units.VOLTAGE),
            "max_voltage_v": make("max_voltage_v", "Survives", units.VOLTAGE, True),
            "stop_voltage_v": make("stop_voltage_v", "Stops at", units.VOLTAGE, True),
            "nickel_cells": make("nickel_cells", "Nickel cells", units.COUNT, True),
            "current_a": make("current_a", "Continuous", units.CURRENT),
            "power_w": make("power_w", "Continuous", units.POWER),
            "efficiency": make("efficiency", "Efficiency", units.FRACTION, True),
            "peak_current_a": make("peak_current_a", "Peak", units.CURRENT, True),
            "peak_duration_s": make("peak_duration_s", "Peak lasts", units.SECONDS, True),
            "runtime_h": make("runtime_h", "Run time", units.HOURS),
            "capacity_ah": make("capacity_ah", "Capacity", units.CAPACITY),
            "energy_wh": make("energy_wh", "Energy", units.ENERGY),
            "distance_km": make("distance_km", "Distance", units.DISTANCE),
            "consumption_wh_per_km": make(
                "consumption_wh_per_km", "Consumption", units.CONSUMPTION
            ),
            "ambient_c": make("ambient_c", "Ambient", units.TEMPERATURE, True),
            "charger_voltage_v": make("charger_voltage_v", "Charger", units.VOLTAGE, True),
            "charger_current_a": make("charger_current_a", "Charger current", units.CURRENT, True),
        }
        session = self.session
        self.ceiling = QuantityField(
            session, "pack.ceiling_v", "Charge ceiling", units.VOLTAGE, optional=True
        )
        self.warm_limit = QuantityField(
            session, "pack.temperature_limit_c", "Cells at most", units.TEMPERATURE
        )
        self.enclosure = bound_choice(session, "pack.enclosure", ENCLOSURES, "Around the pack")
        self.reserves = {
            origin: QuantityField(
                session, f"pack.ageing_{origin}", f"Counts on, {origin}", units.FRACTION
            )
            for origin in ("new", "reclaimed")
        }
        self.load_basis = bound_choice(
            session,
            "need.load_basis",
            (("current", "amps"), ("power", "watts"), ("duty", "duty")),
            "Load given as",
        )
        self.duty = DutyField(session)
        self.endurance_basis = bound_choice(session, "need.endurance_basis", BASES, "How long")
        self.contacts = bound_choice(
            session,
            "need.contacts",
            ((None, "not known"), (2, "two"), (3, "three")),
            "Contacts of the old pack",
        )

    def _left(self) -> QVBoxLayout:
        column = QVBoxLayout()
        column.setSpacing(THEME.px(7))
        voltage = heading("Voltage")
        voltage.setMinimumHeight(THEME.px(28))
        column.addWidget(voltage)
        for name in ("rated_voltage_v", "max_voltage_v", "stop_voltage_v", "nickel_cells"):
            column.addWidget(self.fields[name])
        self.contacts_row = QWidget()
        row = QHBoxLayout(self.contacts_row)
        row.setContentsMargins(0, 0, 0, 0)
        row.addWidget(soft("Contacts of the old pack"))
        row.addWidget(self.contacts)
        row.addStretch(1)
        column.addWidget(self.contacts_row)
        column.addSpacing(THEME.px(8))
        column.addWidget(heading("How long?"))
        column.addWidget(self.endurance_basis)
        for name in (
            "runtime_h",
            "capacity_ah",
            "energy_wh",
            "distance_km",
            "consumption_wh_per_km",
        ):
            column.addWidget(self.fields[name])
        for field in self.reserves.values():
            field.setToolTip("Share of the least capacity that is counted on after ageing")
            column.addWidget(field)
        self.open_note = soft("The parallel count then follows from the currents alone.", wrap=True)
        column.addWidget(self.open_note)
        column.addStretch(1)
        return column

    def _right(self) -> QVBoxLayout:
        column = QVBoxLayout()
        column.setSpacing(THEME.px(7))
        head = QHBoxLayout()
        head.addWidget(heading("Load"))
        head.addStretch(1)
        head.addWidget(self.load_basis)
        column.addLayout(head)
        for name in ("current_a", "power_w"):
            column.addWidget(self.fields[name])
        column.addWidget(self.duty)
        for name in ("efficiency", "peak_current_a", "peak_duration_s"):
            column.addWidget(self.fields[name])
        column.addSpacing(THEME.px(8))
        column.addWidget(heading("Around it"))
        for name in ("ambient_c", "charger_voltage_v", "charger_current_a"):
            column.addWidget(self.fields[name])
        column.addWidget(self.warm_limit)
        around = QHBoxLayout()
        around.addWidget(soft("Pack lies"))
        around.addWidget(self.enclosure)
        around.addStretch(1)
        column.addLayout(around)
        self.ceiling.setToolTip("Volts per cell that charging ends at; empty is the full voltage")
        column.addWidget(self.ceiling)
        column.addStretch(1)
        return column

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """Two columns where they fit side by side, else one below the other."""
        super().resizeEvent(event)
        narrow = self.width() < THEME.px(TWO_COLUMNS_PX)
        self.columns.setDirection(
            QBoxLayout.Direction.TopToBottom if narrow else QBoxLayout.Direction.LeftToRight
        )

    def show_evaluation(self, seen: Evaluation) -> None:
        """Show the need as it is, and what is taken for what was not said."""
        need = seen.project.need
        self.kind.show_value(need.kind)
        self.duty.setVisible(need.load_basis == "duty")
        self.duty.show_need(need)
        self.load_basis.show_value(need.load_basis)
        self.endurance_basis.show_value(need.endurance_basis)
        self.contacts.show_value(need.contacts)
        shown = {
            "nickel_cells": need.kind == "tool",
            "current_a": need.load_basis == "current",
            "power_w": need.load_basis == "power",
            "efficiency": need.load_basis == "power"
            or (need.load_basis == "duty" and need.duty_unit == "W"),
            "runtime_h": need.endurance_basis == "runtime",
            "capacity_ah": need.endurance_basis == "capacity",
            "energy_wh": need.endurance_basis == "energy",
            "distance_km": need.endurance_basis == "distance",
            "consumption_wh_per_km": need.endurance_basis == "distance",
        }
        for name, field in self.fields.items():
            field.setVisible(shown.get(name, True))
            field.show_value(getattr(need, name), seen.figures.get(f"need.{name}"))
        pack, origin = seen.project.pack, seen.choice.cell.origin
        for name, field in self.reserves.items():
            field.setVisible(name == origin)
            field.show_value(getattr(pack, f"ageing_{name}"), None)
        self.ceiling.show_value(
            pack.ceiling_v, seen.figures["cell.voltage_full_v"] if pack.ceiling_v is None else None
        )
        self.warm_limit.show_value(pack.temperature_limit_c, None)
        self.enclosure.show_value(pack.enclosure)
        self.contacts_row.setVisible(need.kind == "tool")
        self.open_note.setVisible(need.endurance_basis == "open")
        self.drawing.show_evaluation(seen)
