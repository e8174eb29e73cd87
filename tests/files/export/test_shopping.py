"""The shopping sheet as page, table and text."""

import csv
import io

from lumvak.core.evaluation import Evaluation
from lumvak.files.export.shopping import shopping_csv, shopping_pdf, shopping_text


def test_the_table_has_every_figure_with_room_for_what_was_found(evaluation: Evaluation) -> None:
    rows = list(csv.DictReader(io.StringIO(shopping_csv(evaluation))))
    bms = {row["figure"]: row for row in rows if row["part"] == "BMS"}
    assert bms["In series"]["at least"] == bms["In series"]["at most"] == "14"
    assert bms["Continuous current"]["unit"] == "A" and bms["Continuous current"]["must"] == "must"
    assert all(row["found"] == "" and row["price"] == "" for row in rows)
    assert len({row["part"] for row in rows}) > 9


def test_the_text_fits_a_message(evaluation: Evaluation) -> None:
    text = shopping_text(evaluation)
    first, second, *_ = text.splitlines()
    assert first == "Orchard barrow" and second.startswith("14S7P of cells of ")
    assert "main fuse, 1 and 1 in reserve:" in text
    assert "rating, bolt-down, slow: 30 A, 32 A or 35 A" in text
    assert len(text) < 6000


def test_the_page_is_one_page(evaluation: Evaluation) -> None:
    for paper in ("a4", "letter"):
        page = shopping_pdf(evaluation, "Orchard barrow: what to look for", paper, "DO NOT BUILD")
        assert page.startswith(b"%PDF") and page.count(b"/Type /Page\n") == 1
