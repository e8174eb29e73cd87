"""The report as PDF, read by readers that are not ours."""

import io

import pypdf
import pypdfium2
import pytest

from lumvak.core.evaluation import Evaluation
from lumvak.core.record_of_pack.report import SHOWN
from lumvak.core.said import say
from lumvak.core.spelling import spoken
from lumvak.files.export.formats import report_bytes


@pytest.fixture(scope="module")
def made(worked_out: Evaluation) -> bytes:
    return report_bytes(worked_out, "report")


def test_every_figure_stands_there_by_name_and_value(made: bytes, worked_out: Evaluation) -> None:
    pages = pypdf.PdfReader(io.BytesIO(made)).pages
    text = " ".join(" ".join(page.extract_text().split()) for page in pages)
    for key in (key for keys in SHOWN.values() for key in keys if key in worked_out.figures):
        figure = worked_out.figures[key]
        value = spoken(say(figure.value, figure.unit))
        assert f"{spoken(figure.label)} {value}" in text, key


def test_every_page_says_that_it_is_not_proven_and_which_it_is(made: bytes) -> None:
    for number, page in enumerate(pypdf.PdfReader(io.BytesIO(made)).pages, 1):
        text = page.extract_text()
        assert "NOT PROVEN" in text and f"page {number}" in text


def test_nothing_runs_over_its_page(made: bytes) -> None:
    for page in pypdfium2.PdfDocument(made):
        width, height = page.get_size()
        words = page.get_textpage()
        for place in range(words.count_rects()):
            left, bottom, right, top = words.get_rect(place)
            assert 0.0 < left < right < width - 20.0 and 0.0 < bottom < top < height
