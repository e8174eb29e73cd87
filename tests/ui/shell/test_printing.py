from pathlib import Path

from PyQt6.QtPrintSupport import QPrinter

from lumvak.ui.shell.printing import draw_on
from lumvak.ui.shell.window import Window


def test_the_window_is_drawn_on_one_page(window: Window, tmp_path: Path) -> None:
    printer = QPrinter()
    printer.setOutputFormat(QPrinter.OutputFormat.PdfFormat)
    printer.setOutputFileName(str(tmp_path / "view.pdf"))
    draw_on(window, printer)
    content = (tmp_path / "view.pdf").read_bytes()
    assert content.startswith(b"%PDF")
    assert content.count(b"/Type /Page\n") == 1
    assert len(content) > 10_000
