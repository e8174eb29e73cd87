"""A piece by its figures, worked out from its own section."""

import pytest

from lumvak.core.evaluation import Evaluation, figures_of_piece


def test_a_piece_is_ohm_and_joule(evaluation: Evaluation) -> None:
    joined_pack = evaluation.laid_out.joined_pack
    assert joined_pack.flow is not None
    for piece in range(0, len(joined_pack.pieces), 29):
        made = {item.key: item for item in figures_of_piece(evaluation, piece)}
        length, area = made["piece.length_mm"].number, made["piece.area_mm2"].number
        rho = joined_pack.sections.of_material("resistivity_ohm_m")[piece]
        strips = joined_pack.sections.strips[piece]
        ohm, amps = made["piece.resistance_ohm"].number, made["piece.current_a"].number
        assert ohm == pytest.approx(rho * length * 1e-3 / (area * 1e-6) * strips, rel=1e-6)
        assert made["piece.drop_mv"].number == pytest.approx(amps * ohm * 1e3)
        assert amps == pytest.approx(abs(float(joined_pack.flow.piece_a[piece])))
