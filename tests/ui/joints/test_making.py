"""Making: three pages over two sides of the pack, and exports."""

from pathlib import Path

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.joints.making import MakingView


def test_pages_turn_and_the_checker_needs_no_drawing(making: MakingView) -> None:
    assert making.pages.currentWidget() is making.cut_list
    assert making.sides.isVisibleTo(making)
    making.show_page("order")
    assert making.pages.currentWidget() is making.order
    assert making.sides.isVisibleTo(making)
    making.show_page("check")
    assert making.strip_check.isVisibleTo(making)
    assert not making.sides.isVisibleTo(making)


def test_an_export_is_written_or_said_not_to_be(
    window: Window, making: MakingView, tmp_path: Path
) -> None:
    making.export("svg", tmp_path / "pack.svg")
    assert (tmp_path / "pack.svg").read_text("utf-8").startswith("<")
    assert "Written to" in window.notice.text.text()
    making.export("svg", tmp_path / "pack.svg" / "x" / "y.svg")
    assert "was not saved" in window.notice.text.text()
