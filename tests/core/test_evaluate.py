import re
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lumvak.core.catalogue.catalogue import Catalogue, UnknownPart
from lumvak.core.document.edit import ProjectError, with_values
from lumvak.core.document.project import Project
from lumvak.core.document.run import RunSettings
from lumvak.core.evaluate import evaluate
from lumvak.core.evaluation import Evaluation
from lumvak.core.figures.figure import Figure, as_json, walk
from lumvak.core.rating.chain import weakest
from lumvak.core.run.tolerance import tolerance, tolerance_figures
from lumvak.core.sizing.counts import NEEDS
from lumvak.core.spelling import spoken
from tests.core.test_steps import differences
from tests.length import so_many

METHODS = (Path(__file__).parents[2] / "docs" / "methods.md").read_text("utf-8")
SECTIONS = set(re.findall(r"^## (\d+) ", METHODS, re.MULTILINE))
SOURCES = set(re.findall(r"^\[(\d+)\] ", METHODS, re.MULTILINE))


def depth(figure: Figure, path: tuple[str, ...] = ()) -> int:
    assert figure.key not in path, f"{figure.key} explains itself by itself"
    return 1 + max((depth(part, (*path, figure.key)) for part in figure.inputs), default=0)


KINDS: dict[str, dict[str, object]] = {
    "plain": {},
    "limited vehicle": {
        "need.controller_limit_a": 40.0, "need.motor_kv": 10.0, "need.wheel_mm": 500.0,
        "need.consumption_wh_per_km": 15.0,
    },
    "tool": {
        "need.kind": "tool", "need.old_charger_stop_v": 43.0, "need.stall_current_a": 90.0,
        "need.load_basis": "duty", "need.peak_given": "estimated", "need.peak_current_a": 60.0,
    },
    "lead supply": {
        "need.kind": "supply", "need.lead_charger": True, "need.load_basis": "power",
        "need.endurance_basis": "capacity", "need.replaced_voltage_v": 36.0,
        "need.replaced_capacity_ah": 20.0, "need.replaced_mass_kg": 12.0,
    },
    "portable": {
        "need.kind": "portable", "need.load_basis": "rails",
        "need.endurance_basis": "appliances", "run.start_charge": 0.9,
    },
}  # fmt: skip


@pytest.mark.parametrize("kind", KINDS)
def test_every_figure_explains_itself(kind: str, catalogue: Catalogue) -> None:
    evaluation = evaluate(with_values(Project(), KINDS[kind]), catalogue)
    sure = tolerance(
        evaluation.sized.sized_pack,
        evaluation.run.pack,
        evaluation.run.run.hours,
        RunSettings(draws=200),
    )
    drawn = tolerance_figures(
        sure, evaluation.figures["run.time_h"], evaluation.sized.demand, evaluation.project.run
    )
    figures = {**evaluation.figures, **{figure.key: figure for figure in walk(drawn)}}
    assert len(figures) > 90
    for item in evaluation.findings:
        assert not item.figure or item.figure in figures, item.code
    for key, figure in figures.items():
        assert figure.key == key
        assert figure.label, key
        assert figure.rule, key
        assert figure.source, key
        if figure.origin == "computed":
            assert figure.inputs, f"{key} is computed from nothing"
        for section in re.findall(r"methods (\d+)", spoken(figure.source)):
            assert section in SECTIONS, f"{key}: no section {section} in docs/methods.md"
        for number in re.findall(r"\[(\d+)\]", spoken(figure.source)):
            assert number in SOURCES, f"{key}: no source [{number}] in docs/methods.md"
        assert depth(figure) < 24


@pytest.mark.parametrize("kind", KINDS)
def test_one_key_is_one_figure(kind: str, catalogue: Catalogue) -> None:
    evaluation = evaluate(with_values(Project(), KINDS[kind]), catalogue)
    values: dict[str, object] = {}
    stack = list(evaluation.figures.values())
    while stack:
        figure = stack.pop()
        assert values.setdefault(figure.key, figure.value) == figure.value, figure.key
        stack.extend(part for part in figure.inputs)


def test_assumptions_reach_every_result_made_from_them(evaluation: Evaluation) -> None:
    assert evaluation.figures["path.resistance_ohm"].assumed
    assert evaluation.figures["board.resistance_ohm"].origin == "assumed"
    assert evaluation.figures["pack.usable_fraction"].assumed
    assert evaluation.figures["pack.runtime_h"].assumed
    assert not evaluation.figures["pack.mass_kg"].assumed


def test_figures_as_json_name_their_inputs(evaluation: Evaluation) -> None:
    document = as_json(evaluation.figures["pack.energy_wh"])
    assert document["inputs"] == ["pack.voltage_nominal_v", "pack.capacity_ah"]
    assert document["unit"] == "Wh"
    assert {figure.key for figure in walk([evaluation.figures["pack.energy_wh"]])} <= set(
        evaluation.figures
    )


def test_totals_of_the_pack_agree_with_each_other(evaluation: Evaluation) -> None:
    def value(key: str) -> float:
        return evaluation.figures[key].number

    cell = evaluation.sized.choice.cell
    assert value("pack.cell_count") == 14 * 7
    assert value("pack.voltage_full_v") == pytest.approx(14 * cell.voltage_full_v)
    assert value("pack.energy_wh") == pytest.approx(
        14 * cell.voltage_nominal_v * 7 * cell.capacity_typical_ah
    )
    assert value("pack.mass_kg") == pytest.approx(98 * cell.mass_g / 1000)
    assert value("pack.current_per_cell_a") == pytest.approx(22 / 7)
    assert value("charge.voltage_v") == pytest.approx(58.8)
    assert value("charge.current_a") == pytest.approx(4.0)


def test_search_and_figures_agree_on_the_option_in_hand(evaluation: Evaluation) -> None:
    options, place = evaluation.sized.options, evaluation.sized.choice.index
    assert place is not None
    pairs = {
        "pack.usable_fraction": options.usable,
        "pack.runtime_h": options.runtime_h,
        "pack.capacity_ah": options.capacity_ah,
        "pack.energy_wh": options.energy_wh,
        "pack.mass_kg": options.mass_kg,
        "pack.cost": options.cost,
        "pack.headroom": options.headroom,
        "pack.heating_k_min": options.heating_k_min,
        "demand.end_current_a": options.current_a,
    }
    for key, column in pairs.items():
        assert evaluation.figures[key].number == pytest.approx(float(column[place]), rel=1e-9), key
    for name in NEEDS:
        assert evaluation.figures[f"needs.{name}"].value == pytest.approx(
            float(options.needs[name][place])
        )
    assert evaluation.sized.pack.binding == options.binding[place]


def test_the_demo_barrow_is_limited_by_its_series_joint(evaluation: Evaluation) -> None:
    assert evaluation.path.weakest is not None
    assert evaluation.path.weakest.key == "series-joints"
    assert evaluation.path.weakest.bursts
    assert evaluation.path.weakest.headroom < 0
    (finding,) = [item for item in evaluation.findings if item.code == "series-joint-limit"]
    assert finding.severity == "stop"
    assert finding.figure in evaluation.figures


def test_taking_the_recommended_joint_cures_it(barrow: Project, catalogue: Catalogue) -> None:
    cured = evaluate(with_values(barrow, {"joints.series.part": None}), catalogue)
    assert not any(link.bursts for link in cured.path.links)
    assert "series-joint-limit" not in {item.code for item in cured.findings}


def test_the_chain_runs_from_the_cells_to_the_connector(evaluation: Evaluation) -> None:
    assert [link.key for link in evaluation.path.links] == [
        "cells",
        "group-joints",
        "series-joints",
        "take-offs",
        "fuse",
        "leads",
        "board",
        "connector",
    ]
    assert evaluation.path.weakest is weakest(evaluation.path.links)
    assert evaluation.path.weakest is not None
    assert evaluation.path.weakest.continuous_a == min(
        link.continuous_a for link in evaluation.path.links
    )
    for link in evaluation.path.links:
        assert link.limit.key in evaluation.figures
        assert link.limit.number == pytest.approx(link.continuous_a)
        assert link.demand_a == 22.0
    assert weakest(()) is None


def test_evaluation_is_pure(barrow: Project, catalogue: Catalogue) -> None:
    one, other = evaluate(barrow, catalogue), evaluate(barrow, catalogue)
    assert one.figures == other.figures
    assert one.findings == other.findings
    assert not list(differences(one.path.links, other.path.links, "links"))


def test_a_picked_pack_that_does_not_serve_is_still_worked_out(
    barrow: Project, catalogue: Catalogue
) -> None:
    evaluation = evaluate(with_values(barrow, {"pack.series": 17, "pack.parallel": 2}), catalogue)
    assert evaluation.sized.choice.index is None
    assert (evaluation.sized.choice.series, evaluation.sized.choice.parallel) == (17, 2)
    codes = {item.code: item for item in evaluation.findings}
    assert "over-voltage" in codes
    assert "at most 14 in series" in spoken(codes["over-voltage"].do)
    assert "need-capacity" in codes
    assert "over-60-v" in codes


def test_an_unknown_part_is_named(barrow: Project, catalogue: Catalogue) -> None:
    with pytest.raises(UnknownPart, match="no-such-cell"):
        evaluate(with_values(barrow, {"pack.cell": "no-such-cell"}), catalogue)


def test_a_power_load_is_judged_at_its_end_current(barrow: Project, catalogue: Catalogue) -> None:
    power = with_values(
        barrow, {"need.load_basis": "power", "need.power_w": 900.0, "need.efficiency": 0.9}
    )
    evaluation = evaluate(power, catalogue)
    at_nominal = 1000.0 / evaluation.sized.pack.nominal.number
    assert evaluation.sized.pack.current.number > at_nominal
    assert all(
        link.demand_a == evaluation.sized.pack.current.number for link in evaluation.path.links
    )
    assert "power-load" in {item.code for item in evaluation.findings}


def test_picking_the_parts_of_the_path_replaces_the_allowances(
    barrow: Project, catalogue: Catalogue
) -> None:
    picked = {
        "protection.board": "wicket-14-45",
        "power.fuse": "flint-40",
        "power.connector": "clasp-45",
        "power.switch": "stile-63",
    }
    evaluation = evaluate(with_values(barrow, picked), catalogue)
    board = catalogue.boards["wicket-14-45"]
    assert evaluation.figures["board.resistance_ohm"].number == board.resistance_ohm
    assert evaluation.figures["board.resistance_ohm"].origin == "sheet"
    joint = evaluation.figures["path.joint_ohm"]
    assert joint.number == pytest.approx(evaluation.laid_out.series.chosen.ohm)
    total = evaluation.figures["path.resistance_ohm"].number
    leads = evaluation.figures["path.leads_ohm"].number
    assert evaluation.figures["leads.resistance_ohm"].number <= leads
    parts = (
        catalogue.fuses["flint-40"].resistance_mohm
        + catalogue.connectors["clasp-45"].mated_mohm
        + catalogue.switches["stile-63"].resistance_mohm
    ) * 1e-3
    assert evaluation.figures["path.parts_ohm"].number == pytest.approx(parts)
    assert not evaluation.figures["path.parts_ohm"].assumed
    assert total == pytest.approx(leads + board.resistance_ohm + parts + 13 * joint.number)


@given(
    kind=st.sampled_from(["vehicle", "tool", "supply"]),
    rated=st.floats(1.0, 400.0),
    basis=st.sampled_from(["current", "power"]),
    size=st.floats(0.01, 3000.0),
    peak=st.one_of(st.none(), st.floats(1.0, 4.0)),
    span=st.sampled_from(["runtime", "capacity", "energy", "distance", "open"]),
    ambient=st.floats(-40.0, 70.0),
    series=st.one_of(st.none(), st.integers(1, 60)),
    parallel=st.one_of(st.none(), st.integers(1, 30)),
    cell=st.sampled_from([None, "ostrel-21-48", "fennimor-b-50", "tallin-p-105"]),
)
@settings(max_examples=so_many(15, 60))
def test_no_need_breaks_the_evaluation(
    catalogue: Catalogue,
    kind: str,
    rated: float,
    basis: str,
    size: float,
    peak: float | None,
    span: str,
    ambient: float,
    series: int | None,
    parallel: int | None,
    cell: str | None,
) -> None:
    try:
        project = with_values(
            Project(),
            {
                "need.kind": kind,
                "need.rated_voltage_v": rated,
                "need.load_basis": basis,
                "need.current_a": size,
                "need.power_w": size,
                "need.peak_current_a": None if peak is None else peak * size,
                "need.endurance_basis": span,
                "need.ambient_c": ambient,
                "pack.series": series,
                "pack.parallel": parallel,
                "pack.cell": cell,
            },
        )
    except ProjectError:
        return
    evaluation = evaluate(project, catalogue)
    assert evaluation.path.links
    assert evaluation.sized.choice.parallel >= 1
    for place in range(len(evaluation.sized.options)):
        for name in NEEDS:
            assert (
                evaluation.sized.options.needs[name][place]
                <= evaluation.sized.options.parallel[place] + 1e-6
            )
