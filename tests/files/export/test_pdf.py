"""The template on paper."""

import io
from collections.abc import Callable

import numpy as np
import pypdf
import pytest

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.evaluation import Evaluation
from lumvak.core.making.cut_lines import cut_lines, numbers_of
from lumvak.core.making.template import WELD_APART_MM, Shape, template_of
from lumvak.files.export import pdf
from lumvak.files.export.formats import exported
from lumvak.files.export.pdf import MARGIN_MM, MARK_MM, OVERLAP_MM, POINTS, printable, tiling
from tests.files.export.test_formats import lines_of, paths_of


@pytest.mark.parametrize(("paper", "size"), [("a4", {210.0, 297.0}), ("letter", {215.9, 279.4})])
def test_a_printed_page_is_true_to_a_tenth_of_a_millimetre(
    evaluation: Evaluation, paper: str, size: set[float]
) -> None:
    document = pypdf.PdfReader(io.BytesIO(exported(evaluation, "pdf", paper)))
    sides = template_of(
        evaluation.laid_out.joined_pack, evaluation.laid_out.clearance.ends, evaluation.cuts
    )
    assert len(document.pages) == sum(
        tiling(side.width_mm, side.height_mm, paper).pages for side in sides
    )
    for page in document.pages:
        box = page.mediabox
        assert {round(float(side) / POINTS, 1) for side in (box.width, box.height)} == size
        bars = [
            line
            for line in lines_of(page)
            if abs(abs(line[2] - line[0]) - 100.0) < 0.1 and line[1] == line[3]
        ]
        assert len(bars) == 1
    first = document.pages[0]
    # A group strip: 15 mm wide, 146.8 mm long; a series strip: 5 by 32.8 mm.
    sizes = {tuple(sorted(np.round(np.ptp(path, axis=0), 1).tolist())) for path in paths_of(first)}
    assert {(15.0, 146.8), (5.0, 32.8)} <= sizes


def test_registration_marks_are_the_same_place_and_lie_on_nothing(evaluation: Evaluation) -> None:
    side = template_of(
        evaluation.laid_out.joined_pack, evaluation.laid_out.clearance.ends, evaluation.cuts
    )[0]
    tiles = tiling(side.width_mm, side.height_mm, "a4")
    assert (tiles.across, tiles.down) == (2, 1)
    pages = pypdf.PdfReader(io.BytesIO(exported(evaluation, "pdf"))).pages[:2]
    ticks = [
        [
            line
            for line in lines_of(page)
            if abs(line[2] - line[0]) < 1e-3 and abs(abs(line[3] - line[1]) - MARK_MM) < 0.01
        ]
        for page in pages
    ]
    (first,), (second,) = ({round(line[0], 2) for line in found} for found in ticks)
    # What lies under the mark of the first page lies under that of the next.
    step = tiles.corner_mm(1, 0)[0]
    assert first - MARGIN_MM == pytest.approx(second - MARGIN_MM + step, abs=0.02)
    assert second == pytest.approx(MARGIN_MM + OVERLAP_MM / 2, abs=0.02)
    for found in ticks:
        assert len(found) == 2
        for _, low, _, high in found:
            middle = tiles.page_mm[1] - (low + high) / 2
            assert not MARGIN_MM < middle < MARGIN_MM + tiles.room_mm[1]


def test_every_strip_has_its_number_and_its_welds(evaluation: Evaluation) -> None:
    cuts = evaluation.cuts
    numbers = numbers_of(cuts)
    assert sorted(numbers.values()) == list(range(1, len(cut_lines(cuts)) + 1))
    for side, face in zip(
        template_of(evaluation.laid_out.joined_pack, evaluation.laid_out.clearance.ends, cuts),
        (0, 1),
        strict=True,
    ):
        own = [cut for cut in cuts if cut.face == face]
        texts = [shape for shape in side.shapes if shape.layer.endswith("NUMBERS")]
        assert sorted(shape.text for shape in texts) == sorted(
            str(numbers[cut.size]) for cut in own
        )
        welds = [shape for shape in side.shapes if shape.layer.endswith("WELDS")]
        # Two crosses of two lines at each terminal that a strip lies on.
        assert len(welds) == 4 * sum(len(cut.joins) for cut in own)
        spots = {shape.points[0] for shape in side.shapes if shape.layer.endswith("TERMINALS")}
        for shape in welds:
            middle = np.mean(shape.points, axis=0)
            away = min(float(np.hypot(*(middle - spot))) for spot in spots)
            assert away == pytest.approx(WELD_APART_MM)
    texts_of = [
        page.extract_text()
        for page in pypdf.PdfReader(io.BytesIO(exported(evaluation, "pdf"))).pages
    ]
    assert "as the pack faces you" in texts_of[0]
    assert "turn the pack over to the side" in texts_of[-1]


def test_a_name_that_the_font_lacks_is_said_on_every_page(
    barrow: Project, catalogue: Catalogue
) -> None:
    named = with_values(barrow, {"name": "Obstkarren 電池 – Ω"})
    pages = pypdf.PdfReader(io.BytesIO(exported(evaluate(named, catalogue), "pdf"))).pages
    for page in pages:
        text = page.extract_text()
        assert "Obstkarren ?? – Ω" in text
        assert "“?” stands for U+96FB, U+6C60, which the font lacks." in text
    assert printable("nickel 0.1 × 5 mm², 15 K/W") == ("nickel 0.1 × 5 mm², 15 K/W", [])


def test_every_shape_is_drawn_on_each_page_that_it_reaches_and_on_few_others(
    evaluation: Evaluation, monkeypatch: pytest.MonkeyPatch
) -> None:
    pages: dict[Callable[[float, float], tuple[float, float]], set[int]] = {}

    def note(_: object, shape: Shape, at: Callable[[float, float], tuple[float, float]]) -> None:
        pages.setdefault(at, set()).add(id(shape))

    monkeypatch.setattr(pdf, "_shape", note)
    sides = template_of(
        evaluation.laid_out.joined_pack, evaluation.laid_out.clearance.ends, evaluation.cuts
    )
    pdf.pdf_bytes(sides, "a title")
    assert len(pages) == sum(tiling(item.width_mm, item.height_mm, "a4").pages for item in sides)
    side_of = {id(shape): side for side in sides for shape in side.shapes}
    wanted = 0
    for at, drawn in pages.items():
        side = side_of[next(iter(drawn))]
        for shape in side.shapes:
            places = [at(*point) for point in shape.points]
            there = any(0.0 < x < 297.0 * POINTS and 0.0 < y < 297.0 * POINTS for x, y in places)
            on_paper = any(
                MARGIN_MM * POINTS < x < (210.0 - MARGIN_MM) * POINTS
                and 28.0 * POINTS < y < (297.0 - MARGIN_MM) * POINTS
                for x, y in places
            )
            wanted += there
            assert id(shape) in drawn or not on_paper
    assert sum(map(len, pages.values())) < 1.5 * wanted
