"""What is wrong with a view at a size: cut texts, things over each other, short tables."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import combinations

from PyQt6.QtCore import QRect, Qt
from PyQt6.QtWidgets import (
    QAbstractButton,
    QAbstractItemView,
    QAbstractScrollArea,
    QApplication,
    QComboBox,
    QLabel,
    QLineEdit,
    QProgressBar,
    QScrollArea,
    QSplitter,
    QStackedWidget,
    QTableView,
    QWidget,
)

from lumvak.ui.pack_drawing.view import PackView
from lumvak.ui.shell.window import Window
from lumvak.ui.stages.order import STAGES
from lumvak.ui.widgets.choice import ChoiceRow, Several

# What a frame or a rounding takes.
SLACK_PX = 2
LEAST_ROWS = 4
SIZES = ((1280, 800), (1024, 700), (960, 640))
FIELD_PX, ARROW_PX = 8, 18


def views_of(window: Window) -> Iterator[tuple[str, str]]:
    """Each view of each stage, opened one after the other."""
    for stage in STAGES:
        window.open_stage(stage.key)
        page = window.stages[stage.key]
        choice = getattr(page, "view", None)
        for view in choice.offered if isinstance(choice, ChoiceRow) else ("",):
            if view:
                page.show_view(view)  # type: ignore[attr-defined]
            yield stage.key, view


def focus() -> QWidget:
    found = QApplication.focusWidget()
    assert found is not None
    return found


def settled() -> None:
    """Let what waits be done."""
    for _ in range(5):
        QApplication.processEvents()


def faults_in_views(window: Window) -> list[str]:
    """What is wrong in all views at the size that the window has."""
    found = []
    for stage, view in views_of(window):
        settled()
        found += [f"{stage}/{view}: {fault}" for fault in faults_of(window)]
    return found


def shown_in(widget: QWidget) -> Iterator[QWidget]:
    """Everything within a widget that is seen; pages that are not in front are not looked into."""
    for child in widget.children():
        if isinstance(child, QWidget) and child.isVisible():
            yield child
            yield from shown_in(child)


def faults_of(window: Window) -> list[str]:
    """What is cut, lies over something else or outside of its parent, or shows too few rows."""
    found = []
    for widget in shown_in(window):
        if _hidden(widget):
            continue
        if fault := _cut(widget) or _short(widget) or _outside(widget) or _sideways(widget):
            found.append(fault)
        found += _overlaps(widget)
    return found


def _hidden(widget: QWidget) -> bool:
    """Whether it is shown to nobody: Qt's own helpers."""
    return widget.objectName().startswith("qt_")


def _name(widget: QWidget) -> str:
    text = getattr(widget, "text", None)
    said = text() if callable(text) else ""
    parent = widget.parentWidget()
    within = type(parent).__name__ if parent is not None else ""
    return f"{type(widget).__name__} {str(said or widget.accessibleName())[:40]!r} in {within}"


def _line_of(widget: QWidget) -> tuple[str, int] | None:
    """The line of text that a widget shows, and how wide it can be; None for other widgets."""
    if isinstance(widget, QLabel):
        wraps = widget.wordWrap() or "<" in widget.text()
        return None if wraps else (widget.text(), widget.contentsRect().width())
    if isinstance(widget, QAbstractButton):
        return widget.text().replace("&", ""), widget.width()
    if isinstance(widget, QLineEdit):
        return widget.text() or widget.placeholderText(), widget.width() - FIELD_PX
    if isinstance(widget, QComboBox):
        return widget.currentText(), widget.width() - ARROW_PX
    return None


def _cut(widget: QWidget) -> str:
    """A text that does not fit into its widget."""
    if (line := _line_of(widget)) is not None:
        wanted = widget.fontMetrics().horizontalAdvance(line[0])
        if wanted > line[1] + SLACK_PX:
            return f"cut: {_name(widget)} {line[0][:30]!r}, {line[1]} of {wanted} px"
    if isinstance(widget, QProgressBar) or widget.findChild(QWidget) is not None:
        return ""
    text = getattr(widget, "text", None)
    high = widget.fontMetrics().ascent() if callable(text) and text() else 0
    if widget.hasHeightForWidth():
        high = max(high, widget.heightForWidth(widget.width()))
    if high > widget.height() + SLACK_PX:
        return f"cut: {_name(widget)} {widget.height()} of {high} px high"
    return ""


def _short(widget: QWidget) -> str:
    """A table of fewer rows in view than LEAST_ROWS, unless it has no more."""
    if not isinstance(widget, QTableView) or widget.model() is None:
        return ""
    model, viewport = widget.model(), widget.viewport()
    assert model is not None and viewport is not None
    rows = min(model.rowCount(), LEAST_ROWS)
    wanted = sum(widget.rowHeight(row) for row in range(rows))
    if viewport.height() + SLACK_PX < wanted:
        seen = viewport.height() / max(wanted / max(rows, 1), 1)
        return f"short: {_name(widget)} {seen:.1f} of {model.rowCount()} rows"
    return ""


def _outside(widget: QWidget) -> str:
    """A widget that its parent does not show whole, and no bars move."""
    parent = widget.parentWidget()
    if parent is None or widget.isWindow():
        return ""
    above = parent.parentWidget()
    if isinstance(above, QAbstractScrollArea) and parent is above.viewport():
        return ""
    if isinstance(parent, QAbstractItemView | QStackedWidget):
        return ""
    room = parent.rect().adjusted(-SLACK_PX, -SLACK_PX, SLACK_PX, SLACK_PX)
    if not room.contains(widget.geometry()):
        return f"outside: {_name(widget)} {_said(widget.geometry())} of {_said(parent.rect())}"
    return ""


def _sideways(widget: QWidget) -> str:
    """A page that has to be moved sideways to be read."""
    if isinstance(widget, QScrollArea):
        inner, viewport = widget.widget(), widget.viewport()
        if inner is not None and viewport is not None:
            over = inner.minimumSizeHint().width() - viewport.width()
            if max(over, inner.width() - viewport.width()) > SLACK_PX:
                return f"wide: {type(inner).__name__} {over} px wider than its room"
    return ""


def _overlaps(parent: QWidget) -> Iterator[str]:
    """Children that lie over each other."""
    if isinstance(parent, QAbstractScrollArea | QStackedWidget | QSplitter):
        return
    shown = [
        child
        for child in parent.children()
        if isinstance(child, QWidget)
        and child.isVisible()
        and not child.isWindow()
        and not child.testAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
        and not _hidden(child)
    ]
    for one, other in combinations(shown, 2):
        both = one.geometry().intersected(other.geometry())
        if both.width() > SLACK_PX and both.height() > SLACK_PX:
            yield f"over each other: {_name(one)} and {_name(other)} by {_said(both)}"


def _said(rect: QRect) -> str:
    return f"{rect.x()},{rect.y()} {rect.width()}x{rect.height()}"


def turns_of(window: Window, stage: str, every: int = 1) -> Iterator[str]:
    """Each word of each choice in view at a stage, or one of so many, taken and then taken back."""
    stack = window.session.undo_stack
    page = window.stages[stage]
    top = getattr(page, "view", None)
    for choice in page.findChildren(ChoiceRow):
        if choice is top or not choice.isVisible() or isinstance(choice, Several):
            continue
        before = choice.value
        for value in [it for it in choice.offered if it != before][::every]:
            place = stack.index()
            choice.picked.emit(value)
            yield f"{choice.name}: {value}"
            while stack.index() > place:
                stack.undo()
        if choice.value != before:
            choice.picked.emit(before)


def out_of_view(page: QWidget) -> list[str]:
    """What a hand would have to look for: drawings below the fold, tables without a row in view,
    and what scrolls within what scrolls.
    """
    wrong = []
    for area in page.findChildren(QAbstractScrollArea):
        if not area.isVisible():
            continue
        name = area.accessibleName() or type(area).__name__
        if isinstance(area, QAbstractItemView) and _shows_no_row(area):
            wrong.append(f"{name} shows no row")
        if scrolls(area) and any(scrolls(above) for above in _areas_about(area, page)):
            wrong.append(f"{name} scrolls within what scrolls")
    for drawing in page.findChildren(PackView):
        seen = drawing.visibleRegion().boundingRect()
        if drawing.isVisible() and seen.height() < 0.75 * drawing.height():
            wrong.append(f"{drawing.accessibleName()} is below the fold")
    return wrong


def _shows_no_row(table: QAbstractItemView) -> bool:
    rows, viewport = table.model(), table.viewport()
    if rows is None or viewport is None or not rows.rowCount():
        return False
    return viewport.height() < 0.9 * table.sizeHintForRow(0)


def scrolls(area: QAbstractScrollArea) -> bool:
    """Whether there is more than is in view of what an area scrolls up and down."""
    bar = area.verticalScrollBar()
    return bar is not None and bar.isVisible() and bar.maximum() > bar.minimum()


def _areas_about(area: QWidget, page: QWidget) -> Iterator[QScrollArea]:
    above = area.parentWidget()
    while above is not None and above is not page:
        if isinstance(above, QScrollArea):
            yield above
        above = above.parentWidget()
