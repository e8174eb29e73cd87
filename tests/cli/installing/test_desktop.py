"""At home on a desktop, and gone again."""

import shutil
import subprocess
import xml.etree.ElementTree as ET
from pathlib import Path

import pytest

from lumvak.cli.installing.desktop import ICON_SIZES, contents, program
from lumvak.cli.main import main


def test_what_is_installed_is_removed_and_nothing_else(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path))
    other = tmp_path / "applications" / "other.desktop"
    other.parent.mkdir()
    other.write_text("[Desktop Entry]\n", "utf-8")
    assert main(["--install-desktop"]) == 0
    written = capsys.readouterr().out.split()
    assert len(written) == len(list(contents())) and all(Path(it).is_file() for it in written)
    assert main(["--install-desktop"]) == 0
    entry = (tmp_path / "applications" / "lumvak.desktop").read_text("utf-8")
    assert f"Exec={program()} %f" in entry and "MimeType=application/x-lumvak-project;" in entry
    capsys.readouterr()
    assert main(["--remove-desktop"]) == 0
    assert capsys.readouterr().out.split() == written
    assert not any(Path(it).exists() for it in written) and other.exists()


def test_a_project_file_has_a_type_of_its_own(tmp_path: Path) -> None:
    held = dict(contents())
    ET.fromstring(held["mime/packages/lumvak.xml"])
    for size in ICON_SIZES:
        png = held[f"icons/hicolor/{size}x{size}/apps/lumvak.png"]
        assert int.from_bytes(png[16:20], "big") == int.from_bytes(png[20:24], "big") == size
    if shutil.which("update-mime-database") is None:
        pytest.skip("no MIME database here")
    place = tmp_path / "mime" / "packages" / "lumvak.xml"
    place.parent.mkdir(parents=True)
    place.write_bytes(held["mime/packages/lumvak.xml"])
    subprocess.run(["update-mime-database", str(tmp_path / "mime")], check=True)
    globs = (tmp_path / "mime" / "globs2").read_text("utf-8")
    assert "80:application/x-lumvak-project:*.lumvak.json" in globs


@pytest.mark.skipif(shutil.which("appstreamcli") is None, reason="no validator here")
def test_its_description_is_valid(tmp_path: Path) -> None:
    path = tmp_path / "org.lumvak.Lumvak.metainfo.xml"
    path.write_bytes(dict(contents())[f"metainfo/{path.name}"])
    subprocess.run(["appstreamcli", "validate", "--no-net", str(path)], check=True)
