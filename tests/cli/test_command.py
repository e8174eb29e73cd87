"""What a command is made of: its flags, which of them go together, and negative values."""

import pytest

from lumvak.cli.command import Command, flag, tied


def test_of_flags_of_which_one_counts_one_is_taken(capsys: pytest.CaptureFixture[str]) -> None:
    made = Command("try", "A try.", (flag("--a", one_of="way!"), flag("--b", one_of="way!")), "x:y")
    assert made.parser().parse_args(["--a", "1"]).a == "1"
    for words, says in ((["--a", "1", "--b", "2"], "not allowed with"), ([], "is required")):
        with pytest.raises(SystemExit) as ended:
            made.parser().parse_args(words)
        assert ended.value.code == 2
        assert says in capsys.readouterr().err


def test_a_negative_value_goes_with_its_flag() -> None:
    assert tied(["--ambient", "-5C:30C", "--json", "file", "-1"]) == [
        "--ambient=-5C:30C",
        "--json",
        "file",
        "-1",
    ]
