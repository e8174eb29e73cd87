"""The path takes many links, and folds to one line."""

import pytest
from msgspec.structs import replace
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from lumvak.core.evaluation import Evaluation
from lumvak.core.spelling import spoken
from lumvak.ui.shell.path_view import FOLDED, OPEN, PathView
from lumvak.ui.shell.window import Window
from lumvak.ui.widgets.measured import text_width
from lumvak.ui.widgets.theme import THEME


def long_path(evaluation: Evaluation, count: int) -> Evaluation:
    links = evaluation.path.links
    many = tuple(replace(links[place % len(links)], key=f"link{place}") for place in range(count))
    return replace(evaluation, path=replace(evaluation.path, links=many))


@pytest.mark.parametrize(("count", "wide"), [(8, 1280), (12, 1280), (12, 960), (14, 1024)])
def test_names_of_many_links_are_whole_and_apart(
    qtbot: QtBot, evaluation: Evaluation, count: int, wide: int
) -> None:
    view = PathView()
    qtbot.addWidget(view)
    view.resize(wide, THEME.px(OPEN))
    view.show_evaluation(long_path(evaluation, count))
    heads = view.heads()
    taken = []
    for name, _, box in heads:
        width = text_width(name, "table", strong=True, table=True)
        assert width <= box.width() + 1, name
        taken.append((box.top(), box.center().x() - width / 2, box.center().x() + width / 2))
    for place, one in enumerate(taken):
        for other in taken[place + 1 :]:
            apart = abs(one[0] - other[0]) > 1
            assert apart or one[2] <= other[1] or other[2] <= one[1]
    assert all(0 <= box.bottom() < THEME.px(52) for _, _, box in heads)


def test_folded_it_says_the_weakest_link_and_what_is_drawn(qtbot: QtBot, window: Window) -> None:
    view = window.path_view
    window.resize(1280, 800)
    QApplication.processEvents()
    assert view.height() == THEME.px(OPEN)
    window.swap("path")
    assert view.height() == THEME.px(FOLDED)
    texts = [text for text, _ in view.words()]
    weakest = window.session.evaluation.path.weakest
    assert weakest is not None
    assert texts[0].startswith(f"{spoken(weakest.name)} ")
    assert texts[1] == "motor draws 22.0 A"
    assert window.settings.path_shown is False
    qtbot.keyClick(view, Qt.Key.Key_Return)
    assert view.height() == THEME.px(OPEN)
    window.resize(1024, 640)
    QApplication.processEvents()
    assert view.height() == THEME.px(FOLDED)
    qtbot.mouseClick(view, Qt.MouseButton.LeftButton)
    assert view.height() == THEME.px(OPEN)
    # It was opened for this window alone.
    assert window.settings.path_shown is True
