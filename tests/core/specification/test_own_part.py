"""A part found in a shop becomes one of one's own, and takes its place."""

import pytest
from msgspec.structs import replace

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.document.shopping import GivenFigure, PartFound, PartKey
from lumvak.core.evaluate import evaluate
from lumvak.core.record import Unfit
from lumvak.core.specification.own_part import can_be_own, own_part

GIVEN: dict[PartKey, dict[str, float]] = {
    "bms": {"series": 14.0, "continuous_a": 35.0, "peak_a": 90.0},
    "fuse": {"rating_a": 32.0, "voltage_dc_v": 80.0, "breaking_a": 3000.0},
    "charge-fuse": {"rating_a": 6.3},
    "connector": {"continuous_a": 40.0},
    "switch": {"continuous_a": 40.0, "breaking_a": 30.0},
    "leads": {"area_mm2": 6.0},
    "charge-leads": {"area_mm2": 1.5},
    "charger": {"volts": 58.8, "amps": 3.0},
    "series": {"thickness_mm": 0.1, "width_mm": 8.0},
    "group": {"thickness_mm": 0.15, "width_mm": 7.0},
    "cell": {"capacity_min_ah": 4.7, "continuous_a": 13.0, "resistance_dc_ohm": 0.02},
}


def found(part: PartKey) -> PartFound:
    figures = tuple(GivenFigure(name=name, value=value) for name, value in GIVEN[part].items())
    return PartFound(part=part, name="From the market", figures=figures)


@pytest.mark.parametrize("part", GIVEN)
def test_it_takes_its_place_with_what_was_given(
    part: PartKey, barrow: Project, catalogue: Catalogue
) -> None:
    evaluation = evaluate(barrow, catalogue)
    own = own_part(found(part), evaluation)
    parts = catalogue
    if own.part is not None:
        for name, value in GIVEN[part].items():
            if name != "peak_a":
                assert getattr(own.part, name) == value
        kept = (*getattr(catalogue.all_parts, own.kind), own.part)
        parts = Catalogue([replace(catalogue.all_parts, **{own.kind: kept})])
    after = evaluate(with_values(barrow, own.changes), parts)
    if own.part is not None and part != "cell":
        board = after.power.made
        places = (
            after.power.fuse,
            after.power.charge_fuse,
            after.power.connector,
            after.power.switch,
        )
        ids = [place.part.id for place in places if place.part is not None]
        joints = [after.laid_out.series.chosen.part.id, after.laid_out.group.chosen.part.id]
        assert own.part.id in [*ids, *joints, "" if board is None else board.id]
    if part == "cell":
        assert after.sized.choice.cell.name == "From the market"
        assert "mass_g" in after.sized.choice.cell.guessed
    if part == "charger":
        assert after.charging.charger.volts == 58.8


def test_what_its_sheet_leaves_out_is_marked_as_assumed(
    barrow: Project, catalogue: Catalogue
) -> None:
    own = own_part(found("bms"), evaluate(barrow, catalogue))
    assert {"resistance_ohm", "charge_a"} <= set(own.part.guessed)
    assert not {"series", "continuous_a", "stages"} & set(own.part.guessed)
    parts = Catalogue([replace(catalogue.all_parts, boards=(own.part,))])
    after = evaluate(with_values(barrow, {**own.changes, "power.switch": "none"}), parts)
    assert after.figures["power.board_ohm"].origin == "assumed"
    assert after.figures["board.continuous_a"].origin == "sheet"


def test_only_a_field_of_a_part_can_be_guessed(barrow: Project, catalogue: Catalogue) -> None:
    own = own_part(found("fuse"), evaluate(barrow, catalogue))
    with pytest.raises(Unfit, match="no field of it"):
        replace(own.part, guessed=("colour",)).check()


def test_what_has_no_place_of_its_own_is_not_kept() -> None:
    assert not can_be_own("sensor") and can_be_own("bms")
