"""Charts as marks: they lie in their size, and say what they show."""

import xml.etree.ElementTree as ET

import numpy as np
import pytest

from lumvak.core.record_of_pack.report_charts import Band, CourseChart
from lumvak.core.spelling import PLAIN
from lumvak.files.export.report_charts import (
    ROW_PT,
    Chart,
    bands_chart,
    chart_svg,
    course_chart,
)

BAND = Band("Across the fuse", "2 mΩ, expected 1.9 mΩ: inside", 0.3, 0.7, 0.2, 0.8, 0.5, True)
COURSE = CourseChart(
    "A course",
    "minutes",
    "V",
    x=np.array([0.0, 30.0, 60.0]),
    low=np.array([48.0, 47.0, 40.0]),
    high=np.array([50.0, 48.0, 44.0]),
    at_x=np.array([0.0, 60.0]),
    at_y=np.array([49.0, 42.0]),
)


def within(chart: Chart) -> bool:
    places = [point for mark in chart.marks for point in mark.points]
    return all(0.0 <= x <= chart.wide and 0.0 <= y <= chart.high for x, y in places)


def test_a_band_has_its_words_and_its_reading_in_the_middle() -> None:
    chart = bands_chart([BAND, BAND], 400.0, PLAIN)
    assert within(chart) and chart.high > 2.0 * ROW_PT
    dots = [mark for mark in chart.marks if mark.kind == "dot"]
    assert [mark.points[0][0] for mark in dots] == [200.0, 200.0]
    assert dots[1].points[0][1] - dots[0].points[0][1] == ROW_PT
    assert "Across the fuse" in [mark.text for mark in chart.marks]


def test_a_course_has_axes_with_units_and_readings_between_its_edges() -> None:
    chart = course_chart(COURSE, 400.0, PLAIN)
    assert within(chart)
    words = [mark.text for mark in chart.marks if mark.kind == "text"]
    assert {"minutes", "V", "A course", "0", "60"} <= set(words)
    (area,) = (mark for mark in chart.marks if mark.kind == "area")
    dots = [mark.points[0] for mark in chart.marks if mark.kind == "dot"]
    upper, lower = area.points[:3], area.points[5:2:-1]
    for (x, y), place in zip(dots, (0, 2), strict=True):
        assert upper[place][0] == pytest.approx(x) == lower[place][0]
        assert upper[place][1] < y < lower[place][1]


def test_the_drawing_is_read_by_another_reader() -> None:
    tree = ET.fromstring(chart_svg(course_chart(COURSE, 400.0, PLAIN), 'a "name" & more'))
    kinds = [child.tag.rpartition("}")[2] for child in tree]
    assert kinds.count("circle") == 2 and kinds.count("polygon") == 1
    assert tree.attrib["aria-label"] == 'a "name" & more'
