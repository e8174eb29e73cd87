"""What comes from elsewhere is taken whole or refused, and whatever is taken can be worked out."""

import io
import random
import warnings
from collections.abc import Callable
from pathlib import Path

import ezdxf
import pytest

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.cells.sheet_reading import parse_curve
from lumvak.core.charging_in_hand import why_not_begun
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.units import QuantityError
from lumvak.files.catalogue_file import read_parts
from lumvak.files.duty_log import read_duty_log
from lumvak.files.outline_file import load_outline
from lumvak.files.own_parts import cells_csv, parts_text, read_cells_csv
from lumvak.files.problem import FileProblem
from lumvak.files.project_file import parse_project
from tests.conftest import BARROW
from tests.extremes import not_finite, random_charging, random_document, simulated
from tests.mutations import spoiled

LOG = "t;I\n" + "".join(f"{second};{10.0 + second % 7:.1f}\n" for second in range(60))
CURVE = "Ah,V\n" + "".join(f"{ah / 10:.2f},{4.2 - ah / 30:.3f}\n" for ah in range(40))
SVG = (
    '<svg xmlns="http://www.w3.org/2000/svg" width="200mm" height="90mm" viewBox="0 0 200 90">'
    '<path d="M0 0 L200 0 L200 90 A40 40 0 0 1 0 90 Z"/><circle cx="40" cy="40" r="9"/></svg>'
)


def dxf() -> str:
    drawing = ezdxf.new()  # type: ignore[attr-defined]
    space = drawing.modelspace()
    space.add_lwpolyline([(0, 0), (200, 0), (200, 90), (0, 90)], close=True)
    space.add_circle((40, 40), 9)
    text = io.StringIO()
    drawing.write(text)
    return text.getvalue()


def outline_of(suffix: str, folder: Path) -> Callable[[str], object]:
    def read(text: str) -> object:
        path = folder / f"outline{suffix}"
        path.write_bytes(text.encode("utf-8", "replace"))
        return load_outline(path)

    return read


def test_documents_near_every_limit_are_worked_out_and_stay_finite(
    demos: dict[str, Project], catalogue: Catalogue
) -> None:
    bases = [*demos.values(), Project()]
    for seed in range(60):
        project = random_document(seed, bases, catalogue)
        with warnings.catch_warnings():
            warnings.simplefilter("error")
            seen = evaluate(project, catalogue)
        assert not not_finite(seen), seed


def test_charges_near_every_limit_are_simulated_and_stay_finite(
    demos: dict[str, Project], catalogue: Catalogue
) -> None:
    bases, begun = [*demos.values()], 0
    for seed in range(12):
        project = random_charging(bases[seed % len(bases)], seed)
        with warnings.catch_warnings():
            warnings.simplefilter("error")
            seen = evaluate(project, catalogue)
            assert simulated(seen) == [], seed
        begun += not why_not_begun(seen)
    assert begun > 3


@pytest.mark.parametrize("kind", ["project", "parts", "cells", "log", "curve", ".svg", ".dxf"])
def test_a_reader_answers_spoiled_input_with_its_own_error(
    catalogue: Catalogue, tmp_path: Path, kind: str
) -> None:
    text, read = READERS[kind](catalogue, tmp_path)
    refused = 0
    for seed in range(120 if kind != ".dxf" else 25):
        try:
            read(spoiled(text, random.Random(seed)))
        except (FileProblem, QuantityError) as problem:
            refused += 1
            assert 0 < len(str(problem)) < 900
    assert refused > 10


def _parts(catalogue: Catalogue) -> str:
    from lumvak.core.catalogue.catalogue import PartsFile

    return parts_text(PartsFile(title="", cells=catalogue.cell_list[:4]))


READERS: dict[str, Callable[[Catalogue, Path], tuple[str, Callable[[str], object]]]] = {
    "project": lambda catalogue, _: (
        BARROW.read_text("utf-8"), lambda text: parse_project(text, "file", catalogue)
    ),
    "parts": lambda catalogue, _: (_parts(catalogue), lambda text: read_parts(text, "file")),
    "cells": lambda catalogue, _: (
        cells_csv(catalogue.cell_list[:6]), lambda text: read_cells_csv(text, "file")
    ),
    "log": lambda _, __: (LOG, lambda text: read_duty_log(text, "file", "A")),
    "curve": lambda _, __: (CURVE, lambda text: parse_curve(text, 4.8)),
    ".svg": lambda _, folder: (SVG, outline_of(".svg", folder)),
    ".dxf": lambda _, folder: (dxf(), outline_of(".dxf", folder)),
}  # fmt: skip
