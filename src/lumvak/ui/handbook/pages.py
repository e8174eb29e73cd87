"""The handbook: a page for each stage, the window and its words, opened with F1."""

from __future__ import annotations

from importlib import resources

from PyQt6.QtCore import QUrl
from PyQt6.QtGui import QTextBlockFormat, QTextCursor, QTextDocument
from PyQt6.QtWidgets import QTextBrowser

import lumvak
from lumvak.ui.stages.order import STAGES
from lumvak.ui.widgets.theme import THEME

LINE_PERCENT = 125
WORDS, WINDOW, ABOUT = "words", "window", "about"
PROPORTIONAL = QTextBlockFormat.LineHeightTypes.ProportionalHeight.value


def page_text(page: str) -> str:
    """The text of a page, in Markdown."""
    folder = resources.files("lumvak") / "data" / "handbook"
    return (folder / f"{page}.md").read_text("utf-8")


class Handbook(QTextBrowser):
    """A window of its own beside the work; links lead from page to page."""

    def __init__(self) -> None:
        super().__init__()
        self.setWindowTitle("Lumvak handbook")
        self.setOpenLinks(False)
        self.resize(THEME.px(620), THEME.px(720))
        self.anchorClicked.connect(self._follow)

    def show_page(self, page: str) -> None:
        """Open a page and come to the front."""
        document = self.document()
        assert document is not None
        document.setDefaultFont(THEME.font("stage"))
        document.setDocumentMargin(THEME.px(26))
        self.setMarkdown(page_text(page).replace("{version}", lumvak.__version__))
        self._space_out(document)
        self.show()
        self.raise_()
        self.activateWindow()

    def show_word(self, head: str) -> None:
        """Open the page of words at the entry with a head."""
        self.show_page(WORDS)
        document = self.document()
        assert document is not None
        place = document.find(f"{head}:")
        if not place.isNull():
            # To the end first, so that the entry comes to stand above.
            self.moveCursor(QTextCursor.MoveOperation.End)
            self.setTextCursor(place)
            self.ensureCursorVisible()

    def _space_out(self, document: QTextDocument) -> None:
        """Room between lines and paragraphs; Markdown sets neither."""
        cursor = QTextCursor(document)
        block = document.begin()
        while block.isValid():
            form = block.blockFormat()
            form.setLineHeight(LINE_PERCENT, PROPORTIONAL)  # type: ignore[arg-type]
            form.setBottomMargin(THEME.px(10))
            cursor.setPosition(block.position())
            cursor.setBlockFormat(form)
            block = block.next()

    def _follow(self, url: QUrl) -> None:
        page = url.fileName().removesuffix(".md")
        if page in {WORDS, WINDOW, ABOUT, *(stage.key for stage in STAGES)}:
            self.show_page(page)
