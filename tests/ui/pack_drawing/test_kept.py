"""Metal and cells are painted once, and anew where anything of them changes."""

import numpy as np
from msgspec.structs import replace
from PyQt6.QtCore import QSize
from PyQt6.QtGui import QImage, QPixmap

from lumvak.core.arrangement.layout import FACE_A
from lumvak.core.evaluation import Evaluation
from lumvak.ui.pack_drawing.kept import Kept
from lumvak.ui.pack_drawing.side import SideShown
from lumvak.ui.pack_drawing.view import PackView
from lumvak.ui.shell.window import Window
from lumvak.ui.widgets.theme import THEME

SIZE = QSize(360, 220)


def drawn_of(evaluation: Evaluation) -> SideShown:
    return SideShown(
        layout=evaluation.laid_out.joined_pack.layout,
        side=FACE_A,
        pieces=evaluation.laid_out.joined_pack.pieces,
        leads=evaluation.laid_out.joined_pack.leads,
        taps=evaluation.laid_out.taps.terminal,
        tap=2,
    )


def image(picture: QPixmap) -> QImage:
    return picture.toImage()


def test_what_lies_over_the_metal_paints_nothing_anew(window: Window) -> None:
    evaluation = window.session.evaluation
    drawn = drawn_of(evaluation)
    view = PackView("a side")
    view.resize(SIZE)
    view.show_drawn(drawn)
    kept = Kept()
    first = kept.picture(drawn, view.spread, SIZE, 1.0)
    again = kept.picture(
        replace(drawn, tap=3, taps_done=frozenset((2,)), leads=()), view.spread, SIZE, 1.0
    )
    assert again.cacheKey() == first.cacheKey()
    # Each of these shows; what is painted then is what a fresh painter paints.
    count = len(evaluation.laid_out.joined_pack.pieces)
    for other in (
        replace(drawn, side=1 - FACE_A),
        replace(drawn, chosen_cells=frozenset((0,))),
        replace(drawn, absent=frozenset(range(count))),
        replace(drawn, marked=frozenset((0,))),
        replace(drawn, strength=np.linspace(0.0, 1.0, count)),
        replace(drawn, covered=frozenset((1,))),
    ):
        before = image(kept.picture(drawn, view.spread, SIZE, 1.0))
        after = image(kept.picture(other, view.spread, SIZE, 1.0))
        assert after != before
        assert after == image(Kept().picture(other, view.spread, SIZE, 1.0))
    assert kept.picture(drawn, view.spread, SIZE * 2, 1.0).size() == SIZE * 2
    assert kept.picture(drawn, view.spread, SIZE, 2.0).size() == SIZE * 2
    name, before = THEME.name, image(kept.picture(drawn, view.spread, SIZE, 1.0))
    THEME.name = "dark" if name == "light" else "light"
    try:
        assert image(kept.picture(drawn, view.spread, SIZE, 1.0)) != before
    finally:
        THEME.name = name
