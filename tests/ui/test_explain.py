"""Figures that the evaluation does not hold are explained all the same."""

from lumvak.core.figures.figure import computed, typed
from lumvak.ui.explain import explain_made, explain_other
from lumvak.ui.shell.window import Window


def test_a_figure_made_on_demand_is_shown_with_its_inputs(window: Window) -> None:
    one = typed("made.one", "One", 2.0, "V")
    explain_made(
        window.session, computed("made.two", "Twice", 4.0, "V", "2 × one", "methods 1", one)
    )
    assert window.session.explained_key == "made.two"
    assert "Twice" in window.margin.title.text()


def test_another_pack_is_worked_out_and_named(window: Window) -> None:
    session = window.session
    explain_other(session, ("kimbry-18-26", 13, 9), "pack.mass_kg")
    assert session.explained_key == "pack.mass_kg of kimbry-18-26 13S9P"
    assert "13S9P" in window.margin.title.text()
    mine = session.evaluation.sized.choice
    assert (mine.series, mine.parallel) == (14, 7)
    before = session.explained_key
    explain_other(session, ("kimbry-18-26", 13, 9), "no.such.figure")
    assert session.explained_key == before
