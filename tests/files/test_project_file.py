import json
import os
from pathlib import Path
from typing import Any

import pytest
from msgspec.structs import replace

from lumvak.core.catalogue.catalogue import Catalogue, Parts
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.files.catalogue_file import load_catalogue
from lumvak.files.problem import FileProblem, file_name, write_atomically
from lumvak.files.project_file import (
    load_project,
    parse_project,
    project_text,
    save_project,
    with_copies,
    with_fresh_copies,
)
from tests.conftest import BARROW


def test_a_project_survives_the_file(plain: Project, catalogue: Catalogue, tmp_path: Path) -> None:
    path = tmp_path / "new folder" / "bench.lumvak.json"
    project = with_values(plain, {"name": "Bänk", "pack.cell": "ostrel-21-40p"})
    written = save_project(project, path, catalogue)
    assert load_project(path, catalogue) == written
    assert [cell.id for cell in written.parts.cells] == ["ostrel-21-40p"]
    assert [item.id for item in written.parts.chemistries] == ["nmc-power"]


def test_a_project_opens_the_same_where_its_parts_are_unknown(
    barrow: Project, catalogue: Catalogue
) -> None:
    elsewhere = Catalogue(
        [
            replace(
                catalogue.all_parts,
                cells=tuple(cell for cell in catalogue.cell_list if cell.id != "ostrel-21-48"),
                conductors=tuple(
                    part for part in catalogue.conductors.values() if part.id != "nickel-0.1x5"
                ),
            )
        ]
    )
    here, there = evaluate(barrow, catalogue), evaluate(load_project(BARROW, elsewhere), elsewhere)
    for key in ("pack.runtime_h", "joints.series.limit_a", "pack.cost"):
        assert there.figures[key].value == here.figures[key].value


def test_only_the_parts_in_use_are_copied(barrow: Project, catalogue: Catalogue) -> None:
    other = with_copies(with_values(barrow, {"pack.cell": "tallin-26-50"}), catalogue)
    assert [cell.id for cell in other.parts.cells] == ["tallin-26-50"]


def changed(change: dict[str, Any]) -> str:
    document = json.loads(BARROW.read_text("utf-8"))
    for path, value in change.items():
        *branch, leaf = path.split(".")
        node = document
        for step in branch:
            node = node[step]
        node[leaf] = value
    return json.dumps(document, indent=2)


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("", ("line 1", "cut short")),
        (BARROW.read_text("utf-8")[:700], ("line", "cut short")),
        ('{"format": "lumvak-project",, }', ("line 1", "not valid JSON")),
        ("[]", ("not a lumvak-project file",)),
        ('{"format": "other"}', ("not a lumvak-project file",)),
        (changed({"version": 2}), ("newer Lumvak", "version 2", "untouched")),
        (changed({"version": "one"}), ("version 'one'", "accepted: 1")),
        (changed({"need.rated_voltage_v": "48"}), ("Rated voltage", "need.rated_voltage_v")),
        (changed({"need.rated_voltage_v": -1}), ("Rated voltage", "over 0")),
        (changed({"need.current_a": None}), ("Continuous current",)),
        (changed({"need.stop_voltage_v": 50.0}), ("Low-voltage cut-off", "below 48 V")),
        (changed({"need.speed": 3}), ("need.speed", "unknown field")),
        (changed({"pack.cell": "lost-cell"}), ("pack.cell", "lost-cell", "own parts")),
        (changed({"protection.board": "lost-board"}), ("board", "lost-board")),
        (changed({"need.current_a": float("nan")}), ("current_a",)),
    ],
)
def test_a_bad_file_is_refused_naming_field_or_line(
    text: str, words: tuple[str, ...], catalogue: Catalogue, tmp_path: Path
) -> None:
    path = tmp_path / "bad.lumvak.json"
    path.write_text(text, "utf-8")
    with pytest.raises(FileProblem) as caught:
        load_project(path, catalogue)
    assert "bad.lumvak.json" in str(caught.value)
    for word in words:
        assert word in str(caught.value)
    assert path.read_text("utf-8") == text


def test_other_troubles_with_files_are_said(catalogue: Catalogue, tmp_path: Path) -> None:
    with pytest.raises(FileProblem, match="cannot be read"):
        load_project(tmp_path / "nowhere.json", catalogue)
    with pytest.raises(FileProblem, match="cannot be read"):
        load_project(tmp_path, catalogue)
    (tmp_path / "latin.json").write_bytes(b"\xff\xfe\x00")
    with pytest.raises(FileProblem, match="UTF-8"):
        load_project(tmp_path / "latin.json", catalogue)
    os.mkfifo(tmp_path / "pipe.json")
    with pytest.raises(FileProblem, match="no plain file"):
        load_project(tmp_path / "pipe.json", catalogue)


def test_bombs_doubles_and_marks_in_a_file(
    barrow: Project, catalogue: Catalogue, tmp_path: Path
) -> None:
    path = tmp_path / "file.json"
    text = project_text(barrow)
    path.write_text("\ufeff" + text, "utf-8")
    assert load_project(path, catalogue) == barrow
    name = f'"name": "{barrow.name}"'
    for spoiled, says in (
        (text.replace(name, f'{name}, "name": "Other"'), "“name” stands there twice"),
        (text.replace('"version": 1', '"version": ' + "1" * 5000), "too many digits"),
        (text.replace(name, '"name": ' + "[" * 50_000 + "]" * 50_000), "nested too deeply"),
    ):
        assert spoiled != text
        path.write_text(spoiled, "utf-8")
        with pytest.raises(FileProblem, match=says) as caught:
            load_project(path, catalogue)
        assert len(str(caught.value)) < 400


@pytest.mark.parametrize(
    ("name", "file"),
    [
        ("Orchard barrow", "Orchard barrow.json"),
        ("../../etc/passwd", "etc-passwd.json"),
        ("/", "project.json"),
        ("..", "project.json"),
        ("a\x00b\nc", "a-b-c.json"),
        ("ü" * 120, "ü" * 50 + ".json"),
    ],
)
def test_a_file_name_is_one_name_in_one_folder(name: str, file: str) -> None:
    made = file_name(name, ".json")
    assert made == file
    assert Path("folder", made).parent == Path("folder")


def test_a_failed_save_leaves_the_old_file_and_no_litter(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    path = tmp_path / "kept.json"
    path.write_text("old", "utf-8")

    def full(_: int) -> None:
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(os, "fsync", full)
    with pytest.raises(FileProblem, match=r"not saved: No space left.*kept"):
        write_atomically(path, "new")
    assert path.read_text("utf-8") == "old"
    assert [item.name for item in tmp_path.iterdir()] == ["kept.json"]


def test_saving_keeps_permissions_and_follows_links(tmp_path: Path) -> None:
    path, link = tmp_path / "real.json", tmp_path / "link.json"
    path.write_text("old", "utf-8")
    path.chmod(0o640)
    link.symlink_to(path)
    write_atomically(link, "new")
    assert link.is_symlink()
    assert path.read_text("utf-8") == "new"
    assert path.stat().st_mode & 0o777 == 0o640


def test_packs_kept_beside_travel_with_the_project(
    barrow: Project, catalogue: Catalogue, tmp_path: Path
) -> None:
    kept = with_values(
        barrow, {"pack.beside": ({"cell": "tallin-p-105", "series": 14, "parallel": 3},)}
    )
    path = tmp_path / "kept.lumvak.json"
    save_project(kept, path, catalogue)
    stored = json.loads(path.read_text("utf-8"))
    assert [cell["id"] for cell in stored["parts"]["cells"]] == ["ostrel-21-48", "tallin-p-105"]
    assert {item["id"] for item in stored["parts"]["chemistries"]} >= {"nmc-rich", "nmc"}
    # On a machine that has neither cell it opens all the same.
    bare = Catalogue([replace(catalogue.all_parts, cells=())])
    assert load_project(path, bare).pack.beside == kept.pack.beside
    stored["pack"]["beside"][0]["cell"] = "nobody"
    path.write_text(json.dumps(stored), "utf-8")
    with pytest.raises(FileProblem, match="no cell “nobody”"):
        load_project(path, bare)


def test_fresh_copies_follow_the_builders_own_cells(barrow: Project, catalogue: Catalogue) -> None:
    full = with_copies(barrow, catalogue)
    (cell,) = full.parts.cells
    curve = replace(catalogue.chemistries["nmc"], id="own-x")
    heavier = replace(cell, mass_g=80.0, chemistry="own-x")
    own = Parts(cells=(heavier,), chemistries=(curve,))
    fresh = with_fresh_copies(full, own)
    assert fresh.parts.cells == (heavier,)
    assert fresh.parts.chemistries == (curve,)
    assert fresh.parts.conductors == full.parts.conductors
    # What the builder does not own is left as it is.
    assert with_fresh_copies(full, Parts()) is full


def test_parts_of_the_power_path_travel_with_the_project(
    barrow: Project, catalogue: Catalogue, tmp_path: Path
) -> None:
    named = {
        "power.fuse": "flint-40",
        "power.charge_fuse": "flint-6.3",
        "power.connector": "clasp-60-s",
        "power.switch": "stile-32",
        "power.surge": "moor-0.08",
        "power.precharge": "stair-22",
        "leads.wire": "withy-10",
        "charge_leads.wire": "bracken-1.5",
    }
    path = tmp_path / "named.lumvak.json"
    save_project(with_values(barrow, named), path, catalogue)
    # Elsewhere none of these is in the catalogue.
    bare = Catalogue(
        [
            Parts(
                chemistries=tuple(catalogue.chemistries.values()),
                cells=catalogue.cell_list,
                conductors=tuple(catalogue.conductors.values()),
                boards=tuple(catalogue.boards.values()),
            )
        ]
    )
    again = load_project(path, bare)
    assert {fuse.id for fuse in again.parts.fuses} == {"flint-40", "flint-6.3"}
    evaluation = evaluate(again, bare)
    assert evaluation.power.connector.part is not None
    assert evaluation.power.connector.part.name == "Clasp 60 S"
    assert evaluation.sized.wire.name == "Withy AWG 10"
    # A part of the wrong kind is none.
    text = path.read_text("utf-8").replace('"surge": "moor-0.08"', '"surge": "stair-22"')
    path.write_text(text, "utf-8")
    with pytest.raises(FileProblem, match="no surge thermistor “stair-22”"):
        load_project(path, catalogue)


@pytest.mark.parametrize(
    ("change", "word"),
    [
        (
            {
                "band": [
                    {"ratio": 2.0, "least_s": 1.0, "most_s": 2.0},
                    {"ratio": 1.5, "least_s": 0.5, "most_s": 1.0},
                ]
            },
            "points that rise",
        ),
        (
            {
                "band": [
                    {"ratio": 2.0, "least_s": 1.0, "most_s": 0.5},
                    {"ratio": 3.0, "least_s": 0.5, "most_s": 0.4},
                ]
            },
            "before the 1 s",
        ),
        ({"rating_a": 0.0}, "a number over 0"),
    ],
)
def test_a_bad_fuse_of_ones_own_is_named_and_left_out(
    change: dict[str, object], word: str, tmp_path: Path
) -> None:
    fuse = {
        "id": "mine-10",
        "name": "Mine 10",
        "form": "blade",
        "rating_a": 10.0,
        "voltage_dc_v": 32.0,
        "breaking_a": 1000.0,
        "resistance_mohm": 6.0,
        "price": 1.0,
    }
    file = {"format": "lumvak-parts", "version": 1, "fuses": [{**fuse, **change}]}
    (tmp_path / "mine.json").write_text(json.dumps(file), "utf-8")
    found, problems = load_catalogue(own=tmp_path)
    assert "mine-10" not in found.fuses
    assert len(problems) == 1
    assert word in problems[0]
    assert "mine-10" in problems[0]


def test_a_file_that_may_not_be_written_is_not(tmp_path: Path) -> None:
    path = tmp_path / "kept.json"
    path.write_text("old", "utf-8")
    path.chmod(0o444)
    with pytest.raises(FileProblem, match="may not be written"):
        write_atomically(path, "new")
    assert path.read_text("utf-8") == "old"
    assert list(tmp_path.iterdir()) == [path]


@pytest.mark.parametrize(("old", "new"), [("short", "a longer text"), ("a longer text", "short")])
def test_other_names_and_the_mode_of_a_file_survive_a_save(
    tmp_path: Path, old: str, new: str
) -> None:
    path, other = tmp_path / "one.json", tmp_path / "two.json"
    path.write_text(old, "utf-8")
    path.chmod(0o640)
    other.hardlink_to(path)
    write_atomically(path, new)
    assert other.read_text("utf-8") == new
    assert path.samefile(other)
    assert path.stat().st_mode & 0o777 == 0o640
    assert sorted(tmp_path.iterdir()) == [path, other]


def test_a_full_disk_leaves_a_file_of_two_names_as_it_was(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    path, other = tmp_path / "one.json", tmp_path / "two.json"
    path.write_text("old", "utf-8")
    other.hardlink_to(path)

    def full(*_: int) -> None:
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(os, "posix_fallocate", full)
    with pytest.raises(FileProblem, match="No space left"):
        write_atomically(path, "a longer text")
    assert other.read_text("utf-8") == "old"
    assert sorted(tmp_path.iterdir()) == [path, other]


def test_what_is_no_text_is_not_written(tmp_path: Path) -> None:
    with pytest.raises(FileProblem, match="holds no characters"):
        write_atomically(tmp_path / "odd.json", "\udc80")
    assert list(tmp_path.iterdir()) == []


@pytest.mark.parametrize(
    "inside",
    [
        '"name": "' + "x" * 10**6 + '"',
        '"need": {"current_a": ' + "1" * 4200 + "}",
        '"' + "k" * 10**6 + '": 1',
        '"need": {"kind": "' + "x" * 10**6 + '"}',
        '"pack": {"cell": "' + "x" * 10**6 + '"}',
        '"need": {"current_a": 1e-320}',
    ],
)
def test_a_refusal_quotes_little(catalogue: Catalogue, inside: str) -> None:
    text = '{"format": "lumvak-project", "version": 1, ' + inside + "}"
    with pytest.raises(FileProblem) as caught:
        parse_project(text, "file.json", catalogue)
    assert len(str(caught.value)) < 300
