"""Numbers in sentences are known for the figures that they are."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.figures.figure import Figure, computed, typed
from lumvak.core.figures.mentioned import mentioned, spellings
from lumvak.core.units import say

LOAD = typed("need.current_a", "Load", 22.0, "A")
STOP = typed("need.stop_voltage_v", "Stop", 36.0, "V")
LIMIT = computed("joints.limit_a", "Limit", 14.7, "A", "of the piece", "methods 9", LOAD)
FIGURES = {item.key: item for item in (LOAD, STOP, LIMIT)}


def keys(text: str, *about: str) -> list[tuple[str, str]]:
    found = mentioned(text, FIGURES, about)
    return [(text[item.start : item.end], item.key) for item in found]


def test_a_number_leads_to_its_figure() -> None:
    text = "Series joints carry 14.7 A, 22 A are drawn; it stops at 36 V."
    assert keys(text, "joints.limit_a") == [
        ("14.7 A", "joints.limit_a"), ("22 A", "need.current_a"), ("36 V", "need.stop_voltage_v"),
    ]  # fmt: skip
    # Without knowing what it is about, each is still the only one that says so.
    assert keys(text) == keys(text, "joints.limit_a")


def test_what_only_looks_like_it_is_left_alone() -> None:
    assert keys("A strip of 0.22 × 36 mm, 122 A and 22 Ah, 22 A5, 22.5 A") == []
    assert keys("nothing here") == []


def test_two_that_say_the_same_are_told_apart_by_what_it_is_about() -> None:
    twin = typed("need.rated_voltage_v", "Rated", 36.0, "V")
    both = {**FIGURES, twin.key: twin}
    assert mentioned("Stops at 36 V.", both, ()) == ()
    (found,) = mentioned("Stops at 36 V.", both, ("need.stop_voltage_v",))
    assert found.key == "need.stop_voltage_v"


@given(
    st.floats(-1e4, 1e5, allow_nan=False), st.sampled_from(["A", "V", "K", "%", "ohm", "h", "s"])
)
def test_any_value_is_found_as_it_is_said(value: float, unit: str) -> None:
    figure = typed("need.any", "Any", value, unit)
    spelled = say(value, unit)
    text = f"It is {spelled}, not more."
    found = mentioned(text, {figure.key: figure}, ("need.any",))
    assert [text[item.start : item.end] for item in found] == [spelled]


@pytest.mark.parametrize("demo", ["barrow", "trimmer"])
def test_findings_name_no_wrong_figure(
    demo: str, request: pytest.FixtureRequest, catalogue: Catalogue
) -> None:
    project: Project = request.getfixturevalue(demo)
    seen = evaluate(project, catalogue)
    count = 0
    for finding in seen.findings:
        for text in (finding.text, finding.why, finding.do):
            for item in mentioned(text, seen.figures, (finding.figure, *finding.beside)):
                figure = seen.figures[item.key]
                assert text[item.start : item.end] in spellings(figure)
                count += 1
    assert count >= 3


def test_drops_and_times_are_known_as_people_say_them() -> None:
    def of(value: float, unit: str) -> tuple[str, ...]:
        return spellings(Figure("key", "", value, unit, "", ""))

    assert of(0.138, "V") == ("0.138 V", "138 mV")
    assert "24 ms" in of(0.0236, "s")
    assert "23.6 ms" in of(0.0236, "s")
    assert of(15.0, "K") == ("15 K",)
    assert of(3.0, "") == of(480.2, "money") == ()
    text = "Two leads melt within 24 ms and lose 138 mV"
    drop = Figure("drop", "", 0.138, "V", "", "")
    melts = Figure("melts", "", 0.0236, "s", "", "")
    found = mentioned(text, {"drop": drop, "melts": melts}, ("melts", "drop"))
    assert [item.key for item in found] == ["melts", "drop"]
