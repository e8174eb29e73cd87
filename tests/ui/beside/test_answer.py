"""The second pack in one line."""

from lumvak.ui.session import Session
from lumvak.ui.stages.beside.answer import beside_answer


def test_it_says_what_stands_beside(session: Session) -> None:
    assert beside_answer(session.evaluation) == "no second pack"
    session.edit({"beside.capacity_ah": 9.0})
    assert beside_answer(session.evaluation) == "9 Ah beside it"
    session.edit({"beside.capacity_ah": None, "beside.file": "packs/small.lumvak.json"})
    assert beside_answer(session.evaluation) == "small"
