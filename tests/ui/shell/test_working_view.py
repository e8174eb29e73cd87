"""The tree of how a number came about: every input is under the figure that it went into."""

from PyQt6.QtCore import Qt

from lumvak.ui.shell.window import Window
from lumvak.ui.speech import spoken


def test_every_input_is_under_its_figure_down_to_what_was_typed(window: Window) -> None:
    session, tree = window.session, window.margin.tree
    session.explain("pack.end_voltage_v")
    root, figure = tree.topLevelItem(0), session.evaluation.figures["pack.end_voltage_v"]
    assert root is not None and root.childCount() == len(figure.inputs)
    for place, part in enumerate(figure.inputs):
        child = root.child(place)
        assert child is not None
        said = str(child.data(0, Qt.ItemDataRole.AccessibleTextRole) or child.text(0)).lower()
        assert spoken(part.label).lower() in said
        child.setExpanded(True)
        assert child.childCount() == len(part.inputs)
