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
from lumvak.core.document.edit import ProjectError, with_values
from lumvak.core.document.hand import HandCell
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.units import QuantityError
from lumvak.files.catalogue_file import read_parts
from lumvak.files.logs.charge_log import read_charge_log
from lumvak.files.logs.duty_log import read_duty_log
from lumvak.files.logs.tester_log import read_tester_log
from lumvak.files.logs.volts_log import read_volts
from lumvak.files.outline_file import load_outline
from lumvak.files.own_parts import cells_csv, parts_text, read_cells_csv
from lumvak.files.problem import FileProblem
from lumvak.files.project_file import parse_project, project_text
from lumvak.files.readings_file import read_readings
from tests.by_schema import mutated, whole
from tests.conftest import BARROW
from tests.extremes import not_finite, random_charging, random_document, simulated
from tests.length import so_many
from tests.mutations import spoiled

LOG = "t;I\n" + "".join(f"{second};{10.0 + second % 7:.1f}\n" for second in range(60))
READINGS = "number;volts;capacity (mAh);resistance (mohm);remark;photo\n" + "".join(
    f"{cell};3.{600 + cell};{4700 + cell};{20 + cell / 10:.1f};dent;a/{cell}.jpg\n"
    for cell in range(1, 40)
)
TESTER = "time s,voltage,current\n" + "".join(
    f"{10 * at},{4.1 - at / 100:.3f},{2.0 if at > 3 else 0.0}\n" for at in range(60)
)
CHARGE = (
    "time;volts;amps;temp;"
    + ";".join(f"g{group}" for group in range(1, 15))
    + "\n"
    + "".join(
        f"0:{at:02d}:00;{50 + at / 10:.1f};3.0;21;" + ";".join(["3.61"] * 14) + "\n"
        for at in range(50)
    )
)
VOLTS = (
    "when;"
    + ";".join(f"group {group}" for group in range(1, 15))
    + "\n"
    + "".join(
        f"2026-05-{day:02d};" + ";".join(f"3.{700 + day}" for _ in range(14)) + "\n"
        for day in range(1, 29)
    )
)
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
    for seed in range(so_many(20, 60)):
        project = random_document(seed, bases, catalogue)
        with warnings.catch_warnings():
            warnings.simplefilter("error")
            evaluation = evaluate(project, catalogue)
        assert not not_finite(evaluation), seed


def test_charges_near_every_limit_are_simulated_and_stay_finite(
    demos: dict[str, Project], catalogue: Catalogue
) -> None:
    bases, begun = [*demos.values()], 0
    for seed in range(so_many(4, 12)):
        project = random_charging(bases[seed % len(bases)], seed)
        with warnings.catch_warnings():
            warnings.simplefilter("error")
            evaluation = evaluate(project, catalogue)
            assert simulated(evaluation) == [], seed
        begun += not why_not_begun(evaluation)
    assert begun > 0


def test_every_section_mutated_by_schema_is_refused_or_worked_out(
    demos: dict[str, Project], catalogue: Catalogue
) -> None:
    filled = [whole(base, catalogue, place) for place, base in enumerate([*demos.values()][:3], 1)]
    # Lists are filled: what the schema takes together with the rest is in them.
    charging, taps = filled[0]["charging"], filled[0]["balance_leads"]
    assert charging["log"]["rows"] and charging["groups"] and taps["totals"] and taps["ways"]
    taken = 0
    for seed in range(so_many(30, 80)):
        try:
            project = parse_project(mutated(filled[seed % 3], seed), "file", catalogue)
        except FileProblem as problem:
            assert 0 < len(str(problem)) < 900
            continue
        taken += 1
        assert not not_finite(evaluate(project, catalogue)), seed
        assert parse_project(project_text(project), "file", catalogue) == project
    assert taken > so_many(3, 8)


def test_a_current_of_a_board_is_over_nothing(barrow: Project) -> None:
    setting = {"key": "over-current-1", "value": -59.0}
    with pytest.raises(ProjectError, match="over 0, for only temperatures go lower"):
        with_values(barrow, {"protection.settings": (setting,)})
    cold = {"key": "charge-cold", "value": -5.0, "release": -2.0}
    assert with_values(barrow, {"protection.settings": (cold,)}).protection.settings


@pytest.mark.parametrize(
    "kind",
    [
        "project",
        "parts",
        "cells",
        "log",
        "curve",
        "readings",
        "tester",
        "charge",
        "volts",
        ".svg",
        ".dxf",
    ],
)
def test_a_reader_answers_spoiled_input_with_its_own_error(
    catalogue: Catalogue, tmp_path: Path, kind: str
) -> None:
    text, read = READERS[kind](catalogue, tmp_path)
    refused = 0
    for seed in range(so_many(40, 120) if kind != ".dxf" else so_many(10, 25)):
        try:
            read(spoiled(text, random.Random(seed)))
        except (FileProblem, QuantityError) as problem:
            refused += 1
            assert 0 < len(str(problem)) < 900
    assert refused > so_many(4, 10)


def readings_of(text: str) -> object:
    """Cells of a table, as the project keeps them."""
    return [HandCell(**cell) for cell in read_readings(text, "file").cells]


@pytest.mark.parametrize(
    ("read", "text", "says"),
    [
        (readings_of, "number;volts\n1e999;3.6\n", "no number of a cell; accepted: 1 to 999999"),
        (readings_of, "number;volts;remark\n1;3.6;" + "x" * 140_000, "a cell of more than 131072"),
        (
            lambda text: read_tester_log(text, "file"),
            f"time,volts,amps\n{'9' * 400}:00:00,4,1\n1,4,1\n",
            "is no time; write a number",
        ),
        (
            lambda text: read_charge_log(text, "file", 3),
            "time,volts\n" + "x" * 140_000,
            "line 2: a cell",
        ),
        (
            lambda text: read_duty_log(text, "file", "A"),
            "1;2\n2;" + "x" * 140_000,
            "line 2: a cell",
        ),
        (
            lambda text: read_tester_log(text, "file"),
            "time,volts,amps\n1,2,3\n" + "x" * 140_000,
            "line 3: a cell",
        ),
        (lambda text: parse_curve(text, 4.8), "1" * 400 + " 3.6", "no cell gives as much"),
    ],
)
def test_what_once_raised_is_refused_in_words(
    read: Callable[[str], object], text: str, says: str
) -> None:
    with pytest.raises((FileProblem, QuantityError), match=says) as told:
        read(text)
    assert len(str(told.value)) <= 300


def test_a_problem_names_no_endless_word() -> None:
    long = FileProblem(f"file: {'x' * 140_000} is no field; accepted: others")
    assert str(long) == f"file: {'x' * 100}… is no field; accepted: others"
    assert len(str(FileProblem("many words " * 1000))) == 900
    assert str(FileProblem("two\nlines")) == "two lines"
    path = "/home/" + "a/" * 120 + "pack.lumvak.json"
    assert str(FileProblem(f"{path} was not saved")) == f"{path} was not saved"


def test_remarks_keep_no_signs_that_are_not_shown() -> None:
    cells = read_readings("number;volts;remark\n1;3.6;a\x1b[31mred\u202e\n", "file").cells
    assert HandCell(**cells[0]).remark == "a[31mred"


def test_a_date_has_marks_between_its_parts_or_a_head_that_says_so() -> None:
    """10020714 ms is a time, and the year 1002 is none that a charge began in."""
    log = read_charge_log("time ms;volts\n10020714;50\n10080714;51\n", "file", 14)
    assert (log.start, log.rows[1].seconds) == ("", 60.0)
    log = read_charge_log("time;volts\n0001-01-01T00:00:00;50\n0001-01-01T00:01:00;51\n", "x", 14)
    assert (log.start, log.rows[1].seconds) == ("0001-01-01T00:00:00", 60.0)
    log = read_charge_log("date time;volts\n20260714T101500;50\n20260714T101600;51\n", "x", 14)
    assert log.rows[1].seconds == 60.0


def _parts(catalogue: Catalogue) -> str:
    from lumvak.core.catalogue.catalogue import PartsFile

    return parts_text(PartsFile(title="", cells=catalogue.cell_list[:4]))


READERS: dict[str, Callable[[Catalogue, Path], tuple[str, Callable[[str], object]]]] = {
    "project": lambda catalogue, _: (
        BARROW.read_text("utf-8"),
        lambda text: parse_project(text, "file", catalogue),
    ),
    "parts": lambda catalogue, _: (_parts(catalogue), lambda text: read_parts(text, "file")),
    "cells": lambda catalogue, _: (
        cells_csv(catalogue.cell_list[:6]),
        lambda text: read_cells_csv(text, "file"),
    ),
    "log": lambda _, __: (LOG, lambda text: read_duty_log(text, "file", "A")),
    "readings": lambda _, __: (READINGS, readings_of),
    "tester": lambda _, __: (TESTER, lambda text: read_tester_log(text, "file")),
    "charge": lambda _, __: (CHARGE, lambda text: read_charge_log(text, "file", 14)),
    "volts": lambda _, __: (VOLTS, lambda text: read_volts(text, "file", 14)),
    "curve": lambda _, __: (CURVE, lambda text: parse_curve(text, 4.8)),
    ".svg": lambda _, folder: (SVG, outline_of(".svg", folder)),
    ".dxf": lambda _, folder: (dxf(), outline_of(".dxf", folder)),
}
