"""``lumvak join`` as somebody runs it who scripts."""

import json
from pathlib import Path

import pytest

from lumvak.cli.main import main
from tests.conftest import BARROW

A, B = "14S:9Ah:0.09ohm", "14S:20Ah:60mohm"


def joined(capsys: pytest.CaptureFixture[str], *words: str) -> dict[str, object]:
    main(["join", *words, "--json"])
    return json.loads(capsys.readouterr().out)  # type: ignore[no-any-return]


def test_two_packs_as_numbers(capsys: pytest.CaptureFixture[str]) -> None:
    found = joined(capsys, A, B, "--current", "20A", "--apart", "2V")
    assert found["join_peak_a"] == pytest.approx(2.0 / 0.15, rel=1e-3)
    assert found["join_safe"] is False and found["safe_apart_v"] == pytest.approx(4.5 * 0.15)
    shares = found["shares"]
    assert isinstance(shares, list) and shares[0]["a1"] + shares[0]["a2"] == pytest.approx(20.0)
    alone = found["hours_alone"]
    assert isinstance(alone, list) and isinstance(found["hours"], float)
    assert max(alone) < found["hours"] < 29.0 / 20.0
    assert str(found["ends_by"]).endswith("cut-off")


def test_a_project_and_numbers_and_a_text_to_read(capsys: pytest.CaptureFixture[str]) -> None:
    code = main(["join", str(BARROW), "14S:20Ah:60mohm@50%", "--load", "900W"])
    out = capsys.readouterr().out
    assert code == 1 and "not as they stand" in out and "does not hold" in out
    assert "May be joined within" in out and "Together" in out


def test_fields_are_set_of_the_pack_that_is_named(capsys: pytest.CaptureFixture[str]) -> None:
    usual = joined(capsys, str(BARROW), str(BARROW), "--load", "300W")
    more = joined(capsys, str(BARROW), str(BARROW), "--load", "300W", "--set", "pack.parallel=9")
    other = joined(capsys, str(BARROW), str(BARROW), "--load", "300W", "--set", "b:pack.parallel=9")
    alone, larger, second = (it["hours_alone"] for it in (usual, more, other))
    assert isinstance(alone, list) and isinstance(larger, list) and isinstance(second, list)
    assert larger[0] > alone[0] and larger[1] == pytest.approx(alone[1])
    assert second == pytest.approx(larger[::-1])
    assert main(["join", A, B, "--current", "5A", "--set", "pack.parallel=9"]) == 2
    assert "A is no project, it has no fields" in capsys.readouterr().err
    assert main(["join", A, B, "--current", "5A", "--set", "C:pack.parallel=9"]) == 2
    assert "there are 2 packs, A and B" in capsys.readouterr().err


def test_what_must_not_be_says_why(capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["join", A, "13S:9Ah:0.09ohm:lfp", "--current", "5A"]) == 1
    out = capsys.readouterr().out
    assert "13: one would charge" in out and "different chemistry" in out


@pytest.mark.parametrize(
    ("words", "told"),
    [
        (("14S:9Ah", B, "--current", "5A"), "accepted"),
        ((A + "@120%", B, "--current", "5A"), "@0% to @100%"),
        ((A + "@full", B, "--current", "5A"), "@80%"),
        ((A + ":unobtainium", B, "--current", "5A"), "nmc"),
        (("0S:9Ah:0.1ohm", B, "--current", "5A"), "accepted"),
    ],
)
def test_what_is_no_pack_is_told_in_one_line(
    capsys: pytest.CaptureFixture[str], words: tuple[str, ...], told: str
) -> None:
    assert main(["join", *words]) == 2
    err = capsys.readouterr().err
    assert told in err and err.count("\n") == 1


def test_a_load_is_wanted_once(capsys: pytest.CaptureFixture[str]) -> None:
    for words in ((), ("--current", "5A", "--load", "90W")):
        with pytest.raises(SystemExit):
            main(["join", A, B, *words])
        assert "--current or --load" in capsys.readouterr().err


def test_a_line_a_case(capsys: pytest.CaptureFixture[str], monkeypatch: pytest.MonkeyPatch) -> None:
    lines = [
        {"a": A, "b": B, "current_a": 20},
        {"a": A, "b": B},
        {"a": A, "b": "13S:20Ah:60mohm", "load_w": 100},
    ]
    monkeypatch.setattr(
        "lumvak.cli.batch.lines_in", lambda: iter([json.dumps(line) for line in lines])
    )
    assert main(["join", "--batch"]) == 2
    first, second, third = map(json.loads, capsys.readouterr().out.splitlines())
    assert first["may"] and "current_a or load_w" in second["error"] and not third["may"]


def test_a_project_that_is_not_there(capsys: pytest.CaptureFixture[str], tmp_path: Path) -> None:
    assert main(["join", str(tmp_path / "gone.lumvak.json"), B, "--current", "5A"]) == 2
    assert "cannot be read" in capsys.readouterr().err
