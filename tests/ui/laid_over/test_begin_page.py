"""A project begins in one of three ways, on one page."""

import pytest

from lumvak.ui.laid_over.begin_page import BEGINS, BeginPage
from lumvak.ui.shell.window import Window


@pytest.fixture
def page(window: Window) -> BeginPage:
    next(act for name, act in window.menus.actions if name == "&New …").trigger()
    found = window.findChild(BeginPage)
    assert found is not None and found.isVisible()
    return found


def test_nothing_is_begun_before_a_way_is_taken(window: Window, page: BeginPage) -> None:
    name = window.session.project.name
    page.leave()
    assert window.session.project.name == name and not page.isVisible()


def test_from_a_need(window: Window, page: BeginPage) -> None:
    page.fields["need"]["need.rated_voltage_v"].setText("24 V")
    page.fields["need"]["need.current_a"].setText("9 A")
    page.buttons["need"].click()
    need = window.session.project.need
    assert (need.rated_voltage_v, need.current_a) == (24.0, 9.0)
    assert window.stage == "need" and not window.session.project.as_found.begun
    assert not page.isVisible() and window.session.undo_stack.count() == 0


def test_from_an_old_tool(window: Window, page: BeginPage) -> None:
    page.fields["tool"]["need.nickel_cells"].setText("12")
    page.fields["tool"]["need.nickel_cells"].returnPressed.emit()
    need = window.session.project.need
    assert (need.kind, need.nickel_cells) == ("tool", 12)
    assert need.rated_voltage_v == pytest.approx(14.4)


def test_from_a_pack_as_found(window: Window, page: BeginPage) -> None:
    page.fields["found"]["as_found.parallel"].setText("4")
    page.buttons["found"].click()
    assert window.session.project.as_found.begun and window.session.project.as_found.parallel == 4
    assert window.stage == "as_found"
    assert window.build_line.entries[0].name == "As found"


def test_what_cannot_be_read_is_told_and_changes_nothing(window: Window, page: BeginPage) -> None:
    name = window.session.project.name
    for text in ("many", "-3"):
        page.fields["tool"]["need.nickel_cells"].setText(text)
        page.buttons["tool"].click()
        assert page.isVisible() and page.problem.isVisible() and page.problem.text()
        assert window.session.project.name == name


def test_each_way_has_a_sample(window: Window, page: BeginPage) -> None:
    assert [it.key for it in BEGINS] == list(page.fields)
    names = [name for name, _ in window.menus.actions]
    for told in (
        "Sample, from a need: Orchard barrow",
        "Sample, from an old tool: Hedge trimmer",
        "Sample, from a pack as found: Hay tedder, auction pack",
    ):
        assert told in names
