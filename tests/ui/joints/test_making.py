"""Making: three pages over two sides of the pack, and exports."""

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
