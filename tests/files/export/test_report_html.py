"""The report as HTML, read by a parser that is not ours."""

from html.parser import HTMLParser

from lumvak.core.evaluation import Evaluation
from lumvak.core.record_of_pack.report import SHOWN
from lumvak.core.said import say
from lumvak.core.spelling import spoken
from lumvak.files.export.formats import report_bytes


class Rows(HTMLParser):
    """The rows of figures by their keys, and every tag that was opened and not closed."""

    def __init__(self) -> None:
        super().__init__()
        self.rows: dict[str, list[str]] = {}
        self.open: list[str] = []
        self.at = ""

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        if tag not in ("meta",):
            self.open.append(tag)
        if tag == "tr":
            self.at = dict(attrs).get("data-key") or ""

    def handle_endtag(self, tag: str) -> None:
        assert self.open.pop() == tag

    def handle_data(self, data: str) -> None:
        if self.at:
            self.rows.setdefault(self.at, []).append(data)


def test_every_figure_stands_there_by_name_and_value(worked_out: Evaluation) -> None:
    text = report_bytes(worked_out, "report-html").decode("utf-8")
    parser = Rows()
    parser.feed(text)
    assert not parser.open
    shown = [key for keys in SHOWN.values() for key in keys if key in worked_out.figures]
    assert set(parser.rows) == set(shown)
    for key in shown:
        figure = worked_out.figures[key]
        assert parser.rows[key][:2] == [
            spoken(figure.label),
            spoken(say(figure.value, figure.unit)),
        ]
    assert (
        "NOT PROVEN" in text
        and "<svg" in text
        and "http://" not in text.replace("http://www.w3.org", "")
    )
