"""The page about a pack as found, as a file."""

from __future__ import annotations

from lumvak.core.as_found.audit import Audit
from lumvak.core.record_of_pack.found_page import found_page
from lumvak.core.spelling import PLAIN, Spelling

SUFFIXES = (".pdf", ".html")


def page_bytes(audit: Audit, name: str, file: str, spelling: Spelling = PLAIN) -> bytes:
    """The page of the pack called ``name``: HTML where ``file`` ends so, else a PDF."""
    from lumvak.files.export.report_html import report_html
    from lumvak.files.export.report_pdf import report_pdf

    page = found_page(audit, name)
    if file.lower().endswith(".html"):
        return report_html(page, (), spelling=spelling).encode("utf-8")
    return report_pdf(page, (), spelling=spelling)
