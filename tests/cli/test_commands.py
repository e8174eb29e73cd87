"""Commands as they are described: every one runs something, and help needs none of it."""

import importlib
import os
import subprocess
import sys
from pathlib import Path

import pytest

import lumvak
from lumvak.cli.commands import COMMANDS
from lumvak.core.document.need import Need
from lumvak.core.fields import fields_of
from lumvak.core.matching.pool import WEIGHTS
from lumvak.files.export.formats import FORMATS, PAPERS


def test_every_command_can_be_run() -> None:
    for item in COMMANDS.values():
        module, _, name = item.run.partition(":")
        assert callable(getattr(importlib.import_module(module), name))


@pytest.mark.parametrize("name", COMMANDS)
def test_help_is_said_without_loading_what_the_command_needs(name: str) -> None:
    script = (
        "import sys; from lumvak.cli.main import main\n"
        "try: main(sys.argv[1:])\nfinally: print('numpy' in sys.modules)"
    )
    done = subprocess.run(
        [sys.executable, "-c", script, name, "--help"],
        env={**os.environ, "PYTHONPATH": str(Path(lumvak.__file__).parents[1])},
        check=True,
        capture_output=True,
        text=True,
    )
    assert done.stdout.startswith(f"usage: lumvak {name}")
    assert done.stdout.endswith("False\n")


def choices(command: str, name: str) -> tuple[object, ...]:
    (found,) = (item for item in COMMANDS[command].flags if name in item.names)
    return tuple(found.settings["choices"])


def test_choices_are_those_of_what_they_choose() -> None:
    assert choices("size", "--kind") == fields_of(Need)["kind"].accepts.values
    assert choices("group", "--by") == tuple(WEIGHTS)
    assert choices("export", "--to") == FORMATS
    assert choices("export", "--paper") == PAPERS
