"""The record in one line."""

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.afterwards.record_of_pack import PackRecord
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.ui.stages.record.answer import record_answer
from tests.core.record_of_pack.test_log import entry


def test_what_the_build_line_says(catalogue: Catalogue) -> None:
    for record, words in (
        (PackRecord(), "not begun"),
        (PackRecord(log=(entry("a" * 8),)), "1 entry in the log"),
        (PackRecord(log=(entry("a" * 8), entry("b" * 8))), "2 entries in the log"),
        (PackRecord(built="2026-05-31"), "built 2026-05-31"),
    ):
        assert record_answer(evaluate(Project(record=record), catalogue)) == words
