"""A report as one HTML file that opens anywhere and prints."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from html import escape

from lumvak.core.figures.figure import Figure
from lumvak.core.making.template import SideDrawing
from lumvak.core.record_of_pack.report import Report, ReportPart, ReportTable
from lumvak.core.said import say
from lumvak.core.spelling import PLAIN, Spelling, spoken
from lumvak.files.export.drawing import svg_text
from lumvak.files.export.report_charts import bands_chart, chart_svg, course_chart

# Charts are drawn as wide as this, in points.
WIDE_PT = 500.0
STYLE = """
body { font: 15px/1.45 Barlow, sans-serif; color: #22303A; max-width: 60em; margin: 2em auto;
       padding: 0 1em; background: #fff }
h1 { font-size: 26px } h2 { font-size: 19px; margin-top: 2em; break-after: avoid }
table { border-collapse: collapse; width: 100%; margin: .6em 0; font-variant-numeric: tabular-nums }
th { text-align: left; font-weight: normal; color: #5A676F }
th, td { border-bottom: 1px solid #D8D3C6; padding: .22em .8em .22em 0; vertical-align: top }
tr { break-inside: avoid } .every { color: #A3262C; font-weight: 600 }
.assumed { color: #8A5A00 } svg { width: 100%; height: auto; max-height: 24cm }
@media print { body { margin: 0; max-width: none } .every { position: fixed; top: 0 }
               h1 { margin-top: 1.6em } }
"""


def report_html(
    report: Report, sides: Sequence[SideDrawing], warning: str = "", spelling: Spelling = PLAIN
) -> str:
    """The report; ``warning`` stands over it where the pack must not be built so."""
    told = " ".join(filter(None, (warning, spoken(report.on_every_page, spelling))))
    head = (
        '<!DOCTYPE html><html lang="en"><head><meta charset="utf-8">'
        f"<title>{escape(report.title)}</title><style>{STYLE}</style></head><body>"
        f"<h1>{escape(report.title)}</h1>"
    )
    every = f'<p class="every">{escape(told)}</p>' if told else ""
    parts = "".join(text for part in report.parts for text in _part(part, sides, spelling))
    return f"{head}{every}{parts}</body></html>\n"


def _part(part: ReportPart, sides: Sequence[SideDrawing], spelling: Spelling) -> Iterator[str]:
    yield f'<h2 id="{part.key}">{escape(part.title)}</h2>'
    for text in part.texts:
        yield f"<p>{escape(spoken(text, spelling))}</p>"
    if part.figures:
        rows = "".join(_figure(it, spelling) for it in part.figures)
        yield f"<table><tbody>{rows}</tbody></table>"
    if part.drawn and sides:
        drawn = svg_text(sides, part.title)
        yield drawn[drawn.index("<svg") :]
    if part.bands:
        yield chart_svg(bands_chart(part.bands, WIDE_PT, spelling), "expected and measured")
    for course in part.courses:
        name = spoken(course.title, spelling)
        yield chart_svg(course_chart(course, WIDE_PT, spelling), name)
    for table in part.tables:
        yield _table(table, spelling)


def _figure(figure: Figure, spelling: Spelling) -> str:
    label = spoken(figure.label, spelling)
    value = spoken(say(figure.value, figure.unit), spelling)
    how = "assumed" if figure.assumed else figure.origin
    mark = ' class="assumed"' if figure.assumed else ""
    key = escape(figure.key, quote=True)
    return (
        f'<tr data-key="{key}"><td>{escape(label)}</td><td>{escape(value)}</td>'
        f"<td{mark}>{escape(how)}</td></tr>"
    )


def _table(table: ReportTable, spelling: Spelling) -> str:
    heads = "".join(f"<th>{escape(spoken(it, spelling))}</th>" for it in table.heads)
    rows = "".join(
        f"<tr>{''.join(f'<td>{escape(spoken(it, spelling))}</td>' for it in row)}</tr>"
        for row in table.rows
    )
    return f"<table><thead><tr>{heads}</tr></thead><tbody>{rows}</tbody></table>"
