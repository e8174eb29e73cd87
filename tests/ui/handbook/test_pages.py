"""The handbook: links lead to sections of the methods, a search goes through all pages."""

import re
from pathlib import Path

from PyQt6.QtCore import Qt, QUrl
from pytestqt.qtbot import QtBot

from lumvak.ui.handbook.pages import (
    METHODS,
    Handbook,
    all_pages,
    linked,
    page_text,
    section_in,
    sections,
)
from lumvak.ui.shell.window import Window
from tests.core.figures.test_figure import tables

ROOT = Path(__file__).parents[3]


def test_the_methods_are_pages_of_it_section_by_section() -> None:
    text = (ROOT / "docs" / "methods.md").read_text("utf-8")
    assert page_text(METHODS) == text
    heads = re.findall(r"^## (\S+)", text, flags=re.MULTILINE)
    assert [*sections()] == ["0", *heads]
    assert "".join(sections().values()) == text
    assert "Next: [methods 19](methods/19)" in page_text("methods/18")
    assert all(page_text(page) for page in all_pages())


def test_mentions_of_sections_are_links_and_nothing_else_is() -> None:
    assert linked("see methods 18 and section 7") == (
        "see [methods 18](methods/18) and [section 7](methods/7)"
    )
    assert linked("methods 99, a section 2 mm wide?") == (
        "methods 99, a [section 2](methods/2) mm wide?"
    )
    assert section_in("q ÷ G · methods 9 [4]") == "methods/9"
    assert section_in("a section 3") == section_in("") == ""


def test_what_figures_point_to_is_there() -> None:
    rules = [rule for _, _, rule in tables()]
    pointed = {hit for rule in rules for hit in re.findall(r"methods (\d+)", str(rule.source))}
    assert len(pointed) > 20 and pointed <= {*sections()}


def test_enter_on_a_working_and_f1_open_the_section_it_points_to(
    qtbot: QtBot, window: Window
) -> None:
    window.open_stage("joints")
    window.session.explain("joints.series.rise_k")
    tree = window.margin.tree
    tree.setFocus()
    tree.setCurrentItem(tree.topLevelItem(0))
    qtbot.keyClick(tree, Qt.Key.Key_Return)
    book = window.handbook
    assert book is not None and book.page == tree.section == "methods/9"
    assert "What a strip carries" in book.toPlainText()
    book.close()
    window.open_handbook()
    assert book.page == "methods/9" and book.isVisible()
    book.anchorClicked.emit(QUrl("methods/10"))
    assert book.page == "methods/10"
    qtbot.keyClick(book, Qt.Key.Key_Left, Qt.KeyboardModifier.AltModifier)
    book.back()
    assert book.page == "methods/9"


def test_a_search_goes_from_page_to_page_and_escape_leaves(qtbot: QtBot) -> None:
    book = Handbook()
    qtbot.addWidget(book)
    book.show_page("need")
    qtbot.waitExposed(book)
    book.ask()
    assert book.focusWidget() is book.search
    qtbot.keyClicks(book.search, "precharge")
    pages = [page for page in all_pages() if "precharge" in page_text(page).lower()]
    assert book.textCursor().selectedText().lower() == "precharge"
    assert book.found.text() == f"on {len(pages)} pages" and book.page in pages
    seen = set()
    for _ in range(40):
        seen.add(book.page)
        qtbot.keyClick(book.search, Qt.Key.Key_Return)
    assert seen == {*pages}
    book.search.setText("no such word anywhere")
    assert book.found.text() == "nowhere"
    qtbot.keyClick(book.search, Qt.Key.Key_Escape)
    assert not book.foot.isVisible() and book.isVisible()
    qtbot.keyClick(book, Qt.Key.Key_Escape)
    assert not book.isVisible()
