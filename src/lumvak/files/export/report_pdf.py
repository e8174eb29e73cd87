"""A report as PDF: every page says what it is of, and whether the pack was proven."""

from __future__ import annotations

import io
from collections.abc import Iterator, Sequence
from typing import Any
from xml.sax.saxutils import escape

from reportlab.lib.colors import HexColor
from reportlab.lib.styles import ParagraphStyle
from reportlab.platypus import (
    BaseDocTemplate,
    Flowable,
    Frame,
    LongTable,
    PageTemplate,
    Paragraph,
    Spacer,
)

from lumvak.core.making.template import SideDrawing
from lumvak.core.record_of_pack.report import Report, ReportPart
from lumvak.core.said import say
from lumvak.core.spelling import PLAIN, Spelling, spoken
from lumvak.files.export.drawing import COLOURS
from lumvak.files.export.pdf import (
    FONT,
    MARGIN_MM,
    PAPERS_MM,
    POINTS,
    cut_to,
    printable,
    registered,
    width_pt,
)
from lumvak.files.export.report_charts import TEXT_PT as CHART_PT
from lumvak.files.export.report_charts import Chart, bands_chart, course_chart
from lumvak.files.export.warning import WARNING

INK, SOFT, LINE = HexColor("#22303A"), HexColor("#5A676F"), HexColor("#D8D3C6")
HEAD_MM, FOOT_MM = 12.0, 10.0
TEXT_PT, HEAD_PT, SMALL_PT = 9.0, 13.0, 8.0
# No column is narrower.
LEAST_MM = 14.0


def report_pdf(
    report: Report,
    sides: Sequence[SideDrawing],
    paper: str = "a4",
    warning: str = "",
    spelling: Spelling = PLAIN,
) -> bytes:
    """The report on ``paper``; ``warning`` is on every page of a pack that must not be built."""
    registered()
    wide, tall = (side * POINTS for side in PAPERS_MM[paper])
    margin = MARGIN_MM * POINTS
    out = io.BytesIO()
    document = BaseDocTemplate(out, pagesize=(wide, tall), title=report.title, invariant=1)
    low, high = margin + FOOT_MM * POINTS, margin + HEAD_MM * POINTS
    frame = Frame(
        x1=margin,
        y1=low,
        width=wide - 2.0 * margin,
        height=tall - low - high,
        leftPadding=0,
        rightPadding=0,
        topPadding=0,
        bottomPadding=0,
    )
    told = " ".join(filter(None, (warning, spoken(report.on_every_page, spelling))))

    def every_page(canvas: Any, _: object) -> None:
        room = PAPERS_MM[paper][0] - 2.0 * MARGIN_MM
        canvas.setFont(FONT, SMALL_PT)
        canvas.setFillColor(HexColor(WARNING))
        canvas.drawString(margin, tall - margin - 2.0, cut_to(_plain(told), SMALL_PT, room))
        canvas.setFillColor(SOFT)
        title = cut_to(_plain(report.title), SMALL_PT, room - 25.0)
        canvas.drawString(margin, margin, title)
        canvas.drawRightString(wide - margin, margin, f"page {canvas.getPageNumber()}")

    document.addPageTemplates(PageTemplate("report", frame, onPage=every_page))
    flow: list[Flowable] = [_text(report.title, HEAD_PT + 5.0), Spacer(0, 6.0)]
    for part in report.parts:
        flow += _part(part, sides, wide - 2.0 * margin, spelling)
    document.build(flow)
    return out.getvalue()


def _plain(text: str) -> str:
    return printable(text)[0]


def _text(text: str, size_pt: float = TEXT_PT, colour: Any = INK, **more: Any) -> Paragraph:
    style = ParagraphStyle(
        "text",
        fontName=FONT,
        fontSize=size_pt,
        leading=size_pt * 1.25,
        textColor=colour,
        splitLongWords=1,
        **more,
    )
    return Paragraph(escape(_plain(text)), style)


def _part(
    part: ReportPart, sides: Sequence[SideDrawing], wide: float, spelling: Spelling
) -> Iterator[Flowable]:
    yield _text(part.title, HEAD_PT, spaceBefore=12.0, spaceAfter=4.0, keepWithNext=1)
    for text in part.texts:
        yield _text(spoken(text, spelling))
    if part.figures:
        yield _rows(
            [
                (
                    spoken(it.label, spelling),
                    spoken(say(it.value, it.unit), spelling),
                    "assumed" if it.assumed else it.origin,
                )
                for it in part.figures
            ],
            (),
            wide,
        )
    if part.drawn:
        for side in sides:
            yield _DrawnSide(side, wide)
    # Rows of a chart go on with the next page.
    for first in range(0, len(part.bands), BANDS_TOGETHER):
        some = part.bands[first : first + BANDS_TOGETHER]
        yield _DrawnChart(bands_chart(some, wide, spelling))
    for course in part.courses:
        yield _DrawnChart(course_chart(course, wide, spelling))
    for table in part.tables:
        rows = [tuple(spoken(it, spelling) for it in row) for row in table.rows]
        yield _rows(rows, tuple(spoken(it, spelling) for it in table.heads), wide)
    yield Spacer(0, 4.0)


def _needs(text: str) -> float:
    """How wide a cell is on one line, with its padding."""
    return width_pt(_plain(text), TEXT_PT) + 8.0


def _rows(rows: Sequence[Sequence[str]], heads: Sequence[str], wide: float) -> LongTable:
    """A table whose columns share the width by what is in them; cells break over lines."""
    every = [*([heads] if heads else []), *rows]
    needs = [
        max(
            LEAST_MM * POINTS,
            *(_needs(row[place]) for row in every),
        )
        for place in range(len(every[0]))
    ]
    if sum(needs) > wide:
        # The narrow ones have what they need, the wide ones share the rest.
        fair = wide / len(needs)
        rest = wide - sum(it for it in needs if it <= fair)
        over = sum(it for it in needs if it > fair)
        needs = [it if it <= fair else it * rest / over for it in needs]
    body = [[_text(cell) for cell in row] for row in rows]
    head = [[_text(cell, SMALL_PT, SOFT) for cell in heads]] if heads else []
    table = LongTable([*head, *body], colWidths=needs, repeatRows=len(head), hAlign="LEFT")
    table.setStyle(
        [
            ("LINEBELOW", (0, 0), (-1, -1), 0.4, LINE),
            ("VALIGN", (0, 0), (-1, -1), "TOP"),
            ("LEFTPADDING", (0, 0), (-1, -1), 0),
            ("RIGHTPADDING", (0, 0), (-1, -1), 6),
            ("TOPPADDING", (0, 0), (-1, -1), 2),
            ("BOTTOMPADDING", (0, 0), (-1, -1), 2),
        ]
    )
    return table


class _DrawnChart(Flowable):
    """A chart, from the upper left."""

    def __init__(self, chart: Chart) -> None:
        super().__init__()
        self.chart = chart
        self.width, self.height = chart.wide, chart.high

    def wrap(self, *_: float) -> tuple[float, float]:
        return self.width, self.height

    def draw(self) -> None:
        canvas, high = self.canv, self.height
        canvas.setFont(FONT, CHART_PT)
        canvas.setLineWidth(0.7)
        for mark in self.chart.marks:
            canvas.setStrokeColor(HexColor(mark.colour))
            canvas.setFillColor(HexColor(mark.colour))
            points = [(x, high - y) for x, y in mark.points]
            if mark.kind == "text":
                write = {
                    "start": canvas.drawString,
                    "middle": canvas.drawCentredString,
                    "end": canvas.drawRightString,
                }[mark.anchor]
                write(*points[0], _plain(mark.text))
            elif mark.kind == "dot":
                canvas.circle(*points[0], 2.0, stroke=0, fill=1)
            else:
                path = canvas.beginPath()
                path.moveTo(*points[0])
                for point in points[1:]:
                    path.lineTo(*point)
                canvas.drawPath(path, stroke=mark.kind == "line", fill=mark.kind == "area")


class _DrawnSide(Flowable):
    """A side of the pack, as large as the page is wide."""

    def __init__(self, side: SideDrawing, wide: float) -> None:
        super().__init__()
        self.side = side
        self.scale = min(wide / max(side.width_mm, 1.0), MOST_TALL_PT / max(side.height_mm, 1.0))
        self.width, self.height = wide, side.height_mm * self.scale + 20.0

    def wrap(self, *_: float) -> tuple[float, float]:
        return self.width, self.height

    def draw(self) -> None:
        canvas, side, scale = self.canv, self.side, self.scale
        canvas.setFont(FONT, SMALL_PT)
        canvas.setFillColor(SOFT)
        canvas.drawString(0.0, self.height - 10.0, _plain(side.words))
        top = self.height - 16.0
        canvas.setLineWidth(0.4)
        for shape in side.shapes:
            colour = HexColor(COLOURS[shape.layer.split("_")[1]])
            canvas.setStrokeColor(colour)
            canvas.setFillColor(colour)
            points = [(x * scale, top - y * scale) for x, y in shape.points]
            if shape.text:
                canvas.setFont(FONT, max(3.0 * scale, 2.0))
                canvas.drawString(points[0][0], points[0][1] - scale, _plain(shape.text))
            elif shape.diameter_mm:
                canvas.circle(*points[0], shape.diameter_mm * scale / 2.0, stroke=1, fill=0)
            else:
                path = canvas.beginPath()
                path.moveTo(*points[0])
                for point in points[1:]:
                    path.lineTo(*point)
                if shape.closed:
                    path.close()
                canvas.drawPath(path, stroke=1, fill=0)


# So many bands stay together on a page.
BANDS_TOGETHER = 4
# A drawing takes so much of a page in height.
MOST_TALL_PT = 420.0
