"""The handbook: a page for each stage, the window, its words, and the methods by section."""

from __future__ import annotations

import re
from collections.abc import Iterator
from functools import cache
from importlib import resources

from PyQt6.QtCore import Qt, QUrl
from PyQt6.QtGui import (
    QKeyEvent,
    QKeySequence,
    QResizeEvent,
    QShortcut,
    QTextBlockFormat,
    QTextCursor,
    QTextDocument,
)
from PyQt6.QtWidgets import QHBoxLayout, QTextBrowser, QWidget

import lumvak
from lumvak.ui.speech import in_words, worded
from lumvak.ui.stages.order import STAGES
from lumvak.ui.widgets.entry import EntryField
from lumvak.ui.widgets.keys import is_return
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import soft

LINE_PERCENT, FOOT = 125, 40
WORDS, WINDOW, ABOUT, METHODS = "words", "window", "about", "methods"
PROPORTIONAL = QTextBlockFormat.LineHeightTypes.ProportionalHeight.value
# Where a text points to a section of the methods, and what stands before those sections.
SECTION = re.compile(r"(?<!\[)\b(methods?|[Ss]ections?) (\d{1,2})\b")
FRONT, SOURCES = "0", "Sources"
# Walks for somebody who is new.
WALKS = ("first_pack", "walk_tool", "walk_salvaged", "walk_trouble")
# What a figure is called for the command line stands behind it in the file, and not on the screen.
KEY = re.compile(r" \(`[a-z_.0-9-]+`\)$", re.MULTILINE)


def page_text(page: str) -> str:
    """The text of a page, in Markdown; ``methods/18`` is a section of the methods."""
    name, _, section = page.partition("/")
    folder = resources.files("lumvak") / "data" / "handbook"
    text = (folder / f"{name}.md").read_text("utf-8")
    return _section_text(section) if section else text


@cache
def sections() -> dict[str, str]:
    """The sections of the methods by their numbers, with what stands before them, and sources."""
    parts = re.split(r"^## ", page_text(METHODS), flags=re.MULTILINE)
    found = {FRONT: parts[0]}
    for part in parts[1:]:
        found[part.split(maxsplit=1)[0]] = f"## {part}"
    return found


def _section_text(section: str) -> str:
    """A section with the way to its neighbours."""
    known = [*sections()]
    at = known.index(section)
    ways = (("Before", at - 1), ("Next", at + 1))
    links = [
        worded("{}: [{}](methods/{})", word, _named(known[place]), known[place])
        for word, place in ways
        if 0 <= place < len(known)
    ]
    return f"{sections()[section].rstrip()}\n\n{' · '.join(links)}\n"


def _named(section: str) -> str:
    return {FRONT: "methods", SOURCES: "sources"}.get(section, worded("methods {}", section))


def linked(text: str) -> str:
    """A page whose mentions of sections of the methods are links to them, without keys."""
    text = KEY.sub("", text)
    return SECTION.sub(
        lambda hit: f"[{hit[0]}](methods/{hit[2]})" if hit[2] in sections() else hit[0], text
    )


def section_in(text: str) -> str:
    """The page of the methods that a text points to first; empty where it points to none."""
    hits = (hit[2] for hit in SECTION.finditer(text) if hit[1].startswith("method"))
    return next((f"{METHODS}/{number}" for number in hits if number in sections()), "")


def all_pages() -> Iterator[str]:
    """Every page, in the order in which a search goes through them."""
    yield from (stage.key for stage in STAGES)
    yield from (*WALKS, WINDOW, WORDS, ABOUT)
    yield from (f"{METHODS}/{section}" for section in sections())


class Handbook(QTextBrowser):
    """A window of its own beside the work; links lead from page to page, Ctrl+F searches all.

    Alt+Left goes back, Escape and Ctrl+W close it.
    """

    def __init__(self) -> None:
        super().__init__()
        self.setWindowTitle(in_words("Lumvak handbook"))
        self.setOpenLinks(False)
        self.resize(THEME.px(620), THEME.px(720))
        self.page = ""
        self._before: list[str] = []
        self.search, self.found = EntryField(), soft("")
        self.search.setAccessibleName(in_words("Search the handbook"))
        self.search.setPlaceholderText(in_words("search, Enter for the next"))
        self.foot = QWidget(self)
        row = QHBoxLayout(self.foot)
        row.addWidget(self.search, 1)
        row.addWidget(self.found)
        self.foot.hide()
        self.anchorClicked.connect(self._follow)
        self.search.textChanged.connect(lambda _: self._seek(anew=True))
        for keys, do in (
            ("Ctrl+F", self.ask),
            ("Ctrl+W", self.close),
            ("Alt+Left", self.back),
        ):
            QShortcut(QKeySequence(keys), self).activated.connect(do)

    def show_page(self, page: str) -> None:
        """Open a page and come to the front."""
        if self.page not in ("", page):
            self._before.append(self.page)
        self._turn_to(page)
        self.show()
        self.raise_()
        self.activateWindow()

    def _turn_to(self, page: str) -> None:
        self.page = page
        document = self.document()
        assert document is not None
        document.setDefaultFont(THEME.font("stage"))
        document.setDocumentMargin(THEME.px(26))
        self.setMarkdown(linked(page_text(page).replace("{version}", lumvak.__version__)))
        self._space_out(document)

    def back(self) -> None:
        """Go back to the page before."""
        if self._before:
            self._turn_to(self._before.pop())

    def show_word(self, head: str) -> None:
        """Open the page of words at the entry with a head."""
        self.show_page(WORDS)
        document = self.document()
        assert document is not None
        place = document.find(f"{head}:")
        if not place.isNull():
            self._come_to(place)

    def _come_to(self, place: QTextCursor) -> None:
        # To the end first, so that the place comes to stand above.
        self.moveCursor(QTextCursor.MoveOperation.End)
        self.setTextCursor(place)
        self.ensureCursorVisible()

    # Searching all pages.

    def ask(self) -> None:
        """Ask for a word to look for in all pages."""
        self.foot.show()
        self._place_foot()
        self.search.setFocus(Qt.FocusReason.ShortcutFocusReason)

    def _seek(self, *, anew: bool = False) -> None:
        """Go to the next place of what is sought, on this page or on one after it."""
        wanted, document = self.search.text().strip(), self.document()
        if not wanted or document is None:
            self.found.setText("")
            return
        begin = QTextCursor(document)
        if not anew:
            begin = self.textCursor()
        place = document.find(wanted, begin)
        pages = [*all_pages()]
        at = pages.index(self.page) if self.page in pages else 0
        for step in range(1, len(pages) + 1):
            if not place.isNull():
                break
            page = pages[(at + step) % len(pages)]
            if wanted.lower() in page_text(page).lower():
                self._turn_to(page)
                place = document.find(wanted)
        if place.isNull():
            self.found.setText(in_words("nowhere"))
            return
        self._come_to(place)
        count = sum(wanted.lower() in page_text(page).lower() for page in pages)
        self.found.setText(worded("on {} {}", count, "page" if count == 1 else "pages"))

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.key() == Qt.Key.Key_Escape:
            if self.foot.isVisible():
                self.foot.hide()
                self.setViewportMargins(0, 0, 0, 0)
                self.setFocus()
            else:
                self.close()
        elif is_return(event) and self.focusWidget() is self.search:
            self._seek()
        else:
            super().keyPressEvent(event)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._place_foot()

    def _place_foot(self) -> None:
        if self.foot.isVisible():
            high = THEME.px(FOOT)
            self.setViewportMargins(0, 0, 0, high)
            self.foot.setGeometry(0, self.height() - high, self.width(), high)

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
        page = url.path().removesuffix(".md")
        if page == METHODS:
            page = f"{METHODS}/{FRONT}"
        if page in all_pages():
            self.show_page(page)
