"""Everything a pack can be exported to, by the name of the format."""

from __future__ import annotations

from collections.abc import Callable, Collection

from lumvak.core.evaluation import Evaluation
from lumvak.core.making.template import template_of
from lumvak.core.spelling import PLAIN, Spelling
from lumvak.files.problem import FileProblem

FORMATS = (
    "svg", "dxf", "csv", "spice", "pdf", "placing", "wiring", "wiring-svg", "wiring-csv",
    "shopping", "shopping-csv", "shopping-text", "label", "label-svg", "label-png",
    "label-charger", "label-charger-svg", "label-charger-png", "log", "bom", "dates",
    "report", "report-html",
)  # fmt: skip
SUFFIXES = {"svg": ".svg", "dxf": ".dxf", "csv": ".csv", "spice": ".cir", "pdf": ".pdf",
            "placing": ".pdf", "wiring": ".pdf", "wiring-svg": ".svg",
            "wiring-csv": ".csv", "shopping": ".pdf", "shopping-csv": ".csv",
            "shopping-text": ".txt", "label": ".pdf", "label-svg": ".svg",
            "label-png": ".png", "label-charger": ".pdf", "label-charger-svg": ".svg",
            "label-charger-png": ".png", "log": ".csv",
            "bom": ".csv", "dates": ".ics",
            "report": ".pdf", "report-html": ".html"}  # fmt: skip
PAPERS = ("a4", "letter")
# How far a report is once its tests are judged, its parts are there, and its sides are drawn.
SHARES = (0.4, 0.55, 0.7)


def exported(
    evaluation: Evaluation,
    to: str,
    paper: str = "a4",
    spelling: Spelling = PLAIN,
    left_out: Collection[str] = (),
    far: Callable[[float], object] = lambda _: None,
) -> bytes:
    """The pack in hand in a format of FORMATS; raises FileProblem where it cannot be made.

    A report goes without the parts that are ``left_out``, and tells ``far`` how far it is.
    """
    from lumvak.files.export.drawing import dxf_text, svg_text
    from lumvak.files.export.pdf import pdf_bytes
    from lumvak.files.export.placing import placing_pdf
    from lumvak.files.export.tables import csv_text, spice_text
    from lumvak.files.export.warning import warning_of

    if to.startswith("label"):
        return _label(evaluation, to, spelling)
    if to in ("log", "bom", "dates"):
        return _record(evaluation, to, spelling)
    warning = warning_of(evaluation, spelling)
    if to.startswith("report"):
        return report_bytes(evaluation, to, paper, warning, spelling, left_out=left_out, far=far)
    title = f"{evaluation.project.name}, {evaluation.sized.choice.count}"
    if to == "placing":
        return placing_pdf(evaluation, title, paper, warning, spelling)
    if to.startswith("shopping"):
        return _shopping(evaluation, to, title, paper, spelling)
    if to.startswith("wiring"):
        return _wiring(evaluation, to, title, paper, warning, spelling)
    if to == "spice":
        return spice_text(evaluation).encode("utf-8")
    cuts = evaluation.cuts
    if to == "csv":
        # With its mark in front a spreadsheet reads × and Ω as what they are.
        return csv_text(evaluation, cuts, warning, spelling).encode("utf-8-sig")
    sides = template_of(evaluation.laid_out.joined_pack, evaluation.laid_out.clearance.ends, cuts)
    if to == "svg":
        return svg_text(sides, title, warning).encode("utf-8")
    if to == "dxf":
        return dxf_text(sides, warning).encode("utf-8")
    return pdf_bytes(sides, title, paper, warning)


def _record(evaluation: Evaluation, to: str, spelling: Spelling) -> bytes:
    project = evaluation.project
    if to == "log":
        from lumvak.files.export.log import log_csv

        return log_csv(project.record.log).encode("utf-8-sig")
    if to == "bom":
        from lumvak.core.record_of_pack.bill import bill_of
        from lumvak.files.export.bill import bill_csv

        return bill_csv(bill_of(evaluation), spelling).encode("utf-8-sig")
    from lumvak.core.record_of_pack.dates import due_days
    from lumvak.files.export.calendar import calendar_bytes

    if not (days := due_days(project)):
        raise FileProblem("No days yet: say under Record when the pack was built")
    return calendar_bytes(project.name, days, spelling)


def report_bytes(
    evaluation: Evaluation,
    to: str,
    paper: str = "a4",
    warning: str = "",
    spelling: Spelling = PLAIN,
    left_out: Collection[str] = (),
    far: Callable[[float], object] = lambda _: None,
) -> bytes:
    """The report as ``report`` (PDF) or ``report-html``, without the parts that are left out.

    ``far`` is told how far it is, as a share.
    """
    from lumvak.core.proved import bench_pack_of, limits_of
    from lumvak.core.proving.proof import prepared, proof_of
    from lumvak.core.record_of_pack.report import Proved, report_of
    from lumvak.files.export.report_html import report_html
    from lumvak.files.export.report_pdf import report_pdf

    proved = None
    proving = evaluation.project.proving
    if proving.readings and "tests" not in left_out:
        ready = prepared(bench_pack_of(evaluation))
        proved = Proved(proof_of(ready, proving, limits_of(evaluation)), ready.course)
    far(SHARES[0])
    report = report_of(evaluation, proved, left_out)
    far(SHARES[1])
    laid_out = evaluation.laid_out
    sides = template_of(laid_out.joined_pack, laid_out.clearance.ends, evaluation.cuts)
    far(SHARES[2])
    if to == "report-html":
        return report_html(report, sides, warning, spelling).encode("utf-8")
    return report_pdf(report, sides, paper, warning, spelling)


def _label(evaluation: Evaluation, to: str, spelling: Spelling) -> bytes:
    from lumvak.files.export.label import label_bytes

    wanted = evaluation.project.record.label
    return label_bytes(
        evaluation,
        SUFFIXES[to],
        (wanted.width_mm, wanted.height_mm),
        spelling,
        charger=to.startswith("label-charger"),
    )


def _wiring(
    evaluation: Evaluation, to: str, title: str, paper: str, warning: str, spelling: Spelling
) -> bytes:
    from lumvak.files.export.wiring import wiring_csv, wiring_pdf, wiring_svg

    if to == "wiring":
        return wiring_pdf(evaluation, f"{title}: balance leads", paper, warning, spelling)
    if to == "wiring-svg":
        return wiring_svg(evaluation, f"{title}: balance leads", paper, warning, spelling).encode(
            "utf-8"
        )
    return wiring_csv(evaluation).encode("utf-8-sig")


def _shopping(evaluation: Evaluation, to: str, title: str, paper: str, spelling: Spelling) -> bytes:
    from lumvak.files.export.shopping import shopping_csv, shopping_pdf, shopping_text

    if to == "shopping":
        return shopping_pdf(evaluation, f"{title}: what to look for", paper, spelling=spelling)
    if to == "shopping-csv":
        return shopping_csv(evaluation, spelling).encode("utf-8-sig")
    return shopping_text(evaluation, spelling).encode("utf-8")
