"""The placing sheet has every cell once at its place, and boxes for all."""

import io

import pypdf
import pytest

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.evaluate import evaluate
from lumvak.core.evaluation import Evaluation
from lumvak.core.matching.matched import place_name
from lumvak.files.export.formats import exported
from lumvak.files.problem import FileProblem
from lumvak.files.project_file import load_project
from tests.conftest import DEMOS


def test_every_cell_is_on_the_sheet_at_its_place(catalogue: Catalogue) -> None:
    roller = load_project(DEMOS / "seed-bed-roller.lumvak.json", catalogue)
    good = evaluate(roller, catalogue).matched.good[:84]
    placed = tuple({"number": cell.number, "cell": place_name(*divmod(place, 7))}
                   for place, cell in enumerate(good))  # fmt: skip
    seen = evaluate(with_values(roller, {"hand.placed": placed}), catalogue)
    pages = pypdf.PdfReader(io.BytesIO(exported(seen, "placing", "letter"))).pages
    text = "\n".join(page.extract_text() for page in pages)
    for item in placed:
        assert text.count(f"{item['cell']}: {item['number']}\n") + text.endswith(
            f"{item['cell']}: {item['number']}"
        ) == 1  # fmt: skip
    assert text.count("Group ") == 12
    assert "Seed-bed roller, 12S7P: cells to their places" in text
    # And each of both sides shows each number.
    assert text.split().count("90") == 3
    boxes = sum(page.get_contents().get_data().count(b" re S") for page in pages)  # type: ignore[union-attr]
    assert boxes == 84
    assert float(pages[0].mediabox.width) == pytest.approx(215.9 / 25.4 * 72.0)


def test_without_places_there_is_no_sheet(seen: Evaluation) -> None:
    with pytest.raises(FileProblem, match="deal the groups and take them first"):
        exported(seen, "placing")
