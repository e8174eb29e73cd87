"""The pack that is proven is the one that was designed."""

import pytest

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.proved import bench_pack_of
from lumvak.core.proving.bench_pack import PARTS


def test_it_has_the_figures_of_the_design(barrow: Project, catalogue: Catalogue) -> None:
    evaluation = evaluate(barrow, catalogue)
    pack, figures = bench_pack_of(evaluation), evaluation.figures
    assert (pack.series, pack.parallel) == (14, 7)
    cell = evaluation.sized.choice.cell
    assert pack.group_ah == pytest.approx(7 * cell.capacity_typical_ah)
    assert pack.joint_ohm.sum() == pytest.approx(figures["network.joint_ohm"].number)
    bms = pack.parts_ohm[PARTS.index("bms")]
    assert bms == pytest.approx(figures["power.board_ohm"].number)
    assert pack.load_a == figures["pack.current_a"].number if "pack.current_a" in figures else True
    assert pack.full_v == figures["pack.voltage_full_v"].number


def test_without_parts_they_have_no_resistance(barrow: Project, catalogue: Catalogue) -> None:
    bare = with_values(barrow, {"power.fuse": "none", "power.connector": "none"})
    pack = bench_pack_of(evaluate(bare, catalogue))
    assert pack.parts_ohm[PARTS.index("fuse")] == pack.parts_ohm[PARTS.index("connector")] == 0.0
    assert pack.parts_ohm[PARTS.index("leads")] > 0.0
