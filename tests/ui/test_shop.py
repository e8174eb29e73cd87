"""In the shop: windows of each part, parts found held against them, one taken into use."""

import pytest
from pytestqt.qtbot import QtBot

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.shop import ShopView
from tests.ui.need.test_stage import type_cell


@pytest.fixture
def shop(window: Window) -> ShopView:
    window.open_stage("power")
    window.stages["power"].show_view("shop")
    view = window.stages["power"].views["shop"]
    assert isinstance(view, ShopView)
    return view


def row(view: ShopView, name: str) -> int:
    return next(at for at, it in enumerate(view.grid.records) if it["name"] == name)


def test_a_part_typed_from_its_wrapper_is_held_at_once_and_used(
    qtbot: QtBot, window: Window, shop: ShopView
) -> None:
    window.session.edit({"shopping.found": ()})
    type_cell(qtbot, shop.grid, row(shop, "name"), 2, "grey one")
    type_cell(qtbot, shop.grid, row(shop, "continuous_a"), 2, "20 A")
    (found,) = window.session.project.shopping.found
    assert (found.name, found.given) == ("grey one", {"continuous_a": 20.0})
    assert "grey one falls short" in shop.verdict.text()
    assert shop.grid.records[row(shop, "continuous_a")]["mark0"] == "crimson"
    type_cell(qtbot, shop.grid, row(shop, "continuous_a"), 2, "40")
    assert "holds as far as is known" in shop.verdict.text()
    type_cell(qtbot, shop.grid, row(shop, "peak_a"), 2, "80")
    shop.uses[0].click()
    board = window.session.evaluation.power.made
    assert board is not None and board.name == "grey one" and board.continuous_a == 40.0
    assert any(it.id == board.id for it in window.session.own.boards)
    # All of it can be undone: that it is picked, and that it is kept.
    assert window.session.project.protection.board == board.id
    window.session.undo_stack.undo()
    assert window.session.project.protection.board is None
    window.session.undo_stack.undo()
    assert not any(it.id == board.id for it in window.session.own.boards)


def test_what_cannot_be_read_stays_and_changes_nothing(
    qtbot: QtBot, window: Window, shop: ShopView
) -> None:
    before = window.session.project
    type_cell(qtbot, shop.grid, row(shop, "continuous_a"), 2, "plenty")
    assert window.session.project is before
    assert "“plenty” is not a current" in shop.grid.problem.text()


def test_parts_are_turned_to_and_a_figure_unfolds(window: Window, shop: ShopView) -> None:
    shop.parts.picked.emit("fuse")
    assert shop.title.text() == "main fuse"
    assert "in force: Basalt 35" in shop.quantity.text()
    assert "Examples at hand, made up: " in shop.examples.text()
    shop.grid.table.setCurrentCell(row(shop, "voltage_dc_v"), 2)
    assert window.session.explained_key == "spec.fuse.voltage_dc_v.least"
    assert "For the full voltage: " in shop.why.text()


def test_the_design_goes_on_as_specified(window: Window, shop: ShopView) -> None:
    shop.parts.picked.emit("fuse")
    shop.open.click()
    assert window.session.project.power.fuse == "as-specified"
    fuse = window.session.evaluation.power.fuse.part
    assert fuse is not None and fuse.name == "as specified"
    assert "in force: as specified" in shop.quantity.text()
    assert not shop.open.isVisible()


def test_the_lines_are_copied(window: Window, shop: ShopView) -> None:
    from PyQt6.QtGui import QGuiApplication

    shop.copy.click()
    clipboard = QGuiApplication.clipboard()
    assert clipboard is not None
    assert clipboard.text().startswith("Orchard barrow: 14S7P of cells of ")


def test_cells_are_looked_for_at_their_own_stage(window: Window) -> None:
    window.open_stage("cells")
    window.stages["cells"].show_view("shop")
    view = window.stages["cells"].shop
    assert view is not None and view.title.text() == "cell"


def test_what_would_open_an_empty_window_is_tried_and_offered(
    window: Window, shop: ShopView
) -> None:
    changes = {"need.peak_current_a": 150.0, "need.peak_duration_s": 5.0, "leads.area_mm2": 1.5}
    window.session.edit({**changes, "need.controller_limit_a": 200.0})
    shop.parts.picked.emit("fuse")
    assert shop.ways.isVisible() and not shop.open.isVisible()
    shop.ways.click()
    assert "It must hold 150 A" in window.notice.text.text()
    gauge = next(it for it in window.notice.buttons if it.text().startswith("AWG "))
    gauge.click()
    assert window.session.project.leads.area_mm2 != 1.5
    assert not shop.ways.isVisible()


def test_a_printed_figure_is_doubted_and_how_to_find_out_is_said(
    qtbot: QtBot, window: Window, shop: ShopView
) -> None:
    window.session.edit({"shopping.found": ()})
    type_cell(qtbot, shop.grid, row(shop, "continuous_a"), 2, "40")
    assert "40 A is 20 A: too little" in shop.verdict.text()
    shop.grid.table.setCurrentCell(row(shop, "balance_a"), 2)
    assert "To find out: the marks of its bleed resistors" in shop.why.text()
