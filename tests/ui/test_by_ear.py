"""What a screen reader is told, asked over the accessibility bus under Xvfb."""

import json
import os
import subprocess
import sys
from pathlib import Path

import pytest

from lumvak.ui.stages.order import STAGES
from tests.conftest import BARROW

ROOT = Path(__file__).parents[2]
INPUTS = {"text", "button menu", "combo box", "check box", "radio button", "push button", "table",
          "tree", "graphic", "label", "list"}  # fmt: skip


@pytest.fixture
def told(tmp_path: Path) -> dict[str, list[dict[str, str]]]:
    """What everything that takes the focus is told as, view by view."""
    homes = dict.fromkeys(
        ("XDG_CONFIG_HOME", "XDG_STATE_HOME", "XDG_DATA_HOME", "XDG_RUNTIME_DIR", "HOME"),
        str(tmp_path),
    )
    file = tmp_path / "barrow.lumvak.json"
    file.write_text(BARROW.read_text("utf-8"), "utf-8")
    ran = subprocess.run(
        [
            "dbus-run-session",
            "--",
            "xvfb-run",
            "-a",
            "-s",
            "-screen 0 1280x800x24",
            sys.executable,
            "-m",
            "tests.by_ear",
            str(file),
        ],
        cwd=ROOT,
        capture_output=True,
        text=True,
        check=False,
        timeout=120,
        env={**os.environ, **homes, "PYTHONPATH": f"{ROOT / 'src'}:{ROOT}"},
    )
    assert ran.returncode == 0, ran.stderr[-2000:]
    # The bus has words of its own to say.
    lines = [json.loads(line) for line in ran.stdout.splitlines() if line.startswith("{")]
    return {line["view"]: line["told"] for line in lines}


def test_whatever_takes_the_focus_is_told_and_what_is_new_is_announced(
    told: dict[str, list[dict[str, str]]],
) -> None:
    wanted = {f"{stage.key}/{view}" for stage in STAGES for view, _ in stage.views or (("", ""),)}
    assert set(told) == wanted | {"heard"}
    assert sum(len(items) for items in told.values()) > 400
    for view in wanted:
        items = told[view]
        assert not [item for item in items if not item["name"].strip()], view
        assert {item["role"] for item in items} <= INPUTS, view
        # Of each row of choices the one in force is at hand, and says that it is.
        chosen = [item for item in items if item["role"] == "radio button"]
        assert chosen
        assert all(item["state"] == "checked" for item in chosen), view
    on_table = {item["name"]: item["role"] for item in told["joints/table"]}
    assert on_table["View of the joints: assembled pack"] == "radio button"
    assert on_table["Joints: nickel 0.1 × 5 mm, one layer, stop"] == "radio button"
    assert on_table["Side A, facing you"] == "graphic"
    findings = [name for name in on_table if name.startswith("stop: Series connections carry")]
    # A number that tells how it came about is a button, and so is a finding.
    assert [on_table[name] for name in findings] == ["push button"]
    busiest = [name for name in on_table if name.startswith("busiest cell ")]
    assert [on_table[name] for name in busiest] == ["push button"]
    # What is wrong with a field, and what is new.
    field = next(item for item in told["need/"] if item["name"] == "Rated voltage")
    assert "“a lot” is not a voltage" in field["description"]
    heard = [item["name"] for item in told["heard"]]
    assert any("new: stop: Ember 40, the main fuse" in name for name in heard)
    assert "warn: This was refused." in heard
    assert any(name.startswith("Cells and count: ") and name.endswith("stop") for name in heard)
