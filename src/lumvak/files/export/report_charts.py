"""Charts of a report as marks in points, drawn alike in PDF and HTML."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from html import escape
from typing import Literal

import numpy as np
from msgspec import Struct

from lumvak.core.record_of_pack.report_charts import Band, CourseChart
from lumvak.core.spelling import Spelling, spoken

Point = tuple[float, float]
INK, SOFT, LINE = "#22303A", "#5A676F", "#D8D3C6"
FAR, NEAR, IN, OUT = "#E4EEEA", "#9FC5BB", "#1F6F66", "#A3262C"
# Heights in points: a band with its words, a course, and its margins.
ROW_PT, BAR_PT, HIGH_PT, LEFT_PT, FOOT_PT, TOP_PT = 26.0, 7.0, 170.0, 34.0, 26.0, 18.0
TEXT_PT = 8.0
TICKS = 5


class ChartMark(Struct, frozen=True):
    """A mark: its kind, places from the upper left, colour; a text starts, ends or is centred."""

    kind: Literal["area", "line", "dot", "text"]
    points: tuple[Point, ...]
    colour: str
    text: str = ""
    anchor: Literal["start", "middle", "end"] = "start"


class Chart(Struct, frozen=True):
    """A chart: its size in points, and its marks, the later ones over the earlier."""

    wide: float
    high: float
    marks: tuple[ChartMark, ...]


def bands_chart(bands: Sequence[Band], wide: float, spelling: Spelling) -> Chart:
    """A row for each figure: what is expected, and the reading on it."""
    marks = [
        mark for place, it in enumerate(bands) for mark in _row(it, place * ROW_PT, wide, spelling)
    ]
    return Chart(wide, len(bands) * ROW_PT + 4.0, tuple(marks))


def _row(band: Band, top: float, wide: float, spelling: Spelling) -> Iterator[ChartMark]:
    words, low = top + 10.0, top + 14.0
    colour = IN if band.is_inside else OUT
    yield ChartMark("text", ((0.0, words),), INK, spoken(band.label, spelling))
    yield ChartMark("text", ((wide, words),), colour, spoken(band.said, spelling), "end")
    for left, right, shade in ((band.far_low, band.far_high, FAR), (band.low, band.high, NEAR)):
        yield ChartMark("area", _box(left * wide, right * wide, low, low + BAR_PT), shade)
    middle = low + 0.5 * BAR_PT
    yield ChartMark("line", ((0.0, middle), (wide, middle)), LINE)
    yield ChartMark("dot", ((min(max(band.at * wide, 4.0), wide - 4.0), middle),), colour)


def _box(left: float, right: float, top: float, foot: float) -> tuple[Point, ...]:
    return ((left, top), (right, top), (right, foot), (left, foot))


def course_chart(course: CourseChart, wide: float, spelling: Spelling) -> Chart:
    """A band over its axes, with the readings on it."""
    every_x = np.concatenate((course.x, course.at_x))
    every_y = np.concatenate((course.low, course.high, course.at_y))
    x0, x1 = 0.0, float(every_x.max()) or 1.0
    low, high = float(every_y.min()), float(every_y.max())
    spare = 0.06 * (high - low) or 1.0
    y0, y1 = (0.0 if low >= 0.0 and low < 0.2 * high else low - spare), high + spare

    def at(x: float, y: float) -> Point:
        across = LEFT_PT + (x - x0) / (x1 - x0) * (wide - LEFT_PT - 6.0)
        down = HIGH_PT - FOOT_PT - (y - y0) / (y1 - y0) * (HIGH_PT - FOOT_PT - TOP_PT)
        return float(across), float(down)

    marks = [ChartMark("text", ((0.0, 10.0),), INK, spoken(course.title, spelling))]
    for value in _ticks(y0, y1):
        marks.append(ChartMark("line", (at(x0, value), at(x1, value)), LINE))
        place = (LEFT_PT - 4.0, at(x0, value)[1] + 3.0)
        marks.append(ChartMark("text", (place,), SOFT, f"{value:g}", "end"))
    for value in _ticks(x0, x1):
        place = (at(value, y0)[0], HIGH_PT - FOOT_PT + 11.0)
        marks.append(ChartMark("text", (place,), SOFT, f"{value:g}", "middle"))
    middle = (0.5 * (LEFT_PT + wide), HIGH_PT - 3.0)
    marks.append(ChartMark("text", (middle,), SOFT, course.x_label, "middle"))
    marks.append(ChartMark("text", ((LEFT_PT - 4.0, TOP_PT + 4.0),), SOFT, course.y_label, "end"))
    upper = [at(float(x), float(y)) for x, y in zip(course.x, course.high, strict=True)]
    lower = [at(float(x), float(y)) for x, y in zip(course.x, course.low, strict=True)]
    if upper == lower:
        marks.append(ChartMark("line", tuple(upper), NEAR))
    else:
        marks.append(ChartMark("area", (*upper, *reversed(lower)), NEAR))
    read = zip(course.at_x, course.at_y, strict=True)
    marks += [ChartMark("dot", (at(float(x), float(y)),), IN) for x, y in read]
    return Chart(wide, HIGH_PT, tuple(marks))


def _ticks(low: float, high: float) -> Iterator[float]:
    """Round numbers between two, about TICKS of them."""
    rough = (high - low) / TICKS
    size = 10.0 ** math.floor(math.log10(rough))
    step = next(it * size for it in (1.0, 2.0, 5.0, 10.0) if it * size >= rough)
    for number in range(math.ceil(low / step - 1e-9), math.floor(high / step + 1e-9) + 1):
        yield round(number * step, 10)


def chart_svg(chart: Chart, name: str) -> str:
    """A chart as SVG within a page."""
    marks = "".join(map(_svg, chart.marks))
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" role="img" aria-label="{escape(name)}" '
        f'viewBox="0 0 {chart.wide:g} {chart.high:g}" font-family="Barlow, sans-serif" '
        f'font-size="{TEXT_PT:g}">{marks}</svg>'
    )


def _svg(mark: ChartMark) -> str:
    x, y = mark.points[0]
    if mark.kind == "text":
        return (
            f'<text x="{x:.2f}" y="{y:.2f}" fill="{mark.colour}" text-anchor="{mark.anchor}">'
            f"{escape(mark.text)}</text>"
        )
    if mark.kind == "dot":
        return f'<circle cx="{x:.2f}" cy="{y:.2f}" r="2" fill="{mark.colour}"/>'
    points = " ".join(f"{x:.2f},{y:.2f}" for x, y in mark.points)
    if mark.kind == "line":
        return f'<polyline points="{points}" fill="none" stroke="{mark.colour}"/>'
    return f'<polygon points="{points}" fill="{mark.colour}"/>'
