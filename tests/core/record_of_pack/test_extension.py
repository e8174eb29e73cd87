"""The links of an old pack to new cells, and their room."""

import math

import numpy as np
import pytest

from lumvak.core.document.edit import with_values
from lumvak.core.document.hand import OldGroup
from lumvak.core.evaluate import evaluate
from lumvak.core.record_of_pack.extension import extension_of
from lumvak.files.catalogue_file import load_catalogue
from lumvak.files.project_file import load_project
from tests.conftest import DEMOS
from tests.found_packs import slices_a

PARTS = load_catalogue()[0]
ROLLER = load_project(DEMOS / "seed-bed-roller.lumvak.json", PARTS)


def test_the_ends_carry_all_that_the_old_groups_give() -> None:
    groups = tuple(OldGroup(ah=7.6 + 0.05 * place, mohm=19.0) for place in range(12))
    made = evaluate(with_values(ROLLER, {"hand.old.groups": groups}), PARTS)
    found = extension_of(made)
    course = made.beside.course
    assert found is not None and course is not None
    assert found.links == made.sized.choice.series + 1
    assert found.end.number == pytest.approx(float(course.one_a.max()))
    assert found.between.number == pytest.approx(float(np.abs(np.diff(course.one_a)).max()))
    assert found.between.number < found.end.number
    chosen = made.laid_out.series.chosen
    length = made.sized.choice.cell.pitch_mm + 12.0
    one = slices_a(chosen.part.material, chosen.part.thickness_mm, chosen.width_mm, 1, length, 20.0)
    assert found.strips.number == math.ceil(found.end.number / one)
    assert found.room_mm[0] == made.figures["layout.length_mm"].number


def test_without_an_old_pack_there_is_none() -> None:
    assert extension_of(evaluate(ROLLER, PARTS)) is None
