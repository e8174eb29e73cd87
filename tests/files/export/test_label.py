"""Labels, read by readers that are not ours."""

import io
import re
from pathlib import Path

import numpy as np
import pypdf
import pytest
import zxingcpp
from PIL import Image

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.afterwards.passport import Passport
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.record_of_pack.label import charger_label_of, label_of
from lumvak.files.export.label import (
    LEAST_PT,
    MODULE_MM,
    drawn_label,
    label_bytes,
    label_pdf,
    label_png,
    label_svg,
)
from lumvak.files.label_reader import read_label
from lumvak.files.passport import passport_text
from lumvak.files.problem import FileProblem
from tests.core.record_of_pack.test_label import PACK


def test_text_and_code_stand_within_the_label_and_apart() -> None:
    label = drawn_label(label_of(PACK), 100.0, 60.0)
    assert label.module_mm >= MODULE_MM
    assert min(it.size_pt for it in label.texts) >= LEAST_PT
    left = min(x for x, _, _ in label.runs)
    bottom = max(y for _, y, _ in label.runs) + label.module_mm
    for it in label.texts:
        assert it.x_mm + it.width_mm <= 100.0 and it.y_mm <= 60.0
        top = it.y_mm - it.size_pt * 25.4 / 72.0
        assert top > bottom or it.x_mm + it.width_mm < left, it.text


def test_another_reader_reads_the_code() -> None:
    picture = Image.open(io.BytesIO(label_png(drawn_label(label_of(PACK), 100.0, 60.0), "label")))
    assert picture.size == (1182, 709) or abs(picture.width - 100.0 / 25.4 * 300.0) < 2.0
    (code,) = zxingcpp.read_barcodes(np.asarray(picture))
    assert code.text == passport_text(PACK) or code.text.startswith("LUMVAK1Z ")


def test_the_page_is_as_large_as_the_label_and_says_the_limits() -> None:
    (page,) = pypdf.PdfReader(
        io.BytesIO(label_pdf(drawn_label(label_of(PACK), 80.0, 60.0), "label"))
    ).pages
    assert float(page.mediabox.width) * 25.4 / 72.0 == pytest.approx(80.0, abs=0.01)
    assert "40 A continuous" in page.extract_text().replace("\u00a0", " ")


@pytest.mark.parametrize("suffix", [".png", ".svg"])
def test_the_passport_comes_back_from_a_file(tmp_path: Path, suffix: str) -> None:
    label = drawn_label(label_of(PACK), 100.0, 60.0)
    path = tmp_path / f"label{suffix}"
    path.write_bytes(label_svg(label).encode() if suffix == ".svg" else label_png(label, "label"))
    assert read_label(str(path)).passport == PACK


def test_a_size_that_is_too_small_is_refused_with_one_that_fits() -> None:
    with pytest.raises(FileProblem) as caught:
        drawn_label(label_of(PACK), 40.0, 25.0)
    found = re.search(r"on (\d+) x (\d+) mm", str(caught.value))
    assert found is not None
    assert drawn_label(label_of(PACK), float(found[1]), float(found[2])).texts


def test_a_charger_has_no_code() -> None:
    label = drawn_label(charger_label_of(PACK, "Brook 8"), 60.0, 40.0)
    assert not label.runs and any("Kayak thruster" in it.text for it in label.texts)


def test_a_long_name_is_broken_or_refused() -> None:
    long = Passport(name="x" * 60, series=1, parallel=1, capacity_ah=1.0, full_v=4.2, empty_v=2.5)
    with pytest.raises(FileProblem, match="fits on"):
        drawn_label(label_of(long), 60.0, 40.0)


def test_a_pack_beyond_a_passport_has_no_label(catalogue: Catalogue) -> None:
    large = with_values(Project(), {"need.rated_voltage_v": 990.0, "pack.series": 290})
    with pytest.raises(FileProblem, match="no label says this: Full"):
        label_bytes(evaluate(large, catalogue), ".svg", (100.0, 80.0))
