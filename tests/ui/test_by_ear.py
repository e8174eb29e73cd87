"""What a screen reader is told, asked over the accessibility bus under Xvfb."""

import json
import os
import subprocess
import sys
from collections import Counter
from pathlib import Path

import pytest

from lumvak.ui.stages.order import STAGES
from tests.conftest import BARROW

ROOT = Path(__file__).parents[2]
INPUTS = {
    "text",
    "button menu",
    "combo box",
    "check box",
    "push button",
    "table",
    "tree",
    "filler",
    "list",
}


@pytest.fixture
def told(tmp_path: Path) -> dict[str, list[dict[str, str]]]:
    """Role and name of everything that takes the focus, view by view."""
    homes = dict.fromkeys(
        ("XDG_CONFIG_HOME", "XDG_STATE_HOME", "XDG_DATA_HOME", "XDG_RUNTIME_DIR", "HOME"),
        str(tmp_path),
    )
    file = tmp_path / "barrow.lumvak.json"
    file.write_text(BARROW.read_text("utf-8"), "utf-8")
    ran = subprocess.run(
        ["dbus-run-session", "--", "xvfb-run", "-a", "-s", "-screen 0 1280x800x24",
         sys.executable, "-m", "tests.by_ear", str(file)],
        cwd=ROOT, capture_output=True, text=True, check=False, timeout=120,
        env={**os.environ, **homes, "PYTHONPATH": f"{ROOT / 'src'}:{ROOT}"},
    )  # fmt: skip
    assert ran.returncode == 0, ran.stderr[-2000:]
    # The bus has words of its own to say.
    lines = [json.loads(line) for line in ran.stdout.splitlines() if line.startswith("{")]
    return {line["view"]: line["told"] for line in lines}


def test_whatever_takes_the_focus_has_a_name_and_a_role(
    told: dict[str, list[dict[str, str]]],
) -> None:
    wanted = {f"{stage.key}/{view}" for stage in STAGES
              for view, _ in stage.views or (("", ""),)}  # fmt: skip
    assert set(told) == wanted
    assert sum(len(items) for items in told.values()) > 400
    for view, items in told.items():
        assert not [item for item in items if not item["name"].strip()], view
        assert {item["role"] for item in items} <= INPUTS, view
    names = [item["name"] for item in told["joints/table"]]
    assert "View of the joints: on the table" in names
    assert any(name.startswith("Build line: Joints, ") for name in names)
    assert any(name.startswith("To notice: stop: ") for name in names)
    numbers = [item["role"] for item in told["joints/table"] if item["name"].startswith("busiest")]
    # A number that tells how it came about is a button.
    assert numbers == ["push button"]
    roles = Counter(item["role"] for items in told.values() for item in items)
    assert roles["filler"] < 0.4 * sum(roles.values())
