"""Names of terminals and pieces, and whether a pack hangs together."""

import numpy as np
from msgspec.structs import replace

from lumvak.core.evaluation import Evaluation
from lumvak.core.joints.pieces import terminal_name, terminal_number
from lumvak.core.spelling import spoken


def test_every_terminal_is_found_by_its_name(evaluation: Evaluation) -> None:
    layout = evaluation.laid_out.joined_pack.layout
    names = [terminal_name(layout, place) for place in range(2 * len(layout))]
    assert len(set(names)) == len(names)
    assert [terminal_number(layout, name) for name in names] == list(range(len(names)))
    for stray in ("g0c1p", "g99c1p", "g1c99n", "g1c1x", "", "1"):
        assert terminal_number(layout, stray) is None


def test_a_piece_without_its_strips_leaves_the_pack_in_parts(evaluation: Evaluation) -> None:
    pieces = evaluation.laid_out.joined_pack.pieces
    assert pieces.whole and len(pieces) == len(pieces.a)
    first = pieces.level == 1
    fields = ("a", "b", "kind", "face", "length_mm", "strips", "layers", "meshed")
    left = replace(pieces, **{name: getattr(pieces, name)[~first] for name in fields})
    assert not left.whole


def test_a_piece_is_named_by_its_ends_and_lies_between_them(evaluation: Evaluation) -> None:
    pieces = evaluation.laid_out.joined_pack.pieces
    layout = pieces.layout
    for piece in range(0, len(pieces), 17):
        one = terminal_name(layout, int(pieces.a[piece]))
        assert one[:-1] in spoken(pieces.name(piece))
        ends = layout.terminal_mm[[pieces.a[piece], pieces.b[piece]], :2]
        assert np.allclose(pieces.middle_mm(piece), ends.mean(axis=0))
