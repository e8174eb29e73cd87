"""The template on paper at 1:1: tiles with registration marks and a scale bar on every page."""

from __future__ import annotations

import io
import math
from collections.abc import Sequence
from importlib import resources
from textwrap import wrap
from typing import Any

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from lumvak.core.making.template import Shape, SideDrawing
from lumvak.files.export.warning import WARNING

PAPERS_MM = {"a4": (210.0, 297.0), "letter": (215.9, 279.4)}
MARGIN_MM = 12.0
FOOT_MM = 16.0
OVERLAP_MM = 10.0
MARK_MM = 4.0
BAR_MM = 100.0
WARN_PT = 9.0
POINTS = 72.0 / 25.4
# The shipped font, by the name that it has in here.
FONT, FONT_FILE = "Lumvak", "Barlow_400Regular.ttf"
MISSING, CUT = "?", "…"
# How far a text, and a line's own width, may reach from where they are set.
TEXT_REACH_MM, LINE_REACH_MM = 40.0, 1.0
HOW_TO_LAY = {
    "A": "Side A: lay it on the pack as the pack faces you.",
    "B": "Side B: turn the pack over to the side, its left edge to the right, then lay this on it.",
    "L": "Low end: lay it against the ends on the left or upper side, seen from outside.",
    "H": "High end: lay it against the ends on the right or lower side, seen from outside.",
}
# What the numbers and marks are, of pieces that are welded and of bars with holes.
MARKS_SAID = "Numbers are those of the cut list; each × is a weld, each circle in a bar a hole."


class Tiling(Struct, frozen=True):
    """How a side falls on pages: page size in mm, tiles across and down, what one page shows."""

    page_mm: tuple[float, float]
    across: int
    down: int
    room_mm: tuple[float, float]

    @property
    def pages(self) -> int:
        """Pages of the side."""
        return self.across * self.down

    def corner_mm(self, column: int, row: int) -> tuple[float, float]:
        """The place of the drawing at the upper left corner of a page's room."""
        return (
            column * (self.room_mm[0] - OVERLAP_MM),
            row * (self.room_mm[1] - OVERLAP_MM),
        )


def tiling(width_mm: float, height_mm: float, paper: str) -> Tiling:
    """The fewest pages, upright or on their side, that hold a drawing with their overlap."""
    found = []
    for page in (PAPERS_MM[paper], PAPERS_MM[paper][::-1]):
        room = (page[0] - 2.0 * MARGIN_MM, page[1] - 2.0 * MARGIN_MM - FOOT_MM)
        counts = [
            max(1, math.ceil((extent - OVERLAP_MM) / (side - OVERLAP_MM) - 1e-9))
            for extent, side in zip((width_mm, height_mm), room, strict=True)
        ]
        found.append(Tiling(page, counts[0], counts[1], room))
    return min(found, key=lambda item: item.pages)


def pdf_bytes(
    sides: Sequence[SideDrawing], title: str, paper: str = "a4", warning: str = ""
) -> bytes:
    """All sides at 1:1 as PDF, a ``warning`` on every page; raises KeyError for a paper that is
    not in PAPERS_MM.
    """
    from reportlab.pdfgen.canvas import Canvas

    registered()
    out = io.BytesIO()
    canvas = Canvas(out, pageCompression=0, invariant=1)
    canvas.setTitle(title)
    for side in sides:
        tiles = tiling(side.width_mm, side.height_mm, paper)
        reach = _reach_mm(side.shapes)
        for row in range(tiles.down):
            for column in range(tiles.across):
                _page(canvas, side, reach=reach, tiles=tiles, column=column, row=row, title=title)
                warn(canvas, tiles.page_mm, warning)
                canvas.showPage()
    canvas.save()
    return out.getvalue()


def _reach_mm(shapes: Sequence[Shape]) -> NDArray[np.float64]:
    """Left, top, right and bottom of each shape, (n, 4), with room for what is written there."""
    found = np.zeros((len(shapes), 4))
    for place, shape in enumerate(shapes):
        points = np.array(shape.points)
        out = TEXT_REACH_MM if shape.text else shape.diameter_mm / 2.0 + LINE_REACH_MM
        found[place] = (*(points.min(axis=0) - out), *(points.max(axis=0) + out))
    return found


def _page(
    canvas: Any,
    side: SideDrawing,
    reach: NDArray[np.float64],
    tiles: Tiling,
    column: int,
    row: int,
    title: str,
) -> None:
    page_x, page_y = tiles.page_mm
    room_x, room_y = tiles.room_mm
    canvas.setPageSize((page_x * POINTS, page_y * POINTS))
    left, top = tiles.corner_mm(column, row)

    def at(x: float, y: float) -> tuple[float, float]:
        """A place of the drawing in points of the page; PDF counts upwards."""
        return (
            (MARGIN_MM + x - left) * POINTS,
            (page_y - MARGIN_MM - (y - top)) * POINTS,
        )

    canvas.saveState()
    frame = canvas.beginPath()
    corner = at(left, top + room_y)
    frame.rect(corner[0], corner[1], room_x * POINTS, room_y * POINTS)
    canvas.clipPath(frame, stroke=0, fill=0)
    # What lies wholly on other pages is drawn there.
    here = (
        (reach[:, 0] < left + room_x)
        & (reach[:, 2] > left)
        & (reach[:, 1] < top + room_y)
        & (reach[:, 3] > top)
    )
    for place in np.flatnonzero(here).tolist():
        _shape(canvas, side.shapes[place], at)
    canvas.restoreState()
    _marks(canvas, tiles, column, row)
    _foot(canvas, side, tiles, column, row, title)


def _shape(canvas: Any, shape: Shape, at: Any) -> None:
    strip = "STRIPS" in shape.layer
    canvas.setLineWidth(0.6 if strip else 0.35)
    canvas.setDash(*((3, 2) if "WIRES" in shape.layer else ()))
    if shape.text:
        number = "NUMBERS" in shape.layer
        canvas.setFont(FONT, 9 if number else 6)
        x, y = at(*shape.points[0])
        if number:
            canvas.drawCentredString(x, y - 3, shape.text)
        else:
            # Aside, for the marks of the welds lie across and along.
            canvas.drawString(x + 4.5, y - 10, shape.text)
        return
    if shape.diameter_mm:
        x, y = at(*shape.points[0])
        canvas.circle(x, y, shape.diameter_mm / 2.0 * POINTS, stroke=1, fill=0)
        return
    path = canvas.beginPath()
    path.moveTo(*at(*shape.points[0]))
    for point in shape.points[1:]:
        path.lineTo(*at(*point))
    if shape.closed:
        path.close()
    canvas.drawPath(path, stroke=1, fill=0)


def _marks(canvas: Any, tiles: Tiling, column: int, row: int) -> None:
    """Ticks in the margin at the middle of each overlap, where there is a page to overlap with.

    Cut from tick to tick, and lay the pages edge to edge; nothing of the drawing is covered.
    """
    half, page_y = OVERLAP_MM / 2.0, tiles.page_mm[1]
    room_x, room_y = tiles.room_mm
    canvas.setLineWidth(0.35)
    canvas.setDash()

    def tick(x: float, y: float, far_x: float, far_y: float) -> None:
        corners = (x, page_y - y, far_x, page_y - far_y)
        canvas.line(*(value * POINTS for value in corners))

    for there, x in ((column > 0, half), (column < tiles.across - 1, room_x - half)):
        if there:
            tick(MARGIN_MM + x, MARGIN_MM - MARK_MM, MARGIN_MM + x, MARGIN_MM)
            tick(MARGIN_MM + x, MARGIN_MM + room_y, MARGIN_MM + x, MARGIN_MM + room_y + MARK_MM)
    for there, y in ((row > 0, half), (row < tiles.down - 1, room_y - half)):
        if there:
            tick(MARGIN_MM - MARK_MM, MARGIN_MM + y, MARGIN_MM, MARGIN_MM + y)
            tick(MARGIN_MM + room_x, MARGIN_MM + y, MARGIN_MM + room_x + MARK_MM, MARGIN_MM + y)


def _foot(canvas: Any, side: SideDrawing, tiles: Tiling, column: int, row: int, title: str) -> None:
    """The scale bar, and which page this is."""
    start, y = MARGIN_MM * POINTS, (MARGIN_MM + 4.0) * POINTS
    canvas.setLineWidth(0.7)
    canvas.setDash()
    canvas.line(start, y, start + BAR_MM * POINTS, y)
    for place in range(0, round(BAR_MM) + 1, 10):
        x = start + place * POINTS
        tall = 2.0 if place % 50 == 0 else 1.2
        canvas.line(x, y, x, y + tall * POINTS)
    canvas.setFont(FONT, 7)
    canvas.drawString(
        start, y - 9, "This bar is 100 mm: measure it before you cut. Print at 100 %."
    )
    canvas.drawString(start, y - 18, f"{HOW_TO_LAY[side.name[0]]} {MARKS_SAID}")
    page = f"row {row + 1} of {tiles.down}, column {column + 1} of {tiles.across}"
    right = (tiles.page_mm[0] - MARGIN_MM) * POINTS
    name, lacking = printable(title)
    over = f": {side.words}"
    room = tiles.page_mm[0] - 2.0 * MARGIN_MM - BAR_MM - 4.0
    words = cut_to(name, 7, max(10.0, room - 0.6 * 7.0 * len(over) / POINTS)) + over
    canvas.drawRightString(right, y + 6, words)
    canvas.drawRightString(right, y - 9, page)
    if lacking:
        canvas.drawString(
            start, y + 9, f"“{MISSING}” stands for {', '.join(lacking)}, which the font lacks."
        )


def width_pt(text: str, size_pt: float) -> float:
    """How wide a text is in the shipped font."""
    from reportlab.pdfbase.pdfmetrics import stringWidth

    registered()
    return float(stringWidth(text, FONT, size_pt))


def cut_to(text: str, size_pt: float, width_mm: float) -> str:
    """A text in the shipped font, cut with a mark where it is wider than it may be."""
    if width_pt(text, size_pt) <= width_mm * POINTS:
        return text
    while text and width_pt(text + CUT, size_pt) > width_mm * POINTS:
        text = text[:-1]
    return text.rstrip() + CUT


def warn(canvas: Any, page_mm: tuple[float, float], warning: str) -> None:
    """Write a warning over the top of the page at hand, in as many lines as it takes."""
    if not warning:
        return
    from reportlab.lib.colors import HexColor

    canvas.saveState()
    canvas.setFillColor(HexColor(WARNING))
    canvas.setFont(FONT, WARN_PT)
    signs = int((page_mm[0] - 2.0 * MARGIN_MM) * POINTS / (0.52 * WARN_PT))
    for line, words in enumerate(wrap(printable(warning)[0], signs)):
        y = (page_mm[1] - 4.5) * POINTS - line * WARN_PT * 1.15
        canvas.drawString(MARGIN_MM * POINTS, y, words)
    canvas.restoreState()


def registered() -> Any:
    """The shipped font, registered with the PDF library."""
    from reportlab.pdfbase import pdfmetrics
    from reportlab.pdfbase.ttfonts import TTFont

    if FONT not in pdfmetrics.getRegisteredFontNames():
        data = (resources.files("lumvak") / "data" / "fonts" / FONT_FILE).read_bytes()
        pdfmetrics.registerFont(TTFont(FONT, io.BytesIO(data)))
    return pdfmetrics.getFont(FONT)


def printable(text: str) -> tuple[str, list[str]]:
    """A text as the font can show it, and the characters that it lacks, by their numbers."""
    known = registered().face.charToGlyph
    lacking = [sign for sign in dict.fromkeys(text) if ord(sign) not in known]
    for sign in lacking:
        text = text.replace(sign, MISSING)
    return text, [f"U+{ord(sign):04X}" for sign in lacking]
