"""What ranks first against a builder's rule of thumb that knows nothing of the engine."""

import importlib.util
import statistics
import sys
from pathlib import Path
from types import ModuleType
from typing import Any

import pytest

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate, stops_of
from tests.length import so_many
from tests.needs import builders_need
from tests.pairs import asked_a_little_more

TOOLS = Path(__file__).parents[3] / "tools"


def tool(name: str) -> ModuleType:
    """A module of the tools, which are no package."""
    sys.path.insert(0, str(TOOLS))
    try:
        spec = importlib.util.spec_from_file_location(name, TOOLS / f"{name}.py")
        assert spec is not None and spec.loader is not None
        module = importlib.util.module_from_spec(spec)
        sys.modules[name] = module
        spec.loader.exec_module(module)
        return module
    finally:
        sys.path.remove(str(TOOLS))


THUMB = tool("rule_of_thumb")
SIZING = tool("sizing")
NICKEL = {"need.kind": "tool", "need.endurance_basis": "capacity"}
# What is asked, and of the first: its series count, and the cells and kilograms it has at most.
USUAL: tuple[tuple[dict[str, Any], tuple[int, ...], int, float], ...] = (
    ({"need.kind": "supply", "need.rated_voltage_v": 12.8, "need.max_voltage_v": 14.8,
      "need.stop_voltage_v": 10.8, "need.current_a": 10.0, "need.runtime_h": 2.0}, (4,), 16, 2.5),
    ({**NICKEL, "need.rated_voltage_v": 24.0, "need.nickel_cells": 20, "need.current_a": 19.6,
      "need.capacity_ah": 1.6, "need.ambient_c": -5.0}, (6, 7), 12, 0.7),
    ({**NICKEL, "need.rated_voltage_v": 18.0, "need.nickel_cells": 15, "need.current_a": 15.0,
      "need.peak_current_a": 40.0, "need.capacity_ah": 4.0}, (5,), 15, 0.7),
    ({**NICKEL, "need.rated_voltage_v": 9.6, "need.nickel_cells": 8, "need.current_a": 25.0,
      "need.capacity_ah": 3.0}, (3, 4), 12, 0.7),
    ({"need.rated_voltage_v": 36.0, "need.stop_voltage_v": 31.6, "need.current_a": 73.0,
      "need.runtime_h": 0.46}, (10,), 150, 9.5),
    ({"need.rated_voltage_v": 72.0, "need.current_a": 60.0, "need.runtime_h": 34.0 / 60.0},
     (19, 20), 270, 18.0),
    ({"need.rated_voltage_v": 52.0, "need.current_a": 20.0, "need.runtime_h": 1.0}, (14,), 90, 6.0),
    ({"need.rated_voltage_v": 60.0, "need.current_a": 20.0, "need.runtime_h": 1.0}, (16,), 99, 7.0),
)  # fmt: skip


@pytest.mark.parametrize(("asked", "series", "cells", "mass_kg"), USUAL)
def test_the_first_is_what_a_builder_takes(
    catalogue: Catalogue, asked: dict[str, Any], series: tuple[int, ...], cells: int, mass_kg: float
) -> None:
    project = with_values(Project(), asked)
    evaluation = evaluate(project, catalogue)
    assert evaluation.sized.choice.series in series
    assert evaluation.sized.choice.series * evaluation.sized.choice.parallel <= cells
    assert evaluation.figures["pack.mass_kg"].number <= mass_kg
    assert evaluation.figures["pack.usable_fraction"].number >= 0.75
    assert not stops_of(evaluation)
    packs = THUMB.thumb_packs(catalogue, project.need, SIZING.asked_of(project))
    assert (
        packs[0].mass_kg <= evaluation.figures["pack.mass_kg"].number + 1e-9
        or project.need.kind == "tool"
    )


def test_the_rule_gives_its_worked_checks(catalogue: Catalogue) -> None:
    supply, cold, drill = (with_values(Project(), USUAL[place][0]) for place in (0, 1, 2))
    packs = THUMB.thumb_packs(catalogue, supply.need, SIZING.asked_of(supply))
    usual = next(pack for pack in packs if pack.cell.id == "fennimor-32-60")
    assert (usual.series, usual.parallel) == (4, 4)
    assert usual.mass_kg == pytest.approx(2.3, abs=0.05)
    assert usual.usable == pytest.approx(0.95, abs=0.02)
    first = THUMB.thumb_packs(catalogue, cold.need, SIZING.asked_of(cold))[0]
    assert first.series == 6
    assert 0.25 <= first.mass_kg <= 0.41
    first = THUMB.thumb_packs(catalogue, drill.need, SIZING.asked_of(drill))[0]
    assert first.series == 5
    assert 0.4 <= first.mass_kg <= 0.7


def test_needs_as_builders_have_them_in_short(catalogue: Catalogue) -> None:
    """A short form of the campaign: the first is near the rule's lightest, stands and stays."""
    ratios = []
    for seed in range(1000, so_many(1010, 1030)):
        project = builders_need(seed)
        evaluation = evaluate(project, catalogue)
        packs = THUMB.thumb_packs(catalogue, project.need, SIZING.asked_of(project))
        assert len(evaluation.sized.options) or not packs
        assert not stops_of(evaluation)
        if project.need.kind == "supply":
            chemistry = evaluation.sized.choice.cell.chemistry
            packs = [pack for pack in packs if pack.cell.chemistry == chemistry]
        if packs:
            ratios.append(evaluation.figures["pack.mass_kg"].number / packs[0].mass_kg)
        had = evaluation.sized.choice.cell.id, evaluation.sized.choice.series
        changed = with_values(project, asked_a_little_more(project.need)[seed % 2])
        after = evaluate(changed, catalogue, had=had)
        if (after.sized.choice.cell.id, after.sized.choice.series) != had:
            assert after.sized.options.find(*had, None) is not None
    assert statistics.median(ratios) < 1.5
    assert sum(ratio > 2.2 for ratio in ratios) <= 3
