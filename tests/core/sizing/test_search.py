import numpy as np
import pytest

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.catalogue.cells import FORMS, ROUND
from lumvak.core.document.edit import ProjectError, with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.sizing.options import Options
from lumvak.core.sizing.search import Filters, wanted_forms
from lumvak.core.spelling import spoken


def options_of(project: Project, catalogue: Catalogue, filters: Filters | None = None) -> Options:
    return evaluate(project, catalogue, filters or Filters()).sized.options


def test_every_option_fits_the_window_and_meets_every_need(
    plain: Project, catalogue: Catalogue
) -> None:
    options = options_of(plain, catalogue)
    assert len(options) > 40
    for place in range(len(options)):
        assert options.series[place] * options.cell(place).voltage_full_v <= 43.0 + 1e-9
        for column in options.needs.values():
            assert column[place] <= options.parallel[place] + 1e-9
        binding = options.needs[options.binding[place]][place]
        assert binding == max(column[place] for column in options.needs.values())
    assert np.all(options.usable >= 0.75)
    nominal = [
        options.series[at] * options.cell(at).voltage_nominal_v for at in range(len(options))
    ]
    assert min(nominal) >= 0.88 * 36.0 - 1e-9


def test_a_window_may_fit_one_chemistry_and_no_count_of_another(
    trimmer: Project, catalogue: Catalogue
) -> None:
    evaluation = evaluate(trimmer, catalogue)
    families = {
        catalogue.chemistry_of(evaluation.sized.options.cell(place)).family
        for place in range(len(evaluation.sized.options))
    }
    assert "cobalt" in families and "sodium" not in families
    refused = {
        (item.chemistry, item.series): spoken(item.reason)
        for item in evaluation.sized.options.refused
    }
    assert "too high" in refused["sodium", 6]
    assert "too low" in refused["sodium", 5]
    assert "85 % is" not in refused["sodium", 5] and "88 % is the least" in refused["sodium", 5]


@pytest.mark.parametrize(
    ("ranking", "column"),
    [
        ("lightest", "mass_kg"),
        ("cheapest", "cost"),
        ("coolest", "heating_k_min"),
        ("smallest", "volume_l"),
        ("balance", "score"),
    ],
)
def test_rankings_sort_by_what_they_say(
    plain: Project, catalogue: Catalogue, ranking: str, column: str
) -> None:
    options = options_of(with_values(plain, {"pack.ranking": ranking}), catalogue)
    values = getattr(options, column)
    # One that nothing stops may lead those before which it was brought.
    assert np.all(np.diff(values[1:] if options.stopped else values) >= -1e-12)


def test_rankings_list_the_same_options(plain: Project, catalogue: Catalogue) -> None:
    def listed(ranking: str) -> set[tuple[str, float, float]]:
        options = options_of(with_values(plain, {"pack.ranking": ranking}), catalogue)
        return {
            (options.cell(place).id, options.series[place], options.parallel[place])
            for place in range(len(options))
        }

    assert listed("lightest") == listed("balance")


def test_filters_narrow(plain: Project, catalogue: Catalogue) -> None:
    by_family = options_of(plain, catalogue, Filters(chemistry="phosphate"))
    assert {by_family.cell(place).chemistry for place in range(len(by_family))} == {"lfp"}
    exact = options_of(plain, catalogue, Filters(cell="ostrel-21-40p", series=10, parallel=9))
    assert [
        (exact.cell(place).id, exact.series[place], exact.parallel[place])
        for place in range(len(exact))
    ] == [("ostrel-21-40p", 10.0, 9.0)]


def test_a_forced_parallel_count_that_is_too_small_says_which_need_fails(
    plain: Project, catalogue: Catalogue
) -> None:
    options = options_of(plain, catalogue, Filters(cell="ostrel-21-40p", series=10, parallel=2))
    assert len(options) == 0
    (refused,) = [item for item in options.refused if item.cell == "ostrel-21-40p"]
    assert "temperature asks for" in spoken(refused.reason)
    assert "2 are given" in spoken(refused.reason)


@pytest.mark.parametrize(("series", "word"), [(12, "too high"), (5, "too low")])
def test_a_forced_series_count_outside_the_window_is_refused(
    plain: Project, catalogue: Catalogue, series: int, word: str
) -> None:
    options = options_of(plain, catalogue, Filters(chemistry="nmc-rich", series=series))
    assert len(options) == 0
    told = [(item.series, word in spoken(item.reason)) for item in options.refused if item.series]
    assert told == [(series, True)]


def test_cells_outside_their_temperature_are_refused(plain: Project, catalogue: Catalogue) -> None:
    cold = options_of(
        with_values(plain, {"need.ambient_c": -25.0, "need.stop_voltage_v": 27.0}), catalogue
    )
    usable = {cold.cell(place).id for place in range(len(cold))}
    assert usable
    assert all(catalogue.cells[cell].discharge_min_c <= -25.0 for cell in usable)
    assert any("under \u221220 °C" in spoken(item.reason) for item in cold.refused)


def test_a_need_that_nothing_meets_leaves_reasons_and_a_pack_to_look_at(
    plain: Project, catalogue: Catalogue
) -> None:
    hopeless = with_values(plain, {"need.max_voltage_v": 36.5, "need.stop_voltage_v": 35.9})
    evaluation = evaluate(hopeless, catalogue)
    assert len(evaluation.sized.options) == 0
    assert evaluation.sized.options.refused
    assert all(item.reason for item in evaluation.sized.options.refused)
    assert "nothing-serves" in {item.code for item in evaluation.findings}
    assert evaluation.sized.choice.series >= 1
    assert evaluation.sized.choice.parallel >= 1


def test_search_is_repeatable(plain: Project, catalogue: Catalogue) -> None:
    one, other = options_of(plain, catalogue), options_of(plain, catalogue)
    assert np.array_equal(one.score, other.score)
    assert [one.cell(place).id for place in range(len(one))] == [
        other.cell(place).id for place in range(len(other))
    ]


@pytest.mark.parametrize("kind", ["vehicle", "tool", "supply", "portable"])
def test_forms_are_those_of_the_kind_unless_said(
    catalogue: Catalogue, barrow: Project, kind: str
) -> None:
    open_ = {
        "need.kind": kind,
        "pack.cell": None,
        "pack.series": None,
        "pack.parallel": None,
        "need.load_basis": "current",
        "need.endurance_basis": "runtime",
        "arrangement.room.kind": "none",
    }
    project = with_values(barrow, open_)
    evaluation = evaluate(project, catalogue)
    wanted = wanted_forms(project.pack, project.need.kind)
    assert wanted == (ROUND if kind in ("vehicle", "tool") else FORMS)
    found = {
        evaluation.sized.options.cell(place).format
        for place in range(len(evaluation.sized.options))
    }
    assert found <= set(wanted)
    own = evaluate(with_values(project, {"pack.forms": ("pouch",)}), catalogue)
    assert {own.sized.options.cell(place).format for place in range(len(own.sized.options))} <= {
        "pouch"
    }
    left_out = [
        item for item in own.sized.options.refused if "wanted are pouch" in spoken(item.reason)
    ]
    assert {item.cell for item in left_out} == {
        cell.id for cell in catalogue.cells.values() if cell.format != "pouch"
    }
    # The cell in hand is never hidden, though its form is not wanted.
    named = with_values(project, {"pack.forms": ("pouch",), "pack.cell": "ostrel-21-48"})
    assert evaluate(named, catalogue).sized.choice.cell.id == "ostrel-21-48"
    with pytest.raises(ProjectError, match="each form once"):
        with_values(project, {"pack.forms": ("pouch", "pouch")})
