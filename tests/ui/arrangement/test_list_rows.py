"""The lists of the arrangement say what the evaluation has."""

from lumvak.core.evaluation import Evaluation
from lumvak.ui.speech import say
from lumvak.ui.stages.arrangement.list_rows import BARRIERS, COLUMNS, TAPS
from lumvak.ui.widgets.rows import row_of


def test_a_proposal_and_a_barrier_say_what_was_worked_out(evaluation: Evaluation) -> None:
    proposal = evaluation.laid_out.joined_pack.placing.proposals[0]
    full = evaluation.sized.choice.cell.voltage_full_v
    cells = row_of(COLUMNS, (proposal, full), key=proposal.key).cells
    assert cells[5] == str(proposal.wired) and len(cells) == len(COLUMNS)
    row = row_of(BARRIERS, ("g1 g4", 80.0), key=1)
    assert row.cells[:2] == ("g1 g4", say(80.0, "V"))
    assert row.marks == {1: "amber"}
    assert all(column.tip for column in (*COLUMNS, *BARRIERS, *TAPS))
