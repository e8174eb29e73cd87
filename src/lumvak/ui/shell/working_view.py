"""The margin's tree of how a number came about."""

from __future__ import annotations

from PyQt6.QtCore import QModelIndex, QPointF, QRect, QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPolygonF, QResizeEvent
from PyQt6.QtWidgets import (
    QStyle,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QTreeWidget,
    QTreeWidgetItem,
)

from lumvak.core.figures.figure import ORIGIN_WORDS, Figure, in_line
from lumvak.core.units import MINUS, say
from lumvak.ui.widgets.figure_label import draw_assumed
from lumvak.ui.widgets.measured import metrics, text_width, wrapped_height
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import WRAP

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
        high = wrapped_height(head, width - THEME.px(12), "table", strong=True, table=True)
        high += wrapped_height(body, width, "note", table=True)
        return QSize(width, high + THEME.px(7))

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
        inner = int(rect.width()) - THEME.px(12)
        head_height = wrapped_height(head, inner, "table", strong=True, table=True)
        painter.setFont(fonts[0])
        role = {"typed": "verdigris", "assumed": "amber"}.get(figure.origin, "ink")
        painter.setPen(THEME.colour("copper" if not index.parent().isValid() else role))
        one_line = head_height <= metrics("table", strong=True, table=True).height() + 2
        top = rect.top() + THEME.px(2)
        offset = text_width(value + "  ", "table", strong=True, table=True)
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
        if figure is None or figure is self._figure:
            return
        same = self._figure is not None and self._figure.key == figure.key
        self._figure = figure
        root = self.topLevelItem(0)
        if same and root is not None and self._refreshed(root, figure):
            self.scheduleDelayedItemsLayout()
            return
        opened = self._opened() if same else None
        self.clear()
        root = self._item(figure)
        self.addTopLevelItem(root)
        if opened is None:
            self._open_to(root, OPEN_DEPTH)
        else:
            self._reopen(root, (figure.key,), opened)

    def _refreshed(self, item: QTreeWidgetItem, figure: Figure) -> bool:
        """Give a node and those under it their figures as they are now; whether they fit."""
        shown: Figure = item.data(0, FIGURE_ROLE)
        if shown is figure:
            return True
        parts = figure.inputs
        if [part.key for part in shown.inputs] != [part.key for part in parts]:
            return False
        self._fill(item, figure)
        return all(
            self._refreshed(child, part)
            for place, part in enumerate(parts)
            if (child := item.child(place)) is not None
        )

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
        self._fill(item, figure)
        if figure.inputs:
            item.setChildIndicatorPolicy(QTreeWidgetItem.ChildIndicatorPolicy.ShowIndicator)
        return item

    def _fill(self, item: QTreeWidgetItem, figure: Figure) -> None:
        item.setData(0, FIGURE_ROLE, figure)
        item.setToolTip(0, f"{figure.rule}\n{figure.source}")
        item.setData(0, Qt.ItemDataRole.AccessibleTextRole, f"{precise(figure)} {figure.label}")

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
