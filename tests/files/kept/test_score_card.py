"""Scores are kept and read back; what is spoiled is told and begun anew."""

from pathlib import Path

from lumvak.files.kept.score_card import MOST_SCORES, Scored, best_of, keep_score, load_card


def scored(level: int = 1, readings: int = 5, *, right: bool = True, unsafe: int = 0) -> Scored:
    return Scored(level, 1, right, right, readings, 1, unsafe, "2026-05-31")


def test_there_and_back(tmp_path: Path) -> None:
    path = tmp_path / "state" / "practise.json"
    assert load_card(path) == ((), "")
    assert keep_score(path, [scored(), scored(2)]) == ""
    assert load_card(path) == ((scored(), scored(2)), "")
    many = [scored(readings=number) for number in range(MOST_SCORES + 5)]
    keep_score(path, many)
    assert load_card(path)[0] == tuple(many[5:])


def test_what_is_spoiled_is_told(tmp_path: Path) -> None:
    path = tmp_path / "practise.json"
    for spoiled in ("{", '[{"level": 0}]', "[1]"):
        path.write_text(spoiled)
        scores, problem = load_card(path)
        assert scores == () and "begun anew" in problem
    assert "not kept" in keep_score(tmp_path / "practise.json" / "below.json", [scored()])


def test_the_best_is_right_and_safe_then_short() -> None:
    items = [scored(readings=3, right=False), scored(readings=4, unsafe=1), scored(readings=9)]
    assert best_of(items, 1) == items[2] and best_of(items, 2) is None
    assert best_of([*items, scored(readings=7)], 1) == scored(readings=7)
