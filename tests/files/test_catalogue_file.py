import json
from importlib import resources
from pathlib import Path
from typing import Any

import pytest

from lumvak.core.catalogue.catalogue import PART_KINDS, Catalogue
from lumvak.core.checked import written
from lumvak.files.catalogue_file import (
    built_in_parts,
    load_catalogue,
    own_parts_folder,
    read_parts,
)
from lumvak.files.problem import FileProblem


def parts_text(catalogue: Catalogue, **changes: Any) -> str:
    cell = json.loads(written(catalogue.cells["ostrel-21-48"]))
    cell.update({"id": "own-cell", "name": "My own cell", **changes})
    return json.dumps({"format": "lumvak-parts", "version": 1, "cells": [cell]})


def test_the_built_in_parts_hold_to_all_that_own_ones_must() -> None:
    folder = resources.files("lumvak") / "data" / "parts"
    names = [f"{kind}.json" for kind in PART_KINDS]
    read_again = tuple(read_parts((folder / name).read_text("utf-8"), name) for name in names)
    assert read_again == built_in_parts()
    Catalogue(read_again)


def test_own_parts_come_from_the_data_folder(catalogue: Catalogue, own_home: Path) -> None:
    folder = own_parts_folder()
    assert str(folder).startswith(str(own_home))
    folder.mkdir(parents=True)
    (folder / "mine.json").write_text(parts_text(catalogue), "utf-8")
    loaded, problems = load_catalogue()
    assert loaded.cells["own-cell"].name == "My own cell"
    assert not loaded.cells["own-cell"].name.startswith("Ostrel")
    assert problems == ()


def test_a_bad_own_file_is_left_out_and_said(catalogue: Catalogue, tmp_path: Path) -> None:
    (tmp_path / "a-bad.json").write_text("{", "utf-8")
    (tmp_path / "b-strange.json").write_text(parts_text(catalogue, chemistry="x-ray"), "utf-8")
    (tmp_path / "c-good.json").write_text(parts_text(catalogue), "utf-8")
    loaded, problems = load_catalogue(own=tmp_path)
    assert "own-cell" in loaded.cells
    assert len(problems) == 2
    assert "a-bad.json" in problems[0]
    assert "x-ray" in problems[1]


def test_a_named_file_must_be_good(catalogue: Catalogue, tmp_path: Path) -> None:
    path = tmp_path / "extra.json"
    path.write_text(parts_text(catalogue, mass_g=-3.0), "utf-8")
    with pytest.raises(FileProblem) as caught:
        load_catalogue([path], own=tmp_path / "none")
    for word in ("extra.json", "“own-cell”", "mass_g", "over 0"):
        assert word in str(caught.value)
    path.write_text(parts_text(catalogue), "utf-8")
    loaded, _ = load_catalogue([path], own=tmp_path / "none")
    assert "own-cell" in loaded.cells


def test_a_project_is_no_catalogue() -> None:
    with pytest.raises(FileProblem, match="not a lumvak-parts file"):
        read_parts('{"format": "lumvak-project", "version": 1}', "p.json")
    with pytest.raises(FileProblem, match="newer Lumvak"):
        read_parts('{"format": "lumvak-parts", "version": 9}', "p.json")
