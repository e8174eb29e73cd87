"""The wiring sheet: bricks in their place, wires with their numbers, plugs, adapter, sensors."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterator, Sequence
from itertools import pairwise
from textwrap import wrap
from xml.sax.saxutils import escape

import numpy as np
from msgspec import Struct

from lumvak.core.arrangement.layout import FACE_A, FACE_B, FACE_NAMES, Layout
from lumvak.core.evaluation import Evaluation, guides_in_hand, harness_in_hand
from lumvak.core.said import say
from lumvak.core.spelling import PLAIN, Spelling, spoken
from lumvak.core.taps.guide import TapGuide, order_said
from lumvak.core.taps.harness import Harness
from lumvak.files.export.pdf import (
    FONT,
    MARGIN_MM,
    PAPERS_MM,
    POINTS,
    cut_to,
    printable,
    registered,
    warn,
)
from lumvak.files.export.warning import WARNING
from lumvak.files.spreadsheet import harmless

DRAWN_MM, ROW_MM, TEXT_MM, HEAD_MM, SMALL_MM = 60.0, 5.0, 3.0, 9.0, 2.2
# So many signs of a line fit on the narrowest paper.
WIDE_SIGNS = 112
INK, SOFT, LINE = "#22303A", "#5A676F", "#9E4825"
HEADS = ("wire", "brick", "plug", "pin", "joint", "sits on", "side", "colour", "length", "board")
COLUMNS_MM = (0.0, 12.0, 42.0, 52.0, 61.0, 72.0, 94.0, 109.0, 131.0, 152.0)
CSV_HEADS = (
    "wire", "brick", "plug", "pin", "joint", "terminal", "side", "colour", "section_mm2",
    "length_mm", "board_plug", "board_pin", "expected_v",
)  # fmt: skip


class Mark(Struct, frozen=True):
    """A text, a circle or a line of a block, in mm from its left and top."""

    points: tuple[tuple[float, float], ...]
    text: str = ""
    size_mm: float = TEXT_MM
    radius_mm: float = 0.0
    colour: str = INK
    middle: bool = False


class PageBlock(Struct, frozen=True):
    """What is kept together on a page: how high it is, and its marks."""

    height_mm: float
    marks: tuple[Mark, ...]


def _blocks(evaluation: Evaluation, width_mm: float, spelling: Spelling) -> Iterator[PageBlock]:
    """Everything on the sheet from the top: sides with bricks and leads, wires, sensors."""
    guides = guides_in_hand(evaluation)
    harness, order = harness_in_hand(evaluation, guides), order_said(evaluation.sized.boards.board)
    layout = evaluation.laid_out.joined_pack.layout
    for face in (FACE_A, FACE_B):
        yield _side(layout, harness, guides, face, width_mm)
    section = spoken(say(harness.area_mm2, "mm²"), spelling)
    whole = spoken(say(sum(wire.length_mm for wire in harness.wires) / 1e3, "m"), spelling)
    yield _line(f"{len(harness.wires)} wires of {section}, {whole} in all", 2.0)
    yield _row(HEADS, SOFT)
    for wire in harness.wires:
        yield _row(
            (
                str(wire.number),
                harness.modules[wire.module].name,
                str(wire.plug),
                str(wire.pin),
                str(wire.joint),
                wire.place,
                wire.side,
                wire.colour,
                spoken(say(wire.length_mm, "mm"), spelling),
                _board_said(wire.board_pin, wire.board_plug),
            )
        )
    yield from _plugs(harness)
    yield _line(order, 3.0)
    for place, sensor in enumerate(harness.sensors, 1):
        yield _line(f"Sensor T{place} at {sensor.cell}, {spoken(sensor.why, spelling)}")
    yield _line("Cover each bare end before the next is stripped; the plug stays out until checked")


def _plugs(harness: Harness) -> Iterator[PageBlock]:
    """Pins of every plug as its wires see them, and of the half that faces it, turned round."""
    yield _line("Plugs, by the tap of each pin", 3.0)
    for at, module in enumerate(harness.modules):
        for plug in range(1, module.plugs + 1):
            pins = [
                f"{wire.pin}: tap {wire.joint} {wire.colour}"
                for wire in harness.wires
                if (wire.module, wire.plug) == (at, plug)
            ]
            if pins:
                name = f"{module.name}, plug {plug}"
                for words, shown in (
                    (f"{name}, from its wires", pins),
                    (f"{name}, the half that faces it", pins[::-1]),
                ):
                    yield from _wrapped(f"{words}:  {'  |  '.join(shown)}")


def _wrapped(text: str) -> Iterator[PageBlock]:
    for line in wrap(text, WIDE_SIGNS, subsequent_indent="      "):
        yield _line(line)


def _board_said(pin: str, plug: int) -> str:
    if not pin:
        return "none: capped"
    return pin if plug <= 1 else f"plug {plug}, {pin}"


def _line(text: str, above_mm: float = 0.0) -> PageBlock:
    return PageBlock(ROW_MM + above_mm, (Mark(((0.0, above_mm + ROW_MM - 1.5),), text),))


def _row(cells: Sequence[str], colour: str = INK) -> PageBlock:
    marks = tuple(
        Mark(((x, ROW_MM - 1.5),), text, colour=colour)
        for x, text in zip(COLUMNS_MM, cells, strict=True)
    )
    rule = Mark(((0.0, ROW_MM), (COLUMNS_MM[-1] + 30.0, ROW_MM)), colour="#DCD4C3")
    return PageBlock(ROW_MM, (*marks, rule))


def _side(
    layout: Layout, harness: Harness, guides: Sequence[TapGuide], face: int, width_mm: float
) -> PageBlock:
    """One side with its cells, bricks, leads and measures; side B is seen turned over."""
    half = layout.half_mm[:, :2]
    left = float((layout.x_mm - half[:, 0]).min())
    top = float((layout.y_mm - half[:, 1]).min())
    wide = float((layout.x_mm + half[:, 0]).max()) - left
    tall = float((layout.y_mm + half[:, 1]).max()) - top
    scale = min((width_mm - 20.0) / wide, DRAWN_MM / tall)
    down, names = HEAD_MM, [str(name) for name in layout.name]

    def at(x: float, y: float) -> tuple[float, float]:
        along = x - left if face == FACE_A else wide - (x - left)
        return along * scale, down + (y - top) * scale

    marks = [Mark(((0.0, 4.0),), f"{FACE_NAMES[face]}, {wide:.0f} × {tall:.0f} mm")]
    here = np.flatnonzero(layout.layer == 0).tolist()
    marks += [
        Mark(
            (at(float(layout.x_mm[cell]), float(layout.y_mm[cell])),),
            radius_mm=float(half[cell].min()) * scale,
            colour=SOFT,
        )
        for cell in here
    ]
    for module in harness.modules:
        x, y, length, width = module.box_mm
        corners = ((x, y), (x + length, y), (x + length, y + width), (x, y + width), (x, y))
        marks.append(Mark(tuple(at(*corner) for corner in corners), colour=LINE))
        near = min(at(x, y)[0], at(x + length, y)[0])
        words = f"{module.name}: groups {module.first + 1} to {module.last}"
        marks.append(Mark(((near, down - 1.0),), words, SMALL_MM, colour=LINE))
    for guide in guides:
        if layout.face[guide.terminal] == face and layout.layer[guide.terminal // 2] == 0:
            x, y = at(*(float(value) for value in layout.terminal_mm[guide.terminal][:2]))
            marks.append(Mark(((x, y),), radius_mm=0.8, colour=LINE))
            marks.append(Mark(((x, y - 1.2),), str(guide.number), SMALL_MM, middle=True))
    for place, sensor in enumerate(harness.sensors, 1):
        cell = names.index(sensor.cell)
        if layout.layer[cell] == 0:
            spot = at(float(layout.x_mm[cell]), float(layout.y_mm[cell]))
            marks.append(Mark(((spot[0], spot[1] + 3.0),), f"T{place}", TEXT_MM, middle=True))
    return PageBlock(down + tall * scale + 4.0, tuple(marks))


def wiring_svg(
    evaluation: Evaluation,
    title: str,
    paper: str = "a4",
    warning: str = "",
    spelling: Spelling = PLAIN,
) -> str:
    """The wiring sheet as one tall SVG in millimetres, a ``warning`` at its top."""
    wide = PAPERS_MM[paper][0]
    out, down = [], MARGIN_MM + HEAD_MM
    for block in _blocks(evaluation, wide - 2.0 * MARGIN_MM, spelling):
        out += [_svg(mark, MARGIN_MM, down) for mark in block.marks]
        down += block.height_mm
    high = down + MARGIN_MM
    head = _svg(Mark(((0.0, 0.0),), title, 4.5), MARGIN_MM, MARGIN_MM + 3.0)
    if warning:
        told = Mark(((0.0, 0.0),), warning, TEXT_MM, colour=WARNING)
        head += "\n" + _svg(told, MARGIN_MM, 6.0)
    return (
        '<?xml version="1.0" encoding="UTF-8"?>\n'
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{wide:g}mm" height="{high:.1f}mm" '
        f'viewBox="0 0 {wide:g} {high:.1f}">\n<title>{escape(title)}</title>\n'
        + "\n".join([head, *out])
        + "\n</svg>\n"
    )


def _svg(mark: Mark, x_mm: float, y_mm: float) -> str:
    points = [(x + x_mm, y + y_mm) for x, y in mark.points]
    x, y = points[0]
    if mark.text:
        anchor = "middle" if mark.middle else "start"
        return (
            f'<text x="{x:.2f}" y="{y:.2f}" font-size="{mark.size_mm:g}" fill="{mark.colour}" '
            f'text-anchor="{anchor}" font-family="sans-serif">{escape(mark.text)}</text>'
        )
    style = f'fill="none" stroke="{mark.colour}" stroke-width="0.25"'
    if mark.radius_mm:
        return f'<circle cx="{x:.2f}" cy="{y:.2f}" r="{mark.radius_mm:.2f}" {style}/>'
    return f'<polyline points="{" ".join(f"{a:.2f},{b:.2f}" for a, b in points)}" {style}/>'


def wiring_pdf(
    evaluation: Evaluation,
    title: str,
    paper: str = "a4",
    warning: str = "",
    spelling: Spelling = PLAIN,
) -> bytes:
    """The wiring sheet as PDF pages; what belongs together is not parted.

    A ``warning`` stands on each.
    """
    from reportlab.lib.colors import HexColor
    from reportlab.pdfgen.canvas import Canvas

    registered()
    wide, tall = PAPERS_MM[paper]
    out = io.BytesIO()
    canvas = Canvas(out, pagesize=(wide * POINTS, tall * POINTS), pageCompression=0, invariant=1)
    canvas.setTitle(title)
    page, down = 0, tall
    for block in _blocks(evaluation, wide - 2.0 * MARGIN_MM, spelling):
        if down + block.height_mm > tall - MARGIN_MM - ROW_MM:
            if page:
                canvas.showPage()
            page, down = page + 1, MARGIN_MM + HEAD_MM
            warn(canvas, (wide, tall), warning)
            canvas.setFillColor(HexColor(INK))
            canvas.setFont(FONT, 4.5 * POINTS)
            canvas.drawString(
                MARGIN_MM * POINTS,
                (tall - MARGIN_MM - 3.0) * POINTS,
                cut_to(printable(title)[0], 4.5 * POINTS, wide - 2.0 * MARGIN_MM - 20.0)
                + f", page {page}",
            )
        for mark in block.marks:
            points = [
                ((x + MARGIN_MM) * POINTS, (tall - y - down) * POINTS) for x, y in mark.points
            ]
            canvas.setFillColor(HexColor(mark.colour))
            canvas.setStrokeColor(HexColor(mark.colour))
            canvas.setLineWidth(0.25 * POINTS)
            if mark.text:
                canvas.setFont(FONT, mark.size_mm * POINTS)
                write = canvas.drawCentredString if mark.middle else canvas.drawString
                write(*points[0], printable(mark.text)[0])
            elif mark.radius_mm:
                canvas.circle(*points[0], mark.radius_mm * POINTS)
            else:
                for one, other in pairwise(points):
                    canvas.line(*one, *other)
        down += block.height_mm
    canvas.save()
    return out.getvalue()


def wiring_csv(evaluation: Evaluation) -> str:
    """The wires as a table, safe in a spreadsheet."""
    guides = guides_in_hand(evaluation)
    harness = harness_in_hand(evaluation, guides)
    out = io.StringIO()
    write = csv.writer(out, lineterminator="\n").writerow
    write(CSV_HEADS)
    for wire in harness.wires:
        row = (
            wire.number,
            harmless(harness.modules[wire.module].name),
            wire.plug,
            wire.pin,
            wire.joint,
            wire.place,
            wire.side,
            harmless(wire.colour),
            harness.area_mm2,
            round(wire.length_mm, 1),
            wire.board_plug or "",
            harmless(wire.board_pin),
            round(guides[wire.joint].expected_v, 3),
        )
        write(row)
    return out.getvalue()
