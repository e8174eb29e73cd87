"""The placing sheet: which cell sits where, both sides drawn, a box to tick for each."""

from __future__ import annotations

import io
from typing import Any

import numpy as np

from lumvak.core.arrangement.layout import FACE_A, FACE_NAMES, Layout
from lumvak.core.evaluation import Evaluation
from lumvak.core.units import say
from lumvak.files.export.pdf import (
    FONT,
    FOOT_MM,
    MARGIN_MM,
    PAPERS_MM,
    POINTS,
    printable,
    registered,
)
from lumvak.files.problem import FileProblem

DRAWN_MM, GAP_MM, ROW_MM, HEAD_MM, COLUMN_MM = 62.0, 6.0, 5.2, 10.0, 44.0
BOX_MM = 3.0


def placing_pdf(seen: Evaluation, title: str, paper: str = "a4") -> bytes:
    """Both sides with the numbers of the cells, then every group as a column of boxes to tick.

    Raises FileProblem where no cell has its place.
    """
    from reportlab.pdfgen.canvas import Canvas

    placed = {item.cell: item.number for item in seen.project.hand.placed}
    if not placed:
        raise FileProblem("no cell in hand has its place; deal the groups and take them first")
    registered()
    out = io.BytesIO()
    canvas = Canvas(out, pageCompression=0, invariant=1)
    canvas.setTitle(title)
    page = _Page(canvas, PAPERS_MM[paper], f"{title}: cells to their places")
    layout = seen.table.layout
    for layer in sorted({int(item) for item in layout.layer}):
        for face in (FACE_A, 1 - FACE_A):
            page.draw(layout, layer, face, placed)
    for group in seen.matched.groups:
        rest = "" if group.volts is None else f", rests at {say(group.volts, 'V')}"
        charge = "" if group.ah is None else f", {say(group.ah, 'Ah')}"
        names = [name for name in placed if name.startswith(f"g{group.number}c")]
        seats = [(name, placed[name]) for name in sorted(names, key=_seat)]
        page.tick(f"Group {group.number}{charge}{rest}", seats)
    page.end()
    canvas.save()
    return out.getvalue()


def _seat(name: str) -> int:
    return int(name.partition("c")[2])


class _Page:
    """Fills pages from the top; goes on with a next one where there is no room."""

    def __init__(self, canvas: Any, size_mm: tuple[float, float], title: str) -> None:
        self.canvas, self.size_mm = canvas, size_mm
        self.title, self.lacking = printable(title)
        self.count = 0
        self.down = 0.0
        self._begin()

    def _begin(self) -> None:
        wide, tall = self.size_mm
        self.count += 1
        self.canvas.setPageSize((wide * POINTS, tall * POINTS))
        self.canvas.setFont(FONT, 13)
        self._text(MARGIN_MM, MARGIN_MM + 4.0, self.title)
        self.canvas.setFont(FONT, 8)
        self._text(MARGIN_MM, tall - MARGIN_MM, f"page {self.count}. Cover every pole that is not "
                   "worked on; compare the number on the wrapper, then tick.")  # fmt: skip
        self.down = MARGIN_MM + HEAD_MM

    def _text(self, x_mm: float, y_mm: float, text: str) -> None:
        self.canvas.drawString(x_mm * POINTS, (self.size_mm[1] - y_mm) * POINTS, text)

    def _room(self, wanted_mm: float) -> None:
        if self.down + wanted_mm > self.size_mm[1] - MARGIN_MM - FOOT_MM / 2.0:
            self.canvas.showPage()
            self._begin()

    def draw(self, layout: Layout, layer: int, face: int, placed: dict[str, int]) -> None:
        """One side of one layer, as large as the page is wide and no higher than DRAWN_MM."""
        here = np.flatnonzero(layout.layer == layer)
        x, y, half = layout.x_mm[here], layout.y_mm[here], layout.half_mm[here, :2]
        left, top = float((x - half[:, 0]).min()), float((y - half[:, 1]).min())
        wide = float((x + half[:, 0]).max()) - left
        tall = float((y + half[:, 1]).max()) - top
        scale = min((self.size_mm[0] - 2.0 * MARGIN_MM) / wide, DRAWN_MM / tall)
        self._room(tall * scale + 2.0 * GAP_MM)
        self.canvas.setFont(FONT, 9)
        words = FACE_NAMES[face] + (f", layer {layer + 1}" if layout.layer.max() > 0 else "")
        self._text(MARGIN_MM, self.down + 3.0, words)
        begin = self.down + GAP_MM
        self.canvas.setLineWidth(0.5)
        for cell, cx, cy, (across, up) in zip(here.tolist(), x, y, half, strict=True):
            # Side B is seen turned over.
            along = float(cx) - left if face == FACE_A else wide - (float(cx) - left)
            at_x = MARGIN_MM + along * scale
            at_y = begin + (float(cy) - top) * scale
            self._cell(at_x, at_y, float(across) * scale, float(up) * scale,
                       str(placed.get(layout.name[cell], "")))  # fmt: skip
        self.down = begin + tall * scale + GAP_MM

    def _cell(self, x: float, y: float, half_x: float, half_y: float, number: str) -> None:
        flipped = (self.size_mm[1] - y) * POINTS
        box = (x - half_x) * POINTS, flipped - half_y * POINTS
        self.canvas.ellipse(*box, (x + half_x) * POINTS, flipped + half_y * POINTS)
        size = min(10.0, 2.6 * min(half_x, half_y) * POINTS / max(len(number), 2))
        self.canvas.setFont(FONT, size)
        self.canvas.drawCentredString(x * POINTS, flipped - 0.35 * size, number)

    def tick(self, head: str, seats: list[tuple[str, int]]) -> None:
        """A group: its head, and a box, a place and a number for each of its cells."""
        across = max(1, int((self.size_mm[0] - 2.0 * MARGIN_MM) // COLUMN_MM))
        rows = -(-len(seats) // across)
        self._room(ROW_MM * (rows + 1) + GAP_MM)
        self.canvas.setFont(FONT, 10)
        self._text(MARGIN_MM, self.down + 4.0, head)
        self.down += ROW_MM
        self.canvas.setFont(FONT, 10)
        for place, (name, number) in enumerate(seats):
            row, column = divmod(place, across)
            x, y = MARGIN_MM + column * COLUMN_MM, self.down + (row + 0.8) * ROW_MM
            low = (self.size_mm[1] - y) * POINTS
            self.canvas.rect(x * POINTS, low, BOX_MM * POINTS, BOX_MM * POINTS)
            self._text(x + BOX_MM + 2.0, y, f"{name}: {number}")
        self.down += rows * ROW_MM + GAP_MM / 2.0

    def end(self) -> None:
        """Close the last page."""
        self.canvas.showPage()
