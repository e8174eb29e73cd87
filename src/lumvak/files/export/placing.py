"""The placing sheet: which cell sits where, both sides drawn, a box to tick for each."""

from __future__ import annotations

import io
import math
from typing import Any

import numpy as np

from lumvak.core.arrangement.layout import FACE_A, FACE_B, FACE_NAMES, Layout
from lumvak.core.evaluation import Evaluation
from lumvak.core.said import say
from lumvak.core.spelling import PLAIN, Spelling, spoken
from lumvak.files.export.pdf import (
    FONT,
    FOOT_MM,
    MARGIN_MM,
    PAPERS_MM,
    POINTS,
    cut_to,
    printable,
    registered,
    warn,
)
from lumvak.files.problem import FileProblem

DRAWN_MM, GAP_MM, ROW_MM, HEAD_MM, COLUMN_MM = 62.0, 6.0, 5.2, 10.0, 44.0
BOX_MM, POLE_MM = 3.0, 0.7
# No number is smaller; its height in halves of a cell, over its signs.
LEAST_PT, SIGN_SHARE = 7.0, 2.6


def placing_pdf(
    evaluation: Evaluation,
    title: str,
    paper: str = "a4",
    warning: str = "",
    spelling: Spelling = PLAIN,
) -> bytes:
    """Both sides with the numbers of the cells, then every group as a column of boxes to tick.

    Where numbers would be too small to read a side goes over several parts. A ``warning`` stands on
    every page. Raises FileProblem where no cell has its place.
    """
    from reportlab.pdfgen.canvas import Canvas

    placed = {item.cell: item.number for item in evaluation.project.hand.placed}
    if not placed:
        raise FileProblem("no cell in hand has its place; assign the groups and use them first")
    registered()
    out = io.BytesIO()
    canvas = Canvas(out, pageCompression=0, invariant=1)
    canvas.setTitle(title)
    page = _Page(canvas, PAPERS_MM[paper], title, warning)
    layout = evaluation.laid_out.joined_pack.layout
    for layer in sorted({int(item) for item in layout.layer}):
        for face in (FACE_A, 1 - FACE_A):
            page.draw(layout, layer, face, placed)
    for group in evaluation.sized.in_hand.groups:
        rest = (
            "" if group.volts is None else f", rests at {spoken(say(group.volts, 'V'), spelling)}"
        )
        charge = "" if group.ah is None else f", {spoken(say(group.ah, 'Ah'), spelling)}"
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

    def __init__(self, canvas: Any, size_mm: tuple[float, float], title: str, warning: str) -> None:
        self.canvas, self.size_mm, self.warning = canvas, size_mm, warning
        room = size_mm[0] - 2.0 * MARGIN_MM - 50.0
        self.title = cut_to(printable(title)[0], 13, room) + ": cells to their places"
        self.count = 0
        self.down = 0.0
        self._begin()

    def _begin(self) -> None:
        wide, tall = self.size_mm
        self.count += 1
        self.canvas.setPageSize((wide * POINTS, tall * POINTS))
        warn(self.canvas, self.size_mm, self.warning)
        self.canvas.setFont(FONT, 13)
        self._text(MARGIN_MM, MARGIN_MM + 4.0, self.title)
        self.canvas.setFont(FONT, 8)
        self._text(
            MARGIN_MM,
            tall - MARGIN_MM,
            f"page {self.count}. Cover every pole that is not "
            "worked on; compare the number on the wrapper, then tick.",
        )
        self.down = MARGIN_MM + HEAD_MM

    def _text(self, x_mm: float, y_mm: float, text: str) -> None:
        self.canvas.drawString(x_mm * POINTS, (self.size_mm[1] - y_mm) * POINTS, text)

    def _room(self, wanted_mm: float) -> None:
        if self.down + wanted_mm > self.size_mm[1] - MARGIN_MM - FOOT_MM / 2.0:
            self.canvas.showPage()
            self._begin()

    def draw(self, layout: Layout, layer: int, face: int, placed: dict[str, int]) -> None:
        """One side of one layer, as large as the page is wide and no higher than DRAWN_MM.

        Where a number would be under LEAST_PT it is drawn larger, in parts.
        """
        here = np.flatnonzero(layout.layer == layer)
        x, y, half = layout.x_mm[here], layout.y_mm[here], layout.half_mm[here, :2]
        left, top = float((x - half[:, 0]).min()), float((y - half[:, 1]).min())
        wide = float((x + half[:, 0]).max()) - left
        tall = float((y + half[:, 1]).max()) - top
        digits = max([2, *(len(str(placed.get(layout.name[cell], ""))) for cell in here.tolist())])
        readable = LEAST_PT * digits / (SIGN_SHARE * POINTS) / float(half.min())
        room_x = self.size_mm[0] - 2.0 * MARGIN_MM
        room_y = self.size_mm[1] - 2.0 * MARGIN_MM - HEAD_MM - FOOT_MM / 2.0 - 2.0 * GAP_MM
        scale = max(min(room_x / wide, DRAWN_MM / tall), readable)
        # Seen turned over, side B runs the other way.
        along = (x - left if face == FACE_A else wide - (x - left)) * scale
        down = (y - top) * scale
        columns = max(1, math.ceil(wide * scale / room_x - 1e-9))
        rows = max(1, math.ceil(tall * scale / room_y - 1e-9))
        part_x, part_y = wide * scale / columns, tall * scale / rows
        words = FACE_NAMES[face] + (f", layer {layer + 1}" if layout.layer.max() > 0 else "")
        parts = [(row, column) for row in range(rows) for column in range(columns)]
        for number, (row, column) in enumerate(parts, 1):
            inside = (np.clip(along // part_x, 0, columns - 1) == column) & (
                np.clip(down // part_y, 0, rows - 1) == row
            )
            if not inside.any():
                continue
            which = f", part {number} of {len(parts)}" if len(parts) > 1 else ""
            # Cells on the seam reach beyond their part.
            shift = half.max() * scale if len(parts) > 1 else 0.0
            self._room(part_y + 2.0 * GAP_MM + 2.0 * shift)
            self.canvas.setFont(FONT, 9)
            self._text(MARGIN_MM, self.down + 3.0, words + which)
            begin = self.down + GAP_MM + shift
            self.canvas.setLineWidth(0.5)
            for at in np.flatnonzero(inside).tolist():
                cell = int(here[at])
                place = (
                    MARGIN_MM + float(along[at]) - column * part_x,
                    begin + float(down[at]) - row * part_y,
                )
                self._cell(layout, cell, face, place, scale, placed)
            self.down = begin + part_y + shift + GAP_MM

    def _cell(
        self,
        layout: Layout,
        cell: int,
        face: int,
        place: tuple[float, float],
        scale: float,
        placed: dict[str, int],
    ) -> None:
        """One cell as it is seen: its outline, the poles on this side, its number."""
        x, y = place
        half_x, half_y = (float(value) * scale for value in layout.half_mm[cell, :2])
        flipped = (self.size_mm[1] - y) * POINTS
        low = (x - half_x) * POINTS, flipped - half_y * POINTS
        seen_from_end = layout.cell.diameter_mm is not None and layout.axis[cell] == 0
        if seen_from_end:
            self.canvas.ellipse(*low, (x + half_x) * POINTS, flipped + half_y * POINTS)
        else:
            self.canvas.rect(*low, 2.0 * half_x * POINTS, 2.0 * half_y * POINTS)
        number = str(placed.get(layout.name[cell], ""))
        size = min(10.0, SIGN_SHARE * min(half_x, half_y) * POINTS / max(len(number), 2))
        size = max(size, LEAST_PT)
        self.canvas.setFont(FONT, size)
        # Under its pole.
        lower = 0.18 * half_y * POINTS if seen_from_end else 0.0
        self.canvas.drawCentredString(x * POINTS, flipped - 0.35 * size - lower, number)
        for terminal in (2 * cell, 2 * cell + 1):
            if layout.face[terminal] == (FACE_B if face == FACE_A else FACE_A):
                continue
            over_x, over_y = (
                float(layout.terminal_mm[terminal, axis] - (layout.x_mm, layout.y_mm)[axis][cell])
                * scale
                for axis in (0, 1)
            )
            if face != FACE_A:
                over_x = -over_x
            if abs(over_x) + abs(over_y) < 0.1:
                # Over the number, where a round cell is seen from its end.
                over_y = -0.74 * half_y
            self._pole(x + 0.9 * over_x, y + 0.9 * over_y, terminal % 2 == 0)

    def _pole(self, x: float, y: float, positive: bool) -> None:
        """A cross for a positive end, a bar for a negative one."""
        at_x, at_y, arm = x * POINTS, (self.size_mm[1] - y) * POINTS, POLE_MM * POINTS
        self.canvas.line(at_x - arm, at_y, at_x + arm, at_y)
        if positive:
            self.canvas.line(at_x, at_y - arm, at_x, at_y + arm)

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
