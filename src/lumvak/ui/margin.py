"""The margin: what there is to notice at this stage, and the working of the figure clicked."""

from __future__ import annotations

from PyQt6.QtCore import QModelIndex, QPointF, QRect, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import (
    QFontMetrics,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPolygonF,
    QResizeEvent,
)
from PyQt6.QtWidgets import (
    QFrame,
    QLabel,
    QScrollArea,
    QStyle,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QTreeWidget,
    QTreeWidgetItem,
    QVBoxLayout,
    QWidget,
)

from lumvak.core.figures.figure import ORIGIN_WORDS, Figure, in_line
from lumvak.core.figures.finding import Finding
from lumvak.core.units import MINUS, say
from lumvak.ui.fields import draw_assumed
from lumvak.ui.keys import moved, step_of
from lumvak.ui.marks import draw_mark
from lumvak.ui.session import Session
from lumvak.ui.theme import THEME

WRAP = int(Qt.TextFlag.TextWordWrap)
FIGURE_ROLE = Qt.ItemDataRole.UserRole + 1
OPEN_DEPTH = 1


def precise(figure: Figure) -> str:
    """A value to six figures with its unit, as the margin shows it."""
    value, unit = figure.value, figure.unit
    if value is None:
        return "no limit" if figure.unit == "A" else "not set"
    if isinstance(value, str) or unit in ("h", "money"):
        return say(value, unit)
    scale, shown = {"%": (100.0, "%"), "ohm": (1e3, "mΩ")}.get(unit, (1.0, unit))
    return f"{value * scale:.6g} {shown}".rstrip().replace("-", MINUS)


class FindingsView(QWidget):
    """Paints the findings of a stage; a click shows the figure that one is about."""

    explained = pyqtSignal(str)
    laid_out = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self._findings: tuple[Finding, ...] | None = None
        self._rects: list[QRect] = []
        self._current = -1
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)

    def show_findings(self, findings: tuple[Finding, ...]) -> None:
        """Show these findings, the worst first."""
        if findings == self._findings:
            return
        self._findings = findings
        self._current = -1
        self.setAccessibleName("; ".join(item.text for item in findings))
        self.relayout()

    def relayout(self) -> None:
        """Lay the texts out for the width there is."""
        width = max(self.width(), THEME.px(120))
        top = 0
        self._rects = []
        for item in self._findings or ():
            text = sum(self._heights(item, width)) + THEME.px(14)
            self._rects.append(QRect(0, top, width, text))
            top += text
        tall = top if self._findings else THEME.px(40)
        if tall != self.minimumHeight():
            self.setMinimumHeight(tall)
            self.laid_out.emit()
        self.update()

    def _heights(self, item: Finding, width: int) -> tuple[int, int]:
        inner = QRect(0, 0, width - THEME.px(24), 10_000)
        head = QFontMetrics(THEME.font("table", strong=True)).boundingRect(inner, WRAP, item.text)
        body = QFontMetrics(THEME.font("note")).boundingRect(inner, WRAP, f"{item.why} {item.do}")
        return head.height(), body.height()

    def resizeEvent(self, event: object) -> None:
        self.relayout()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        if not self._findings:
            painter.setFont(THEME.font("note"))
            painter.setPen(THEME.colour("soft"))
            painter.drawText(
                self.rect(), Qt.AlignmentFlag.AlignTop | WRAP, "Nothing to notice at this stage."
            )
            return
        for place, (item, rect) in enumerate(zip(self._findings, self._rects, strict=True)):
            if place == self._current and self.hasFocus():
                painter.fillRect(rect, THEME.colour("tint"))
            head, body = self._heights(item, rect.width())
            draw_mark(painter, THEME.px(8), rect.top() + THEME.px(10), item.severity)
            left = THEME.px(22)
            width = rect.width() - THEME.px(24)
            painter.setFont(THEME.font("table", strong=True))
            painter.setPen(THEME.colour("ink"))
            painter.drawText(QRect(left, rect.top(), width, head), WRAP, item.text)
            painter.setFont(THEME.font("note"))
            role = "soft" if item.severity == "note" else "ink"
            painter.setPen(THEME.colour(role))
            painter.drawText(
                QRect(left, rect.top() + head + THEME.px(2), width, body),
                WRAP,
                f"{item.why} {item.do}",
            )

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is None:
            return
        for place, rect in enumerate(self._rects):
            if rect.contains(event.position().toPoint()):
                self._take(place)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        step = step_of(event, Qt.Key.Key_Up, Qt.Key.Key_Down)
        if not step or not self._findings:
            super().keyPressEvent(event)
            return
        self._take(moved(self._current, step, len(self._findings)))

    def _take(self, place: int) -> None:
        self._current = place
        self.update()
        if self._findings and self._findings[place].figure:
            self.explained.emit(self._findings[place].figure)


class _WorkingDelegate(QStyledItemDelegate):
    """Paints one node of a working: value and name, then the rule and where it comes from."""

    def _width(self, index: QModelIndex) -> int:
        tree = self.parent()
        assert isinstance(tree, QTreeWidget)
        depth, parent = 0, index.parent()
        while parent.isValid():
            depth, parent = depth + 1, parent.parent()
        viewport = tree.viewport()
        width = viewport.width() if viewport is not None else 260
        return max(THEME.px(110), width - tree.indentation() * (depth + 1) - THEME.px(4))

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex) -> QSize:
        figure = index.data(FIGURE_ROLE)
        width = self._width(index)
        head, body = self._texts(figure)
        head_rect = QFontMetrics(THEME.font("table", table=True, strong=True)).boundingRect(
            QRect(0, 0, width - THEME.px(12), 1000), WRAP, head
        )
        body_rect = QFontMetrics(THEME.font("note", table=True)).boundingRect(
            QRect(0, 0, width, 1000), WRAP, body
        )
        return QSize(width, head_rect.height() + body_rect.height() + THEME.px(7))

    def _texts(self, figure: Figure) -> tuple[str, str]:
        head = f"{precise(figure)}  {in_line(figure.label)}"
        origin = ORIGIN_WORDS[figure.origin]
        if figure.origin in ("typed", "default") and not figure.inputs:
            return head, origin
        if figure.origin == "sheet":
            return head, figure.rule
        prefix = f"{origin}: " if figure.origin == "assumed" else ""
        return head, f"{prefix}{figure.rule} · {figure.source}"

    def paint(
        self, painter: QPainter | None, option: QStyleOptionViewItem, index: QModelIndex
    ) -> None:
        if painter is None:
            return
        figure: Figure = index.data(FIGURE_ROLE)
        rect = QRectF(option.rect)
        rect.setWidth(self._width(index))
        painter.save()
        if option.state & QStyle.StateFlag.State_HasFocus:
            painter.fillRect(rect, THEME.colour("tint"))
        head, body = self._texts(figure)
        value = precise(figure)
        fonts = THEME.font("table", table=True, strong=True), THEME.font("table", table=True)
        head_box = QRect(0, 0, int(rect.width()) - THEME.px(12), 1000)
        head_height = QFontMetrics(fonts[0]).boundingRect(head_box, WRAP, head).height()
        painter.setFont(fonts[0])
        role = {"typed": "verdigris", "assumed": "amber"}.get(figure.origin, "ink")
        painter.setPen(THEME.colour("copper" if not index.parent().isValid() else role))
        one_line = head_height <= QFontMetrics(fonts[0]).height() + 2
        top = rect.top() + THEME.px(2)
        offset = QFontMetrics(fonts[0]).horizontalAdvance(value + "  ")
        if one_line:
            painter.drawText(QRectF(rect.left(), top, offset, head_height), 0, value)
            painter.setFont(fonts[1])
            painter.setPen(THEME.colour("ink"))
            painter.drawText(
                QRectF(rect.left() + offset, top, rect.width() - offset, head_height),
                0,
                in_line(figure.label),
            )
        else:
            painter.drawText(
                QRectF(rect.left(), top, rect.width() - THEME.px(12), head_height), WRAP, head
            )
        if figure.assumed:
            draw_assumed(painter, rect.right() - THEME.px(7), top + THEME.px(9))
        painter.setFont(THEME.font("note", table=True))
        painter.setPen(THEME.colour(role if figure.origin in ("typed", "assumed") else "soft"))
        below = top + head_height
        painter.drawText(QRectF(rect.left(), below, rect.width(), 1000), WRAP, body)
        painter.restore()


class WorkingTree(QTreeWidget):
    """The working of a figure down to what was typed; unfolds node by node."""

    def __init__(self) -> None:
        super().__init__()
        self._figure: Figure | None = None
        self.setAccessibleName("Working of the figure")
        self.setHeaderHidden(True)
        self.setIndentation(THEME.px(13))
        self.setUniformRowHeights(False)
        self.setItemDelegate(_WorkingDelegate(self))
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setVerticalScrollMode(self.ScrollMode.ScrollPerPixel)
        self.itemExpanded.connect(self._unfold)

    def show_figure(self, figure: Figure | None) -> None:
        """Show a figure's working; what was unfolded of the same figure stays so."""
        if figure is None or figure == self._figure:
            return
        same = self._figure is not None and self._figure.key == figure.key
        opened = self._opened() if same else None
        self._figure = figure
        self.clear()
        root = self._item(figure)
        self.addTopLevelItem(root)
        if opened is None:
            self._open_to(root, OPEN_DEPTH)
        else:
            self._reopen(root, (figure.key,), opened)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self.scheduleDelayedItemsLayout()

    def drawBranches(self, painter: QPainter | None, rect: QRect, index: QModelIndex) -> None:
        """A small triangle beside the first line of a node that unfolds."""
        item = self.itemFromIndex(index)
        if painter is None or item is None or not item.data(0, FIGURE_ROLE).inputs:
            return
        size = THEME.px(3.5)
        x, y = rect.right() - THEME.px(6), rect.top() + THEME.px(10)
        corners = (
            [QPointF(x - size, y - size / 2), QPointF(x + size, y - size / 2), QPointF(x, y + size)]
            if item.isExpanded()
            else [
                QPointF(x - size / 2, y - size),
                QPointF(x - size / 2, y + size),
                QPointF(x + size, y),
            ]
        )
        painter.save()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(THEME.colour("soft"))
        painter.drawPolygon(QPolygonF(corners))
        painter.restore()

    def _item(self, figure: Figure) -> QTreeWidgetItem:
        item = QTreeWidgetItem()
        item.setData(0, FIGURE_ROLE, figure)
        item.setToolTip(0, f"{figure.rule}\n{figure.source}")
        item.setData(0, Qt.ItemDataRole.AccessibleTextRole, f"{precise(figure)} {figure.label}")
        if figure.inputs:
            item.setChildIndicatorPolicy(QTreeWidgetItem.ChildIndicatorPolicy.ShowIndicator)
        return item

    def _unfold(self, item: QTreeWidgetItem) -> None:
        if item.childCount() == 0:
            figure: Figure = item.data(0, FIGURE_ROLE)
            item.addChildren([self._item(part) for part in figure.inputs])

    def _open_to(self, item: QTreeWidgetItem, depth: int) -> None:
        item.setExpanded(True)
        self._unfold(item)
        if depth > 1:
            for place in range(item.childCount()):
                child = item.child(place)
                if child is not None:
                    self._open_to(child, depth - 1)

    def _opened(self) -> set[tuple[str, ...]]:
        found: set[tuple[str, ...]] = set()

        def visit(item: QTreeWidgetItem | None, path: tuple[str, ...]) -> None:
            if item is None or not item.isExpanded():
                return
            here = (*path, item.data(0, FIGURE_ROLE).key)
            found.add(here)
            for place in range(item.childCount()):
                visit(item.child(place), here)

        visit(self.topLevelItem(0), ())
        return found

    def _reopen(
        self, item: QTreeWidgetItem, path: tuple[str, ...], opened: set[tuple[str, ...]]
    ) -> None:
        if path not in opened:
            return
        item.setExpanded(True)
        self._unfold(item)
        for place in range(item.childCount()):
            child = item.child(place)
            if child is not None:
                self._reopen(child, (*path, child.data(0, FIGURE_ROLE).key), opened)


class _Legend(QWidget):
    """What the words under a figure mean."""

    def __init__(self) -> None:
        super().__init__()
        self.setFixedHeight(THEME.px(22))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        font = THEME.font("note", table=True)
        painter.setFont(font)
        metrics = QFontMetrics(font)
        x = 0
        for word, role in (("typed", "verdigris"), ("data sheet", "ink"), ("assumed", "amber")):
            painter.setPen(THEME.colour(role))
            width = metrics.horizontalAdvance(word)
            painter.drawText(
                QRect(x, 0, width + 4, self.height()), Qt.AlignmentFlag.AlignVCenter, word
            )
            x += width + THEME.px(8)
            if word == "assumed":
                draw_assumed(painter, x, self.height() / 2)
            x += THEME.px(8)


class Margin(QWidget):
    """Findings above, working below."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.setObjectName("paper")
        self.findings = FindingsView()
        self.tree = WorkingTree()
        self.title = QLabel()
        self.title.setWordWrap(True)
        self.title.setFont(THEME.font("stage", strong=True))
        notice = QLabel("To notice")
        notice.setFont(THEME.font("stage", strong=True))
        self.scroll_area = QScrollArea()
        self.scroll_area.setWidgetResizable(True)
        self.scroll_area.setWidget(self.findings)
        self.scroll_area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        rule = QFrame()
        rule.setFixedHeight(1)
        rule.setStyleSheet(f"background: {THEME.colours.line};")
        layout = QVBoxLayout(self)
        layout.setContentsMargins(THEME.px(16), THEME.px(12), THEME.px(8), THEME.px(4))
        layout.setSpacing(THEME.px(6))
        layout.addWidget(notice)
        layout.addWidget(self.scroll_area)
        layout.addWidget(rule)
        layout.addWidget(self.title)
        layout.addWidget(self.tree, 1)
        layout.addWidget(_Legend())
        self.findings.explained.connect(session.explain)
        self.findings.laid_out.connect(self._share_height)

    def resizeEvent(self, event: object) -> None:
        self._share_height()

    def _share_height(self) -> None:
        """The findings take what they need, up to half of the height; the working the rest."""
        wanted = self.findings.minimumHeight() + THEME.px(4)
        self.scroll_area.setFixedHeight(min(wanted, self.height() * 48 // 100))

    def show_stage(self, stage: str) -> None:
        """Show the findings of a stage and the working of the figure in question."""
        seen = self.session.evaluation
        self.findings.show_findings(tuple(item for item in seen.findings if item.stage == stage))
        self._share_height()
        figure = self.session.figure(self.session.explained_key)
        if figure is not None:
            self.title.setText(f"Why {say(figure.value, figure.unit)}? {figure.label}")
            self.tree.show_figure(figure)
