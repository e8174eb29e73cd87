"""The placing sheet has every cell once at its place, and boxes for all."""

import io

import pypdf
import pytest

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.evaluation import Evaluation
from lumvak.core.matching.matched import place_name
from lumvak.files.export.formats import exported
from lumvak.files.problem import FileProblem
from lumvak.files.project_file import load_project
from tests.conftest import DEMOS


def test_every_cell_is_on_the_sheet_at_its_place(catalogue: Catalogue) -> None:
    roller = load_project(DEMOS / "seed-bed-roller.lumvak.json", catalogue)
    good = evaluate(roller, catalogue).sized.in_hand.good[:84]
    placed = tuple(
        {"number": cell.number, "cell": place_name(*divmod(place, 7))}
        for place, cell in enumerate(good)
    )
    evaluation = evaluate(with_values(roller, {"hand.placed": placed}), catalogue)
    pages = pypdf.PdfReader(io.BytesIO(exported(evaluation, "placing", "letter"))).pages
    text = "\n".join(page.extract_text() for page in pages)
    for item in placed:
        assert (
            text.count(f"{item['cell']}: {item['number']}\n")
            + text.endswith(f"{item['cell']}: {item['number']}")
            == 1
        )
    assert text.count("Group ") == 12
    assert "Seed-bed roller, 12S7P: cells to their places" in text
    # And each of both sides shows each number.
    assert text.split().count("90") == 3
    boxes = sum(page.get_contents().get_data().count(b" re S") for page in pages)  # type: ignore[union-attr]
    assert boxes == 84
    assert float(pages[0].mediabox.width) == pytest.approx(215.9 / 25.4 * 72.0)


def test_without_places_there_is_no_sheet(evaluation: Evaluation) -> None:
    with pytest.raises(FileProblem, match="assign the groups and use them first"):
        exported(evaluation, "placing")


@pytest.mark.parametrize(("series", "parallel"), [(20, 10), (60, 20)])
def test_numbers_can_be_read_however_many_cells_there_are(
    catalogue: Catalogue, series: int, parallel: int
) -> None:
    count = series * parallel
    placed = tuple(
        {"number": place + 1, "cell": place_name(*divmod(place, parallel))}
        for place in range(count)
    )
    name = "A very long name of a pack " * 6
    evaluation = evaluate(
        with_values(
            Project(),
            {
                "name": name.strip()[:100],
                "pack.cell": "ostrel-18-30p",
                "pack.series": series,
                "pack.parallel": parallel,
                "hand.placed": placed,
                "hand.cells": tuple({"number": place + 1} for place in range(count)),
            },
        ),
        catalogue,
    )
    pages = pypdf.PdfReader(io.BytesIO(exported(evaluation, "placing"))).pages
    sizes: set[float] = set()
    shown: list[str] = []

    def visit(text: str, matrix: object, place: object, font: object, size: float) -> None:
        if text.strip().isdigit():
            sizes.add(size)
            shown.append(text.strip())

    for page in pages:
        page.extract_text(visitor_text=visit)
    assert min(sizes) >= 7.0
    # Each number once on either side.
    assert sorted(map(int, shown)) == sorted([*range(1, count + 1)] * 2)
    first = pages[0].extract_text()
    assert "…: cells to their places" in first
    assert ("part 2 of" in "".join(page.extract_text() for page in pages)) == (count > 1000)


def test_blocks_are_drawn_as_blocks_with_their_poles(catalogue: Catalogue) -> None:
    placed = tuple({"number": place + 1, "cell": f"g{place + 1}c1"} for place in range(4))
    evaluation = evaluate(
        with_values(
            Project(),
            {
                "pack.cell": "fennimor-b-105",
                "pack.series": 4,
                "pack.parallel": 1,
                "hand.placed": placed,
                "hand.cells": tuple({"number": place + 1} for place in range(4)),
            },
        ),
        catalogue,
    )
    page = pypdf.PdfReader(io.BytesIO(exported(evaluation, "placing"))).pages[0]
    drawn = page.get_contents().get_data()  # type: ignore[union-attr]
    # Four blocks on both drawings, and four boxes to tick.
    assert drawn.count(b" re S") == 8 + 4
    assert not drawn.count(b" c\n") and b" l S" in drawn
