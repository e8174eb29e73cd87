"""The margin's tree of how a number came about."""

from __future__ import annotations

from msgspec import Struct
from PyQt6.QtCore import QModelIndex, QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QPainter, QPolygonF, QResizeEvent
from PyQt6.QtWidgets import (
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QTreeWidget,
    QTreeWidgetItem,
)

from lumvak.core.figures.figure import ORIGIN_WORDS, Figure
from lumvak.core.said import in_line
from lumvak.ui.handbook.pages import section_in
from lumvak.ui.speech import digits, in_words, say, shown, shown_in, spoken
from lumvak.ui.widgets.figure_label import draw_assumed
from lumvak.ui.widgets.measured import metrics, text_width, wrapped_height
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import WRAP, tip

NODE_ROLE = Qt.ItemDataRole.UserRole + 1
OPEN_DEPTH = 1


def precise(figure: Figure) -> str:
    """A value to six figures with its unit, as the margin shows it."""
    value, unit = figure.value, figure.unit
    if value is None:
        return in_words("no limit") if figure.unit == "A" else in_words("not set")
    if isinstance(value, str) or unit in ("h", "money"):
        return say(value, unit)
    scale, said = {"%": (100.0, "%"), "ohm": (1e3, "mΩ")}.get(unit, (1.0, shown_in(unit)))
    return f"{digits(shown(value, unit) * scale, '.6g')} {said}".rstrip()


class _Node(Struct, frozen=True):
    """A figure with its texts: the value, its name, and below them rule and source."""

    figure: Figure
    value: str
    name: str
    body: str
    assumed: bool

    def on_one_line(self, width: int) -> bool:
        """Whether value and name stand beside each other at a width in px."""
        return self.offset() + text_width(self.name, "table", strong=True, table=True) <= width

    def offset(self) -> int:
        """How far from the left the name begins, in px."""
        return text_width(self.value + "  ", "table", strong=True, table=True)

    def heights(self, width: int) -> tuple[int, int]:
        """Height in px of value and name, and of what stands below, at a width in px."""
        inner = width - THEME.px(12)
        head = (
            metrics("table", strong=True, table=True).height()
            if self.on_one_line(inner)
            else wrapped_height(self.head, inner, "table", strong=True, table=True)
        )
        return head, wrapped_height(self.body, width, "note", table=True)

    @property
    def head(self) -> str:
        """Value and name in one."""
        return f"{self.value}  {self.name}"


def _node(figure: Figure) -> _Node:
    origin = in_words(ORIGIN_WORDS[figure.origin])
    if figure.origin in ("typed", "default") and not figure.inputs:
        body = origin
    elif figure.origin == "sheet":
        body = spoken(figure.rule)
    else:
        prefix = f"{origin}: " if figure.origin == "assumed" else ""
        body = f"{prefix}{spoken(figure.rule)} · {spoken(figure.source)}"
    return _Node(figure, precise(figure), spoken(in_line(figure.label)), body, figure.assumed)


class _Heights(QStyledItemDelegate):
    """Says how high a row of the tree is."""

    def __init__(self, tree: WorkingTree) -> None:
        super().__init__(tree)
        self._tree = tree

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex) -> QSize:
        node: _Node = index.data(NODE_ROLE)
        width = self._tree.width_at(_depth(index))
        return QSize(width, sum(node.heights(width)) + THEME.px(7))


def _depth(index: QModelIndex) -> int:
    """How many nodes lie above one."""
    depth, parent = 0, index.parent()
    while parent.isValid():
        depth, parent = depth + 1, parent.parent()
    return depth


def _draw_node(painter: QPainter, node: _Node, rect: QRectF, *, top: bool) -> None:
    """A node in its place; the one at the top is what was asked about."""
    wide = int(rect.width())
    high, _ = node.heights(wide)
    origin = node.figure.origin
    role = {"typed": "verdigris", "assumed": "amber"}.get(origin, "ink")
    x, y = rect.left(), rect.top() + THEME.px(2)
    painter.setFont(THEME.font("table", table=True, strong=True))
    painter.setPen(THEME.colour("copper" if top else role))
    if node.on_one_line(wide - THEME.px(12)):
        base = y + metrics("table", strong=True, table=True).ascent()
        painter.drawText(QPointF(x, base), node.value)
        painter.setFont(THEME.font("table", table=True))
        painter.setPen(THEME.colour("ink"))
        painter.drawText(QPointF(x + node.offset(), base), node.name)
    else:
        painter.drawText(QRectF(x, y, wide - THEME.px(12), high), WRAP, node.head)
    if node.assumed:
        painter.save()
        draw_assumed(painter, rect.right() - THEME.px(7), y + THEME.px(9))
        painter.restore()
    painter.setFont(THEME.font("note", table=True))
    painter.setPen(THEME.colour(role if origin in ("typed", "assumed") else "soft"))
    painter.drawText(QRectF(x, y + high, wide, 1000), WRAP, node.body)


def _draw_triangle(painter: QPainter, x: float, y: float, opened: bool) -> None:
    """A small triangle beside the first line of a node that unfolds."""
    size = THEME.px(3.5)
    corners = (
        [QPointF(x - size, y - size / 2), QPointF(x + size, y - size / 2), QPointF(x, y + size)]
        if opened
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


class WorkingTree(QTreeWidget):
    """The working of a figure down to what was typed; unfolds node by node.

    ``asked`` tells of the page of the methods that Enter or a double click asks for.
    """

    asked = pyqtSignal(str)

    def __init__(self) -> None:
        super().__init__()
        self._figure: Figure | None = None
        self._grown = False
        self.setAccessibleName(in_words("Working of the figure"))
        self.setHeaderHidden(True)
        self.setIndentation(THEME.px(13))
        self.setUniformRowHeights(False)
        self.setItemDelegate(_Heights(self))
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setVerticalScrollMode(self.ScrollMode.ScrollPerPixel)
        self.itemExpanded.connect(self._unfold)
        self.itemActivated.connect(lambda *_: self._ask())

    @property
    def section(self) -> str:
        """The page of the methods that the node in hand points to; empty where it is none."""
        item = self.currentItem()
        return "" if item is None else section_in(item.data(0, NODE_ROLE).body)

    def show_figure(self, figure: Figure | None) -> None:
        """Show a figure's working; what was unfolded of the same figure stays so."""
        if figure is None or figure is self._figure:
            return
        same = self._figure is not None and self._figure.key == figure.key
        self._figure, self._grown = figure, False
        root = self.topLevelItem(0)
        if same and root is not None and self._refreshed(root, figure, 0):
            if self._grown:
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

    def _refreshed(self, item: QTreeWidgetItem, figure: Figure, depth: int) -> bool:
        """Give a node and those under it their figures as they are now; whether they fit.

        Notes whether one of them takes another height than before.
        """
        shown: _Node = item.data(0, NODE_ROLE)
        if shown.figure is figure:
            return True
        parts = figure.inputs
        if [part.key for part in shown.figure.inputs] != [part.key for part in parts]:
            return False
        node, width = _node(figure), self.width_at(depth)
        if not self._grown:
            self._grown = sum(node.heights(width)) != sum(shown.heights(width))
        self._fill(item, node)
        return all(
            self._refreshed(child, part, depth + 1)
            for place, part in enumerate(parts)
            if (child := item.child(place)) is not None
        )

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self.scheduleDelayedItemsLayout()

    def width_at(self, depth: int) -> int:
        """Width in px that a node at a depth has."""
        viewport = self.viewport()
        width = viewport.width() if viewport is not None else 260
        return max(THEME.px(110), width - self.indentation() * (depth + 1) - THEME.px(4))

    def drawRow(
        self, painter: QPainter | None, option: QStyleOptionViewItem, index: QModelIndex
    ) -> None:
        """Value and name, below them the rule and where it comes from; a triangle to unfold."""
        if painter is None:
            return
        node: _Node = index.data(NODE_ROLE)
        depth = _depth(index)
        wide, left = self.width_at(depth), float(self.indentation() * (depth + 1))
        rect = QRectF(left, option.rect.top(), wide, option.rect.height())
        if index == self.currentIndex() and self.hasFocus():
            painter.fillRect(rect, THEME.colour("tint"))
        if node.figure.inputs:
            _draw_triangle(
                painter, left - THEME.px(7), rect.top() + THEME.px(10), self.isExpanded(index)
            )
        _draw_node(painter, node, rect, top=depth == 0)

    def _item(self, figure: Figure) -> QTreeWidgetItem:
        item = QTreeWidgetItem()
        self._fill(item, _node(figure))
        if figure.inputs:
            item.setChildIndicatorPolicy(QTreeWidgetItem.ChildIndicatorPolicy.ShowIndicator)
        return item

    def _fill(self, item: QTreeWidgetItem, node: _Node) -> None:
        figure = node.figure
        item.setData(0, NODE_ROLE, node)
        more = "\nEnter opens the methods there." if section_in(node.body) else ""
        item.setToolTip(0, tip(f"{spoken(figure.rule)}\n{spoken(figure.source)}{more}"))
        item.setData(0, Qt.ItemDataRole.AccessibleDescriptionRole, node.body)
        item.setData(0, Qt.ItemDataRole.AccessibleTextRole, f"{node.value} {spoken(figure.label)}")

    def _ask(self) -> None:
        if self.section:
            self.asked.emit(self.section)

    def _unfold(self, item: QTreeWidgetItem) -> None:
        if item.childCount() == 0:
            figure: Figure = item.data(0, NODE_ROLE).figure
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
            here = (*path, item.data(0, NODE_ROLE).figure.key)
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
                self._reopen(child, (*path, child.data(0, NODE_ROLE).figure.key), opened)
