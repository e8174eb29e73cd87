"""The handbook: one page a stage, opened with F1."""

from __future__ import annotations

from importlib import resources

from PyQt6.QtCore import QUrl
from PyQt6.QtWidgets import QTextBrowser

from lumvak.ui.theme import THEME

PAGES = ("need", "cells", "joints", "power")


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
        self.document().setDefaultFont(THEME.font("stage"))  # type: ignore[union-attr]
        self.document().setDocumentMargin(THEME.px(24))  # type: ignore[union-attr]
        self.setMarkdown(page_text(page))
        self.show()
        self.raise_()
        self.activateWindow()

    def _follow(self, url: QUrl) -> None:
        page = url.fileName().removesuffix(".md")
        if page in PAGES:
            self.show_page(page)
