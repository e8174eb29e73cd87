"""The shopping sheet: as a page to print, as a table, and as text for a message."""

from __future__ import annotations

import csv
import io
from typing import Any
from xml.sax.saxutils import escape

from lumvak.core.evaluation import Evaluation
from lumvak.core.said import Text, capital, listed
from lumvak.core.specification.sheet import (
    ShoppingLine,
    quantity_said,
    shopping,
    two_lines,
    window_said,
)
from lumvak.core.specification.topic import specification_in_hand
from lumvak.core.spelling import PLAIN, Spelling, spoken
from lumvak.files.export.pdf import (
    FONT,
    MARGIN_MM,
    PAPERS_MM,
    POINTS,
    printable,
    registered,
    warn,
)
from lumvak.files.spreadsheet import harmless

HEADS = (
    "part", "how many", "figure", "at least", "at most", "wanted", "unit", "set by", "must",
    "found", "price",
)  # fmt: skip
HEAD = "What to look for. The figures are windows: any part that lies in them does."
FOOT = (
    "Measure before you trust a label. Local rules, and those licensed for such work, come first."
)
TITLE_PT, SIZE_PT, SMALL_PT, LEADING = 13.0, 8.5, 7.0, 1.22
GAP_MM, NAME_MM, FOUND_MM, PRICE_MM = 1.6, 32.0, 38.0, 15.0
RULE = "#9a8f7c"


def shopping_csv(evaluation: Evaluation, spelling: Spelling = PLAIN) -> str:
    """A row a figure, with columns for what was found and its price."""
    stream = io.StringIO()
    writer = csv.writer(stream, lineterminator="\r\n")
    writer.writerow(HEADS)
    for line in shopping(specification_in_hand(evaluation)):
        for window in line.part.windows:
            sides = (window.least, window.most, window.wanted)
            words = [] if not window.one_of else [spoken(window_said(window), spelling)]
            numbers = ["" if it is None else f"{it.number:.4g}" for it in sides]
            row = [
                line.part.name,
                spoken(quantity_said(line.part), spelling),
                spoken(window.label, spelling),
                *(words or numbers[:1]),
                *numbers[1:],
                window.unit,
                spoken(window.set_by, spelling),
                "must" if window.must and not window.open else "",
                "",
                "",
            ]
            writer.writerow([harmless(cell) for cell in row])
    return stream.getvalue()


def shopping_text(evaluation: Evaluation, spelling: Spelling = PLAIN) -> str:
    """Plain text for a message: the pack in two lines, then part by part."""
    specification = specification_in_hand(evaluation)
    said = [evaluation.project.name, spoken(two_lines(evaluation, specification), spelling), ""]
    for line in shopping(specification):
        said.append(f"{line.part.name}, {spoken(line.quantity, spelling)}:")
        said.append("  " + spoken(_must(line), spelling))
        if line.open:
            said.append("  any: " + spoken(listed(line.open), spelling))
        if line.better:
            said.append("  better so: " + spoken(listed(line.better, "; "), spelling))
    return "\n".join([*said, "", FOOT, ""])


def _must(line: ShoppingLine) -> Text:
    return listed(line.must, "; ") if line.must else "any"


def shopping_pdf(
    evaluation: Evaluation,
    title: str,
    paper: str = "a4",
    warning: str = "",
    spelling: Spelling = PLAIN,
) -> bytes:
    """A table: part and number, its windows in words, room for what was found and its price.

    A ``warning`` stands on every page; ``paper`` is a key of PAPERS_MM. It is long, for it sets one
    thing after the other.
    """
    from reportlab.platypus import Paragraph, SimpleDocTemplate, Spacer, Table

    registered()
    specification = specification_in_hand(evaluation)
    size = PAPERS_MM[paper]
    styles = _styles()

    def words(text: str, style: str) -> Paragraph:
        return Paragraph(escape(printable(text)[0]), styles[style])

    rows: list[list[Any]] = [
        [words(head, "small") for head in ("part", "look for", "found", "price")]
    ]
    for line in shopping(specification):
        cell = [words(spoken(_must(line), spelling), "text")]
        if line.open:
            cell.append(words("Any: " + spoken(listed(line.open), spelling), "small"))
        if line.better:
            better = "Better so: " + spoken(listed(line.better, "; "), spelling)
            cell.append(words(better, "small"))
        part = f"{spoken(capital(line.part.name))}, {spoken(line.quantity, spelling)}"
        rows.append([words(part, "text"), cell, "", ""])
    widths = [NAME_MM, size[0] - 2 * MARGIN_MM - NAME_MM - FOUND_MM - PRICE_MM, FOUND_MM, PRICE_MM]
    table = Table(rows, [wide * POINTS for wide in widths], repeatRows=1)
    table.setStyle(_lines())
    head = [
        words(title, "title"),
        words(spoken(two_lines(evaluation, specification), spelling), "text"),
        words(HEAD, "small"),
    ]
    out = io.BytesIO()
    document = SimpleDocTemplate(
        out,
        pagesize=(size[0] * POINTS, size[1] * POINTS),
        leftMargin=MARGIN_MM * POINTS,
        rightMargin=MARGIN_MM * POINTS,
        topMargin=MARGIN_MM * POINTS,
        bottomMargin=MARGIN_MM * POINTS,
        title=title,
        invariant=1,
        pageCompression=0,
    )

    def on_page(canvas: Any, _: Any) -> None:
        warn(canvas, size, warning)
        canvas.setFont(FONT, SMALL_PT)
        canvas.drawString(
            MARGIN_MM * POINTS, 6.0 * POINTS, f"page {canvas.getPageNumber()}. {FOOT}"
        )

    gap = Spacer(1, GAP_MM * POINTS)
    document.build([*head, gap, table], onFirstPage=on_page, onLaterPages=on_page)
    return out.getvalue()


def _styles() -> dict[str, Any]:
    """How texts of the sheet are set."""
    from reportlab.lib.styles import ParagraphStyle

    sizes = {"title": TITLE_PT, "text": SIZE_PT, "small": SMALL_PT}
    return {
        name: ParagraphStyle(name, fontName=FONT, fontSize=size, leading=size * LEADING)
        for name, size in sizes.items()
    }


def _lines() -> list[tuple[Any, ...]]:
    """The lines of the table, and how close its words stand to them."""
    from reportlab.lib.colors import HexColor

    ends = (0, 0), (-1, -1)
    return [
        ("GRID", *ends, 0.4, HexColor(RULE)),
        ("VALIGN", *ends, "TOP"),
        ("LEFTPADDING", *ends, 3),
        ("RIGHTPADDING", *ends, 3),
        ("TOPPADDING", *ends, 2),
        ("BOTTOMPADDING", *ends, 2),
    ]
