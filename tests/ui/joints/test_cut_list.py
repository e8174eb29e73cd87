"""The cut list: pieces by size, their stock, and the pieces of a picked line."""

from lumvak.ui.session import Session
from lumvak.ui.stages.joints.making import MakingView


def test_a_picked_line_marks_its_pieces_and_a_second_pick_lets_go(making: MakingView) -> None:
    rows = making.cut_list.cuts.rows_model.rows
    assert [row.cells[5] for row in rows] == ["20", "45"]
    making.cut_list.cuts.picked.emit(1)
    assert making.side_a.drawn is not None
    assert len(making.side_a.drawn.marked) == 45
    assert making.cut_list.cuts.chosen_row() == 1
    making.cut_list.cuts.picked.emit(1)
    assert making.side_a.drawn is not None
    assert not making.side_a.drawn.marked
    assert making.cut_list.cuts.chosen_row() == -1


def test_the_sum_of_the_pieces_stands_below(making: MakingView, session: Session) -> None:
    assert making.cut_list.total.text().startswith("65 pieces, ")
    session.edit({"joints.group.layers": 2})
    rows = making.cut_list.cuts.rows_model.rows
    assert sum(int(row.cells[5]) for row in rows) > 65
    assert "layers are counted as pieces" in making.cut_list.total.text()


def test_a_piece_longer_than_its_stock_is_told(making: MakingView, session: Session) -> None:
    busbar = next(
        part.id for part in session.catalogue.conductors.values() if part.form == "busbar"
    )
    session.edit({"joints.series.part": busbar, "making.sheet_mm": 10.0})
    assert "join it over a cell, or take longer stock" in making.cut_list.total.text()
