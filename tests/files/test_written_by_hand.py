"""Project files that were written by hand."""

import json

import pytest

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.need import Need, idle_in
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.spelling import spoken
from lumvak.files.problem import FileProblem
from lumvak.files.project_file import (
    noted_in,
    parse_project,
    project_text,
)


def by_hand(need: dict[str, object], catalogue: Catalogue) -> Project:
    document = {"format": "lumvak-project", "version": 1, "need": need}
    return parse_project(json.dumps(document), "file", catalogue)


def hand_written(need: dict[str, object]) -> str:
    return json.dumps({"format": "lumvak-project", "version": 1, "need": need})


@pytest.mark.parametrize(
    ("given", "load", "endurance"),
    [
        ({"power_w": 600, "energy_wh": 700}, "power", "energy"),
        ({"duty": [{"amount": 20, "seconds": 9}], "capacity_ah": 12}, "duty", "capacity"),
        (
            {"appliances": [{"name": "lamp", "rail": "12 V", "amount": 9, "hours": 4}]},
            "rails",
            "appliances",
        ),
        ({"current_a": 8, "distance_km": 30}, "current", "distance"),
        ({}, "current", "runtime"),
        ({"power_w": 600, "current_a": 9, "load_basis": "current"}, "current", "runtime"),
    ],
)
def test_a_file_written_by_hand_is_sized_by_what_it_gives(
    catalogue: Catalogue, given: dict[str, object], load: str, endurance: str
) -> None:
    need = by_hand({"rated_voltage_v": 48, **given}, catalogue).need
    assert (need.load_basis, need.endurance_basis) == (load, endurance)


def test_two_loads_that_contradict_are_refused(catalogue: Catalogue) -> None:
    with pytest.raises(FileProblem, match="current_a and power_w are given, and not which of them"):
        by_hand({"power_w": 600, "current_a": 9}, catalogue)
    with pytest.raises(FileProblem, match="endurance_basis runtime or energy"):
        by_hand({"runtime_h": 1, "energy_wh": 500}, catalogue)


def test_what_a_file_written_by_hand_leaves_out_is_assumed_down_to_the_results(
    catalogue: Catalogue,
) -> None:
    text = hand_written({"rated_voltage_v": 48.0})
    evaluation = evaluate(parse_project(text, "x", catalogue), catalogue)
    noted = noted_in(text, evaluation)
    assert {item.key for item in noted.left_out} == {"need.current_a", "need.runtime_h"}
    assert "continuous current 15 A" in spoken(noted.words) and "run time wanted 1 h 00" in spoken(
        noted.words
    )
    assert not noted.idle
    marked = noted.marked(evaluation)
    for key in ("need.current_a", "need.runtime_h", "demand.capacity_ah", "needs.capacity"):
        assert marked.figures[key].assumed
        assert marked.figures[key].value == evaluation.figures[key].value
    assert not evaluation.figures["demand.capacity_ah"].assumed
    assert not marked.figures["need.rated_voltage_v"].assumed
    assert spoken(marked.figures["need.current_a"].rule) == "left out of the file"
    # Nothing of it is said of what the window wrote.
    whole = project_text(evaluation.project)
    assert spoken(noted_in(whole, evaluation).words) == ""
    assert noted_in(whole, evaluation).marked(evaluation).figures == evaluation.figures


@pytest.mark.parametrize(
    ("need", "idle"),
    [
        (
            {"load_basis": "current", "power_w": 600.0, "efficiency": 0.9},
            {"continuous power", "efficiency"},
        ),
        ({"power_w": 600.0, "energy_wh": 700.0, "efficiency": 0.9}, set()),
        ({"current_a": 9.0, "duty_unit": "W"}, {"duty in"}),
        (
            {"kind": "vehicle", "nickel_cells": 15, "gear": 5.0},
            {"nickel cells in the old pack", "motor turns per wheel turn"},
        ),
        ({"endurance_basis": "runtime", "distance_km": 30.0}, {"distance"}),
    ],
)
def test_a_field_without_an_effect_is_named(
    catalogue: Catalogue, need: dict[str, object], idle: set[str]
) -> None:
    text = hand_written({"rated_voltage_v": 36.0, **need})
    project = parse_project(text, "x", catalogue)
    evaluation = evaluate(project, catalogue)
    noted = noted_in(text, evaluation)
    told = spoken(noted.words).partition("others count: ")[2]
    assert set(filter(None, told.split(", "))) == idle
    # Without them everything comes out the same.
    fewer = {name: value for name, value in need.items() if name not in noted.idle}
    same = evaluate(
        parse_project(hand_written({"rated_voltage_v": 36.0, **fewer}), "x", catalogue), catalogue
    )
    assert same.figures["pack.parallel"].value == evaluation.figures["pack.parallel"].value
    assert {key: item.value for key, item in same.figures.items()} == {
        key: item.value for key, item in evaluation.figures.items()
    }


def test_appliances_count_where_the_run_time_is_theirs() -> None:
    """Their hours say how long, whatever the load is given as."""
    need = Need(load_basis="current", endurance_basis="appliances")
    assert idle_in(need, {"appliances", "current_a"}) == ()
    assert idle_in(need, {"appliances", "rails", "runtime_h"}) == ("rails", "runtime_h")
