"""The pack of a project as it stands beside another."""

import pytest

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.put_beside import side_of
from lumvak.core.spelling import spoken


def test_a_project_gives_its_resistance_and_what_its_parts_carry(
    barrow: Project, catalogue: Catalogue
) -> None:
    worked_out = evaluate(barrow, catalogue)
    side = side_of(worked_out, 0.8)
    pack = worked_out.run.pack
    cells = pack.behaviour.steady_ohm * side.series / worked_out.sized.choice.parallel
    assert side.ohm == pytest.approx(pack.path_ohm + cells)
    assert side.fast_ohm < side.ohm and side.at == 0.8
    by_hand = {spoken(it.name): it.continuous_a for it in worked_out.path.links}
    for limit in side.limits:
        assert limit.gives_a == pytest.approx(by_hand[spoken(limit.what)])
    # A BMS takes no more than it charges with.
    board = worked_out.power.board
    assert board is not None
    takes = {spoken(it.what): it.takes_a for it in side.limits}
    assert takes["BMS"] == board.charge_a
