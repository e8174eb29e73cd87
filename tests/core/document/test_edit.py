import math
from collections.abc import Iterator
from typing import Any

import pytest
from msgspec.structs import asdict, replace

from lumvak.core.catalogue.boards import Board
from lumvak.core.catalogue.catalogue import Catalogue, UnknownPart
from lumvak.core.catalogue.cells import Cell, Chemistry
from lumvak.core.catalogue.conductors import Conductor
from lumvak.core.checked import NotAccepted, made
from lumvak.core.document.edit import (
    ProjectError,
    default_value,
    field_of,
    field_title,
    kind_of,
    value_at,
    with_values,
)
from lumvak.core.document.need import Need
from lumvak.core.document.project import Project
from lumvak.core.fields import fields_of, is_record
from lumvak.core.spelling import spoken
from lumvak.core.units import AREA, parse, spell


@pytest.mark.parametrize(
    ("path", "value", "words"),
    [
        ("need.rated_voltage_v", 0.0, ("Rated voltage", "over 0")),
        ("need.rated_voltage_v", -36.0, ("Rated voltage", "over 0")),
        ("need.rated_voltage_v", math.nan, ("Rated voltage", "finite")),
        ("need.rated_voltage_v", math.inf, ("Rated voltage", "finite")),
        ("need.rated_voltage_v", 5000.0, ("Rated voltage", "1000 V or less")),
        ("need.current_a", "lots", ("Continuous current", "lots")),
        ("need.current_a", True, ("Continuous current", "True")),
        ("need.efficiency", 1.2, ("Efficiency", "1 is 100 %")),
        ("need.kind", "rocket", ("Equipment", "vehicle")),
        ("need.nickel_cells", 2.5, ("Nickel cells",)),
        ("need.stop_voltage_v", 40.0, ("Low-voltage cut-off", "below 36 V")),
        ("need.max_voltage_v", 30.0, ("Maximum voltage", "36 V or more")),
        ("need.peak_current_a", 3.0, ("Peak current", "15 A or more")),
        ("pack.cell", "No Such!", ("Cell",)),
        ("name", "", ("Name",)),
    ],
)
def test_a_bad_value_is_refused_in_a_sentence(
    path: str, value: Any, words: tuple[str, ...]
) -> None:
    before = Project()
    with pytest.raises(ProjectError) as caught:
        with_values(before, {path: value})
    for word in words:
        assert word in str(caught.value)
    assert caught.value.path == path
    assert before == Project()


def test_good_values_make_a_new_project_and_leave_the_old() -> None:
    before = Project()
    after = with_values(before, {"need.current_a": 20.0, "name": "Bench"})
    assert (after.need.current_a, after.name) == (20.0, "Bench")
    assert before.need.current_a == 15.0


def test_a_peak_is_only_held_against_amps() -> None:
    power = {"need.load_basis": "power", "need.power_w": 5000.0, "need.peak_current_a": 3.0}
    assert with_values(Project(), power).need.peak_current_a == 3.0


def test_a_misspelled_path_is_a_programming_error() -> None:
    with pytest.raises(KeyError):
        with_values(Project(), {"need.curent_a": 1.0})


def test_unknown_and_missing_fields_are_said() -> None:
    with pytest.raises(NotAccepted) as caught:
        made(Need, {"speed": 5})
    assert "unknown field" in spoken(caught.value.wrongs[0].sentence)
    with pytest.raises(NotAccepted) as caught:
        made(Conductor, {"id": "x"})
    assert any(
        "missing" in spoken(sentence)
        for sentence in [item.sentence for item in caught.value.wrongs]
    )


def test_fields_have_plain_names() -> None:
    assert field_title("need.rated_voltage_v") == "Rated voltage"
    assert field_title("joints.series.layers") == "Layers"
    for group in ("need", "pack", "joints", "leads", "protection"):
        for name, info in fields_of(fields_of(Project)[group].accepts.plain).items():
            if name not in ("group", "series") or group != "joints":
                assert info.title, f"{group}.{name}"


def cell_values(catalogue: Catalogue) -> dict[str, Any]:
    return asdict(catalogue.cells["ostrel-21-48"])


@pytest.mark.parametrize(
    ("changes", "word"),
    [
        ({"voltage_nominal_v": 4.3}, "rise from empty"),
        ({"capacity_min_ah": 9.0}, "must not exceed"),
        ({"pulse_s": None}, "belong together"),
        ({"pulse_a": 1.0}, "must not be under"),
        ({"diameter_mm": None}, "width_mm and thickness_mm"),
        ({"width_mm": 10.0, "thickness_mm": 5.0}, "give diameter_mm, or"),
        ({"mass_g": -1.0}, "a number over 0"),
    ],
)
def test_cells_that_contradict_themselves_are_refused(
    catalogue: Catalogue, changes: dict[str, Any], word: str
) -> None:
    with pytest.raises(NotAccepted, match=word):
        made(Cell, {**cell_values(catalogue), **changes})


@pytest.mark.parametrize(
    "curve",
    [
        ((0.0, 3.0), (0.9, 4.0)),
        ((0.1, 3.0), (1.0, 4.0)),
        ((0.0, 3.0), (0.5, 2.9), (1.0, 4.0)),
        ((0.0, 3.0), (0.5, 3.5), (0.5, 3.6), (1.0, 4.0)),
        ((0.0, 0.0), (1.0, 4.0)),
    ],
)
def test_curves_must_rise_from_empty_to_full(curve: tuple[tuple[float, float], ...]) -> None:
    with pytest.raises(NotAccepted, match="curve"):
        made(
            Chemistry,
            {"id": "x", "name": "x", "family": "cobalt", "curve": curve, "curve_source": "x"},
        )


@pytest.mark.parametrize(
    ("changes", "word"),
    [
        ({"continuous_a": 100.0}, "must not be under"),
        ({"under_voltage_v": 4.5}, "below"),
        (
            {"stages": ({"current_a": 90.0, "delay_s": 0.1}, {"current_a": 60.0, "delay_s": 1.0})},
            "rise in current",
        ),
    ],
)
def test_boards_that_contradict_themselves_are_refused(
    catalogue: Catalogue, changes: dict[str, Any], word: str
) -> None:
    values = asdict(catalogue.boards["wicket-10-35"])
    with pytest.raises(NotAccepted, match=word):
        made(Board, {**values, **changes})


def test_own_parts_win_over_the_catalogue_and_need_a_known_chemistry(
    catalogue: Catalogue,
) -> None:
    own = replace(catalogue.cells["ostrel-21-48"], price=1.0)
    parts = replace(catalogue.all_parts, cells=(own,), chemistries=(), conductors=(), boards=())
    laid = catalogue.with_parts(parts)
    assert laid.cells["ostrel-21-48"].price == 1.0
    assert catalogue.cells["ostrel-21-48"].price == 4.9
    strange = replace(own, chemistry="unobtainium")
    with pytest.raises(UnknownPart, match="unobtainium"):
        catalogue.with_parts(replace(parts, cells=(strange,)))


def test_the_sample_catalogue_is_broad_and_plausible(catalogue: Catalogue) -> None:
    cells = catalogue.cell_list
    assert len(cells) >= 24
    assert {cell.format for cell in cells} == {
        "18650",
        "21700",
        "26650",
        "32700",
        "pouch",
        "prismatic",
    }
    families = {catalogue.chemistry_of(cell).family for cell in cells}
    assert families == {"cobalt", "phosphate", "titanate", "sodium"}
    assert {cell.origin for cell in cells} == {"new", "reclaimed"}
    assert len(catalogue.conductors) >= 16
    assert {part.material for part in catalogue.conductors.values()} >= {
        "nickel",
        "plated steel",
        "copper",
        "nickel-copper",
        "brass",
    }
    boards = catalogue.boards.values()
    assert len(boards) >= 24
    for family in ("cobalt", "phosphate"):
        for series in range(3, 25):
            offered = [
                board.continuous_a
                for board in boards
                if (board.family, board.series) == (family, series)
            ]
            assert max(offered) >= 200.0
    for volts in (32.0, 58.0, 80.0, 125.0, 250.0):
        offered = [fuse.rating_a for fuse in catalogue.fuses.values() if fuse.voltage_dc_v >= volts]
        assert min(offered) <= 4.0 and max(offered) >= 300.0
    assert max(fuse.breaking_a for fuse in catalogue.fuses.values()) >= 100e3
    assert max(part.continuous_a for part in catalogue.connectors.values()) >= 250.0
    assert {board.ports for board in boards} == {1, 2}
    assert {board.balance_a > 0 for board in boards} == {True, False}
    for count in {board.series for board in boards if board.family == "cobalt"}:
        kinds = {board.family for board in boards if board.series == count}
        assert {"cobalt", "phosphate"} <= kinds
    for part in (*cells, *catalogue.conductors.values(), *boards):
        assert part.sample
    for cell in cells:
        wh_per_kg = cell.voltage_nominal_v * cell.capacity_typical_ah / cell.mass_g * 1000
        assert 50 < wh_per_kg < 320, cell.id
        density = cell.mass_g / cell.volume_cm3
        assert 1.2 < density < 3.2, cell.id


def numbers(kind: type, way: str = "") -> Iterator[str]:
    """The paths of all numbers of a record, and of those within."""
    for name, field in fields_of(kind).items():
        if is_record(field.accepts.plain):
            yield from numbers(field.accepts.plain, f"{way}{name}.")
        elif field.accepts.plain in (int, float):
            yield way + name


def test_every_number_of_the_document_is_a_quantity_that_is_read_back() -> None:
    paths = list(numbers(Project))
    assert len(paths) > 100
    for path in paths:
        kind, value = kind_of(path), default_value(path)
        if value is not None:
            # A wire within half a per cent of a gauge is that gauge.
            near = 5e-3 if kind is AREA else 1e-6
            assert parse(spell(value, kind), kind) == pytest.approx(value, rel=near), path
    with pytest.raises(KeyError):
        field_of("joints.nothing")
    assert value_at(Project(), "pack.end_charge") == Project().pack.end_charge
