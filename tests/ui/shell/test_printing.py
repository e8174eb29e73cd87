"""What is printed is the sheet of the stage, true to size, and else its page."""

from pathlib import Path

import pytest
from pypdf import PdfReader
from PyQt6.QtGui import QPageSize
from PyQt6.QtPrintSupport import QPrintDialog, QPrinter, QPrintPreviewDialog

from lumvak.files.export.formats import exported
from lumvak.ui.shell.printing import SHEETS, draw_on, sheet_of
from lumvak.ui.shell.window import Window


def printed(window: Window, stage: str, path: Path) -> PdfReader:
    window.open_stage(stage)
    printer = QPrinter(QPrinter.PrinterMode.ScreenResolution)
    printer.setOutputFormat(QPrinter.OutputFormat.PdfFormat)
    printer.setPageSize(QPageSize(QPageSize.PageSizeId.A4))
    printer.setOutputFileName(str(path))
    draw_on(sheet_of(window.session, stage), window.stages[stage], printer)
    return PdfReader(path)


@pytest.mark.parametrize("stage", ["joints", "taps"])
def test_the_sheet_of_a_stage_is_printed_page_by_page_true_to_size(
    window: Window, tmp_path: Path, stage: str
) -> None:
    evaluation = window.session.evaluation
    made = tmp_path / "made.pdf"
    made.write_bytes(exported(evaluation, SHEETS[stage], "a4"))
    wanted, found = PdfReader(made), printed(window, stage, tmp_path / "printed.pdf")
    assert len(found.pages) == len(wanted.pages)
    for page, other in zip(found.pages, wanted.pages, strict=True):
        for side in ("width", "height"):
            length = float(getattr(other.mediabox, side))
            assert float(getattr(page.mediabox, side)) == pytest.approx(length, abs=2.0)


def test_where_no_sheet_belongs_the_page_is_printed(window: Window, tmp_path: Path) -> None:
    assert sheet_of(window.session, "need") is None
    found = printed(window, "need", tmp_path / "need.pdf")
    assert len(found.pages) == 1
    # No cell has its place: that is said, and the view is printed.
    assert sheet_of(window.session, "hand") is None
    assert "the view is printed instead" in window.notice.text.text()


def test_the_menu_asks_for_a_printer_or_shows_it_first(
    window: Window, monkeypatch: pytest.MonkeyPatch
) -> None:
    asked: list[str] = []
    monkeypatch.setattr(QPrintDialog, "exec", lambda _: asked.append("print"))
    monkeypatch.setattr(QPrintPreviewDialog, "exec", lambda _: asked.append("preview"))
    window.print_it()
    window.preview()
    assert asked == ["print", "preview"]
