"""``lumvak charge``: what it prints, in words and as JSON."""

import io
import json
from pathlib import Path

import pytest

from lumvak.cli.main import main
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.files.project_file import project_text
from tests.conftest import BARROW, TRIMMER


@pytest.fixture
def even(even_barrow: Project, tmp_path: Path) -> str:
    """The file of a barrow whose groups are alike."""
    path = tmp_path / "even.lumvak.json"
    path.write_text(project_text(even_barrow), "utf-8")
    return str(path)


def answer(capsys: pytest.CaptureFixture[str], file: str, *arguments: str) -> dict[str, object]:
    status = main(["charge", file, *arguments, "--json"])
    found = json.loads(capsys.readouterr().out)
    assert isinstance(found, dict)
    # One that must not be connected has a status of its own.
    assert status == int(found["verdict"]["stop"])
    return found


def test_the_json_has_what_is_promised(capsys: pytest.CaptureFixture[str], even: str) -> None:
    found = answer(capsys, even, "--charger", "58.8V:4A", "--from", "20%")
    charger = found["charger"]
    assert isinstance(charger, dict)
    assert charger["volts"] == pytest.approx(58.8)
    assert charger["set_by"] in ("cells", "BMS", "leads", "fuse", "socket", "connector")
    assert charger["end_current_a"] < charger["amps"]
    verdict = found["verdict"]
    assert isinstance(verdict, dict)
    assert verdict["kind"] == "right"
    assert verdict["stops_at_percent"] == pytest.approx(100.0, abs=0.5)
    assert found["ended_by"] == "charger"
    # 80 % of 33.6 Ah at 4 A, and the taper.
    assert 6.7 < float(str(found["hours"])) < 7.5
    phases = found["phases"]
    assert isinstance(phases, list)
    assert [part["name"] for part in phases] == ["bulk", "taper"]


@pytest.mark.parametrize(
    ("charger", "kind", "ended"),
    [
        ("54V:4A", "short", "charger"),
        ("59.3V:4A", "leans", "charger"),
        ("84V:4A:cccv", "wrong", "board"),
        ("50V:3A:nickel", "leans", "board"),
        ("58.8V:4A:supply", "right", "nobody"),
        ("58.8V:4A:lead:equalise=no", "right", "charger"),
        ("58.8V:4A:lead", "wrong", "board"),
        ("58.8V:4A:cccv:open=66V", "wrong", "board"),
    ],
)
def test_kinds_are_told_apart(
    capsys: pytest.CaptureFixture[str], even: str, charger: str, kind: str, ended: str
) -> None:
    found = answer(capsys, even, "--charger", charger)
    assert (found["verdict"]["kind"], found["ended_by"]) == (kind, ended)  # type: ignore[index]


@pytest.mark.parametrize(
    ("arguments", "says"),
    [
        (("--charger", "58.8V"), "has no amps"),
        (("--charger", "58.8V:3A:gold"), "is no kind"),
        (("--charger", "x:3A"), "is not a voltage"),
        (("--charger", "58.8V:0A"), "accepted: 0.001 A or more"),
        (("--charger", "40V:3A"), "gives nothing"),
        (("--from", "120%"), "0 % to 99 %"),
        (("--from", "full"), "is not a share"),
    ],
)
def test_what_cannot_be_is_named(
    capsys: pytest.CaptureFixture[str], arguments: tuple[str, ...], says: str
) -> None:
    assert main(["charge", str(BARROW), *arguments]) == 2
    assert says in capsys.readouterr().err


def test_words_for_a_terminal(capsys: pytest.CaptureFixture[str], even: str) -> None:
    assert main(["charge", even, "--charger", "58.8V:4A"]) == 0
    text = capsys.readouterr().out
    assert "Charge with 58.8 V" in text
    assert "ended by the charger" in text
    assert main(["charge", str(TRIMMER)]) == 1


def test_a_batch_answers_line_by_line(
    capsys: pytest.CaptureFixture[str], monkeypatch: pytest.MonkeyPatch, even: str
) -> None:
    lines = (
        '{"charger": "58.8V:4A"}',
        '{"charger": "59.3V:4A", "from": "50%"}',
        "nonsense",
        json.dumps({"file": str(TRIMMER), "charger": "21V:1.5A"}),
    )
    monkeypatch.setattr("sys.stdin", io.StringIO("\n".join(lines) + "\n\n"))
    assert main(["charge", even, "--batch"]) == 2
    found = [json.loads(line) for line in capsys.readouterr().out.splitlines()]
    kinds = [item["verdict"]["kind"] if "verdict" in item else "error" for item in found]
    assert kinds == ["right", "leans", "error", "right"]
    assert found[1]["hours"] < found[0]["hours"]


@pytest.mark.parametrize(
    ("changes", "says"),
    [
        ({"pack.ceiling_v": 4.5}, "accepted: up to 4.2 V"),
        ({"charging.floor_v": 4.3}, "accepted: under 4.2 V"),
    ],
)
def test_a_ceiling_and_a_floor_that_cannot_be_are_named(
    capsys: pytest.CaptureFixture[str],
    even_barrow: Project,
    tmp_path: Path,
    changes: dict[str, float],
    says: str,
) -> None:
    path = tmp_path / "odd.lumvak.json"
    path.write_text(project_text(with_values(even_barrow, changes)), "utf-8")
    assert main(["charge", str(path)]) == 2
    assert says in capsys.readouterr().err
