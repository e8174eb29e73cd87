"""The margin: what there is to notice, or the working of the figure in hand."""

from lumvak.ui.shell.window import Window


def test_a_figure_in_hand_stays_so_while_the_pack_changes(window: Window) -> None:
    margin, session = window.margin, window.session
    session.explain("pack.energy_wh")
    assert margin.title.text().startswith("Why ") and margin.tree.topLevelItem(0) is not None
    before = margin.title.text()
    session.edit({"pack.parallel": 8})
    assert margin.title.text() != before and margin.title.text().endswith("Energy")
