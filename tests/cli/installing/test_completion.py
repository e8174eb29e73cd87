"""What shells complete."""

import shutil
import subprocess

import pytest

from lumvak.cli.commands import COMMANDS
from lumvak.cli.installing.completion import SHELLS, bash, zsh
from lumvak.cli.main import main


def completed(*words: str) -> list[str]:
    """What bash offers for the last of some words."""
    line = " ".join(f"'{word}'" for word in words)
    script = (
        f"{bash()}\nCOMP_WORDS=({line})\nCOMP_CWORD={len(words) - 1}\n_lumvak\n"
        'printf "%s\\n" "${COMPREPLY[@]}"'
    )
    done = subprocess.run(["bash", "-c", script], capture_output=True, text=True, check=True)
    assert not done.stderr
    return done.stdout.splitlines()


def test_bash_knows_commands_flags_and_choices() -> None:
    assert set(COMMANDS) <= set(completed("lumvak", ""))
    assert completed("lumvak", "size", "--ra") == ["--rated-voltage", "--rank"]
    assert completed("lumvak", "strip", "--metal", "p") == ["plated steel"]
    assert completed("lumvak", "completion", "f") == ["fish"]
    assert completed("lumvak", "size", "--current", "") == [""]


@pytest.mark.parametrize("shell", SHELLS)
def test_every_shell_has_every_command_and_flag(
    shell: str, capsys: pytest.CaptureFixture[str]
) -> None:
    assert main(["completion", shell]) == 0
    text = capsys.readouterr().out
    for name, item in COMMANDS.items():
        assert name in text
        spelled = [one for flag in item.flags for one in flag.names if one[0] == "-"]
        assert all(one.lstrip("-") in text for one in spelled)


@pytest.mark.skipif(shutil.which("zsh") is None, reason="no zsh here")
def test_zsh_reads_it() -> None:
    subprocess.run(["zsh", "-n"], input=zsh().encode(), check=True)


@pytest.mark.skipif(shutil.which("fish") is None, reason="no fish here")
def test_fish_reads_it() -> None:
    subprocess.run(["fish", "-n"], input=SHELLS["fish"]().encode(), check=True)
