"""Manual pages: all commands, all flags, and what roff makes of them."""

import re
import shutil
import subprocess

import pytest

from lumvak.cli.commands import COMMANDS
from lumvak.cli.installing.manual import page, pages
from lumvak.cli.main import main


def test_every_flag_and_example_is_on_its_page() -> None:
    for name, item in COMMANDS.items():
        text = page(item).replace("\\-", "-").replace("\\e", "\\").replace("\\&", "")
        assert all(one in text for flag in item.flags for one in flag.names if one[0] == "-"), name
        assert all(f"lumvak {example}" in text for example in item.examples)
        assert "%%" not in text
    assert set(pages()) == {"lumvak.1", *(f"lumvak-{name}.1" for name in COMMANDS)}


@pytest.mark.skipif(shutil.which("groff") is None, reason="no groff here")
def test_roff_finds_nothing_wrong() -> None:
    for text in pages().values():
        done = subprocess.run(
            ["groff", "-man", "-Kutf8", "-Tutf8", "-ww", "-P-c"],
            input=text.encode(),
            capture_output=True,
            check=True,
        )
        assert not [line for line in done.stderr.splitlines() if b"adjust" not in line], text[:60]
        plain = re.sub(r"\x1b\[\d*m|.\x08", "", done.stdout.decode())
        assert "EXIT STATUS" in plain


def test_a_page_is_printed_and_written(
    tmp_path: object, capsys: pytest.CaptureFixture[str]
) -> None:
    assert main(["man", "size"]) == 0
    assert capsys.readouterr().out.startswith('.TH "LUMVAK-SIZE" 1')
    assert main(["man", "-o", str(tmp_path)]) == 0
    assert capsys.readouterr().out.count(".1\n") == len(COMMANDS) + 1
    with pytest.raises(SystemExit):
        main(["man", "sise"])
    assert "did you mean size" in capsys.readouterr().err
