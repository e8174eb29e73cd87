"""A pack in hand without a page: what it hides comes with the answer, and is scored once."""

from pathlib import Path

import pytest
from pytestqt.qtbot import QtBot

from lumvak.bench.practise.trail import READ, Act
from lumvak.bench.simulated.faults import Hidden
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.files.kept.score_card import load_card
from lumvak.ui.laid_over.practising import Practising


@pytest.fixture
def practising(catalogue: Catalogue, monkeypatch: pytest.MonkeyPatch, tmp_path: Path) -> Practising:
    path = tmp_path / "practise.json"
    monkeypatch.setattr("lumvak.ui.laid_over.practising.card_path", lambda: path)
    return Practising(catalogue)


def test_what_it_hides_is_known_with_the_answer(
    practising: Practising, qtbot: QtBot, tmp_path: Path
) -> None:
    practising.do(Act("wake"))
    assert not practising.done and practising.state == ""
    practising.begin(4, 1)
    assert practising.running and practising.series == 5 and practising.hidden == ()
    for group in range(1, 6):
        practising.do(Act(READ, f"group:{group}"))
    low = min(practising.done, key=lambda it: it.value or 0.0)
    place = int(low.act.place.partition(":")[2]) - 1
    practising.give([Hidden("flat-group", place)])
    assert practising.hidden == (Hidden("flat-group", place),)
    practising.give([])
    qtbot.waitUntil(lambda: practising.told is not None, timeout=60_000)
    (scored,) = load_card(tmp_path / "practise.json")[0]
    assert scored.whole and scored.readings == 5 and scored.needless == practising.needless
    practising.work.end()


def test_the_same_pack_again_shows_the_same(practising: Practising) -> None:
    shown = []
    for _ in range(2):
        practising.begin(8, 5)
        practising.do(Act(READ, "group:1"))
        shown.append(practising.done[0].value)
    assert shown[0] == shown[1]
    practising.work.end()
