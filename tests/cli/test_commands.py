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


@pytest.mark.parametrize("name", COMMANDS)
def test_every_flag_says_what_it_is_how_it_may_look_and_what_it_is_else(name: str) -> None:
    item = COMMANDS[name]
    assert len(item.examples) >= 3 and len(set(item.examples)) == len(item.examples)
    assert all(example.split()[0] == name for example in item.examples)
    text = " ".join(item.parser().format_help().split())
    for one in item.flags:
        assert one.says, one.name
        if one.takes_value and one.names[0].startswith("-"):
            assert one.example, f"{name} {one.name} has no example"
            assert one.example in text
        kind = getattr(one.settings.get("type"), "kind", None)
        if kind is not None and kind.unit:
            assert kind.unit in one.help, f"{name} {one.name}: in which unit?"
        default = one.settings.get("default")
        if default not in (None, "", [], False):
            assert str(default) in one.help, f"{name} {one.name}: what is it else?"


def choices(command: str, name: str) -> tuple[object, ...]:
    (found,) = (item for item in COMMANDS[command].flags if name in item.names)
    return tuple(found.settings["choices"])


def test_choices_are_those_of_what_they_choose() -> None:
    assert choices("size", "--kind") == fields_of(Need)["kind"].accepts.values
    assert choices("group", "--by") == tuple(WEIGHTS)
    assert choices("export", "--to") == FORMATS
    assert choices("export", "--paper") == PAPERS
