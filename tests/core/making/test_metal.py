from lumvak.core.evaluation import Evaluation
from lumvak.core.making.metal import metals_of, shape_of


def test_every_piece_and_every_lead_is_metal_once(seen: Evaluation) -> None:
    layout = seen.table.layout
    metals = metals_of(
        seen.table.pieces, seen.clearance.ends, seen.cuts, seen.table.leads, seen.taps.terminal
    )
    flat = [cut for cut in seen.cuts if cut.outlines]
    names = [metal.name for metal in metals]
    assert len(metals) == len(flat) + len(seen.table.leads) + layout.series + 1
    assert len(set(names)) == len(names)
    assert names[-1] == f"balance lead {layout.series}" and "main lead +" in names
    for cut, metal in zip(flat, metals, strict=False):
        size = cut.size
        assert (
            abs(shape_of(cut).area - size.width_mm * size.length_mm * cut.strips)
            < 0.2 * size.width_mm
        )
        assert metal.level == cut.level
