"""What folded strips pass on the side of a pack."""

import pytest

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.making.edges import edge_findings, edge_volts
from lumvak.core.spelling import spoken

ROOM = {"kind": "box", "length_mm": 100.0, "width_mm": 76.0, "height_mm": 155.0}


def test_cans_under_a_strip_are_counted_by_their_own_potential(catalogue: Catalogue) -> None:
    values = {
        "pack.cell": "ostrel-21-48",
        "pack.series": 8,
        "pack.parallel": 3,
        "arrangement.room": ROOM,
        "joints.across": "fold",
        "joints.series.part": "nickel-0.15x8",
    }
    evaluation = evaluate(with_values(Project(), values), catalogue)
    volts = edge_volts(evaluation.laid_out.joined_pack)
    layout, pieces = evaluation.laid_out.joined_pack.layout, evaluation.laid_out.joined_pack.pieces
    assert volts
    for piece, most in volts.items():
        # By hand: the cells at the edge over or under the strip, in its row.
        x, y, _ = layout.terminal_mm[pieces.a[piece]]
        row = [
            cell
            for cell in range(len(layout))
            if abs(layout.y_mm[cell] - y) < 1.0 and abs(layout.x_mm[cell] - x) < 1.0
        ]
        cans = {int(layout.group[cell]) for cell in row}
        level = int(pieces.level[piece])
        assert most == pytest.approx(4.2 * max(abs(can - level) for can in cans))


def test_over_60_v_it_warns() -> None:
    (note,), (warn,) = edge_findings({3: 8.4}), edge_findings({1: 4.2, 2: 63.0})
    assert note.severity == "note" and "1 folded strip passes" in spoken(note.text)
    assert warn.severity == "warn" and "0.5 mm" in spoken(warn.do)
    assert not list(edge_findings({}))
