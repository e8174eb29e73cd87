"""Numbers in sentences are known for the figures that they are."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.figures.figure import Figure, computed, typed
from lumvak.core.figures.mentioned import mentioned
from lumvak.core.said import Text, phrase, say, say_about
from lumvak.core.spelling import placed, spoken

LOAD = typed("need.current_a", "Load", 22.0, "A")
STOP = typed("need.stop_voltage_v", "Stop", 36.0, "V")
LIMIT = computed("joints.limit_a", "Limit", 14.7, "A", "of the piece", "methods 9", LOAD)
FIGURES = {item.key: item for item in (LOAD, STOP, LIMIT)}


def keys(said: Text, *about: str) -> list[tuple[str, str]]:
    text, places = placed(said)
    found = mentioned(places, FIGURES, about)
    return [(text[item.start : item.end], item.key) for item in found]


def test_a_number_leads_to_its_figure() -> None:
    said = phrase(
        "Series connections carry {}, {} are drawn; it stops at {}.",
        say(14.7, "A"),
        say(22.0, "A"),
        say(36.0, "V"),
    )
    assert keys(said, "joints.limit_a") == [
        ("14.7 A", "joints.limit_a"),
        ("22 A", "need.current_a"),
        ("36 V", "need.stop_voltage_v"),
    ]
    # Without knowing what it is about, each is still the only one that says so.
    assert keys(said) == keys(said, "joints.limit_a")


def test_what_only_looks_like_it_is_left_alone() -> None:
    assert keys("A strip of 0.22 × 36 mm, 22 A and 22 A5") == []
    assert keys(phrase("{}, {} and {}", say(22.0, "Ah"), say(122.0, "A"), 22)) == []
    assert keys("nothing here") == []


def test_a_quantity_may_say_which_figure_it_is() -> None:
    said = phrase("about {}", say(35.9, "V", "need.stop_voltage_v"))
    assert keys(said) == [("35.9 V", "need.stop_voltage_v")]


def test_two_that_say_the_same_are_told_apart_by_what_it_is_about() -> None:
    twin = typed("need.rated_voltage_v", "Rated", 36.0, "V")
    both = {**FIGURES, twin.key: twin}
    _, places = placed(phrase("Low-voltage cut-off {}.", say(36.0, "V")))
    assert mentioned(places, both, ()) == ()
    (found,) = mentioned(places, both, ("need.stop_voltage_v",))
    assert found.key == "need.stop_voltage_v"


@given(
    st.floats(-1e4, 1e5, allow_nan=False), st.sampled_from(["A", "V", "K", "%", "ohm", "h", "s"])
)
def test_any_value_is_found_as_it_is_said(value: float, unit: str) -> None:
    figure = typed("need.any", "Any", value, unit)
    text, places = placed(phrase("It is {}, not more.", say(value, unit)))
    (found,) = mentioned(places, {figure.key: figure}, ("need.any",))
    assert text[found.start : found.end] == spoken(say(value, unit))


@pytest.mark.parametrize("demo", ["barrow", "trimmer"])
def test_findings_name_no_wrong_figure(
    demo: str, request: pytest.FixtureRequest, catalogue: Catalogue
) -> None:
    project: Project = request.getfixturevalue(demo)
    evaluation = evaluate(project, catalogue)
    count = 0
    for finding in evaluation.findings:
        for said in (finding.text, finding.why, finding.do):
            text, places = placed(said)
            for item in mentioned(places, evaluation.figures, (finding.figure, *finding.beside)):
                figure = evaluation.figures[item.key]
                values = [place.quantity.value for place in places if place.start == item.start]
                scale = 1e3 if " m" in text[item.start : item.end] else 1.0
                assert values == [pytest.approx(figure.number * scale, rel=5e-3)] or values == [
                    pytest.approx(figure.number, rel=5e-3)
                ]
                count += 1
    assert count >= 3


def test_drops_and_times_are_known_as_people_say_them() -> None:
    said = phrase("Two leads melt within {} and lose {}", say_about(0.0236), say(138.0, "mV"))
    drop = Figure("drop", "", 0.138, "V", "", "")
    melts = Figure("melts", "", 0.0236, "s", "", "")
    text, places = placed(said)
    found = mentioned(places, {"drop": drop, "melts": melts}, ("melts", "drop"))
    assert [(text[item.start : item.end], item.key) for item in found] == [
        ("24 ms", "melts"),
        ("138 mV", "drop"),
    ]
