"""The report of a pack, in the order of the work: what was decided, why, and what was measured."""

from __future__ import annotations

import math
from collections.abc import Collection, Iterator

from msgspec import Struct

from lumvak.core.evaluation import Evaluation, guides_in_hand, harness_in_hand
from lumvak.core.figures.figure import Figure
from lumvak.core.figures.finding import SEVERITIES, TOUCH_SAFE_V
from lumvak.core.making.cut_lines import numbers_of
from lumvak.core.proving.measured import measured
from lumvak.core.proving.proof import STANDINGS, Course, PackProof, standing_of
from lumvak.core.record_of_pack.bill import bill_of
from lumvak.core.record_of_pack.label import gauge_said
from lumvak.core.record_of_pack.passport import passport_of
from lumvak.core.record_of_pack.report_charts import (
    Band,
    CourseChart,
    bands_of,
    chart_of_staircase,
    courses_of,
)
from lumvak.core.said import Text, phrase, say, say_sides

# The parts of a report and their titles; the keys of the figures that each shows.
TITLES = {
    "need": "Need", "cells": "Cells and count", "run": "Discharge", "arrangement": "Arrangement",
    "joints": "Joints", "cuts": "Cut list", "power": "Power path", "order": "What opens first",
    "bms": "Settings of the BMS",
    "charging": "Charging", "placed": "Cells by number", "wiring": "Balance leads",
    "tests": "Tests", "deviations": "Deviations and log", "bill": "Bill of materials",
    "assumed": "Still assumed", "findings": "To notice", "cautions": "Cautions",
}  # fmt: skip
SHOWN = {
    "need": (
        "need.rated_voltage_v", "need.max_voltage_v", "need.stop_voltage_v", "need.current_a",
        "need.peak_current_a", "need.peak_duration_s", "need.runtime_h", "need.ambient_c",
        "need.coldest_c", "demand.mean_current_a", "demand.capacity_ah",
    ),
    "cells": (
        "pack.series", "pack.parallel", "pack.cell_count", "pack.voltage_full_v",
        "pack.voltage_nominal_v", "pack.voltage_empty_v", "pack.capacity_ah", "pack.energy_wh",
        "pack.usable_ah", "cells.limit_a", "pack.sag_v", "pack.mass_kg", "pack.cost",
    ),
    "run": (
        "run.time_h", "run.taken_ah", "run.delivered_wh", "run.loss_wh", "run.lowest_v",
        "run.worst_sag_v", "run.warmest_c",
    ),
    "arrangement": (
        "layout.length_mm", "layout.width_mm", "layout.height_mm", "layout.mass_kg",
        "layout.neighbour_v", "clearance.closest_mm",
    ),
    "joints": (
        "network.series_limit_a", "network.group_limit_a", "network.hottest_k",
        "network.spread_a",
    ),
    "power": (
        "rating.continuous_a", "rating.10_s_a", "rating.1_s_a", "power.short_a",
        "leads.area_mm2", "leads.rise_k", "power.fuse_needed_a", "power.spark_j",
    ),
    "charging": (
        "charge.voltage_v", "charging.amps_a", "charging.end_a", "charging.usable_ah",
    ),
}  # fmt: skip


# What can hurt, once more where all of it is read (ours).
OVER_60_V = (
    "Dangerous to touch: over 60 V DC. Insulated tools, covered terminals, a competent person, "
    "local rules."
)
CAUTIONS = (
    "A charged cell cannot be switched off. Rings off, one tool at a time, every terminal that is "
    "not worked on covered, one lead at a time, eyes covered.",
    "First charge and first discharge attended, on a surface that cannot burn, away from the way "
    "out, with a way to carry the pack outside.",
    "Never charge under the temperature that the cells' sheet names, nor under 0 °C.",
    "Cells that are swollen, leaking, far under empty or unknown are recycled by local rules, "
    "never revived.",
    "A trip says that something is past its limit: never bypass a BMS to get rid of it.",
    "Chargers and everything on the mains: bought certified, opened by licensed practice alone.",
    "Volts, watts and speed, transport and where a pack may be kept differ from place to place: "
    "local law stands over this report, which certifies nothing.",
)


class Proved(Struct, frozen=True, eq=False):
    """What the tests of a pack say, and the course of a full discharge that is expected."""

    proof: PackProof
    course: Course


class ReportTable(Struct, frozen=True):
    """A table: its heads, and its rows, each with a text for every head."""

    heads: tuple[Text, ...]
    rows: tuple[tuple[Text, ...], ...]


class ReportPart(Struct, frozen=True):
    """A part: its texts, figures, charts and tables, and both sides where they are ``drawn``."""

    key: str
    title: str
    texts: tuple[Text, ...] = ()
    figures: tuple[Figure, ...] = ()
    tables: tuple[ReportTable, ...] = ()
    bands: tuple[Band, ...] = ()
    courses: tuple[CourseChart, ...] = ()
    drawn: bool = False


class Report(Struct, frozen=True):
    """A report: its title, what stands on every page, and its parts."""

    title: str
    on_every_page: Text
    parts: tuple[ReportPart, ...]


def report_of(
    evaluation: Evaluation, proved: Proved | None = None, left_out: Collection[str] = ()
) -> Report:
    """The report of a pack, without the parts that are ``left_out``.

    ``proved`` is what its tests say, where any was taken.
    """
    standing = standing_of(measured(evaluation.project.proving))
    told = "" if standing == "proven" else phrase("NOT PROVEN. {}", STANDINGS[standing])
    parts = [
        part for key in TITLES if key not in left_out for part in _part(key, evaluation, proved)
    ]
    count = evaluation.sized.choice.count
    return Report(f"{evaluation.project.name}, {count}", told, tuple(parts))


def _part(key: str, evaluation: Evaluation, proved: Proved | None) -> Iterator[ReportPart]:
    """The part of a key; none where there is nothing in it."""
    figures = tuple(
        evaluation.figures[name] for name in SHOWN.get(key, ()) if name in evaluation.figures
    )
    texts, tables = [*_texts(key, evaluation)], [*_tables(key, evaluation, proved)]
    tables = [table for table in tables if table.rows]
    if figures or texts or tables:
        bands: tuple[Band, ...] = ()
        courses: tuple[CourseChart, ...] = ()
        if key == "tests" and proved is not None:
            proving = evaluation.project.proving
            bands = bands_of(proved.proof)
            courses = (*chart_of_staircase(proving), *courses_of(proving, proved.course))
        yield ReportPart(
            key,
            TITLES[key],
            texts=tuple(texts),
            figures=figures,
            tables=tuple(tables),
            bands=bands,
            courses=courses,
            drawn=key == "joints",
        )


def _texts(key: str, evaluation: Evaluation) -> Iterator[Text]:
    project = evaluation.project
    if key == "need" and project.note:
        yield project.note
    if key == "cells":
        choice = evaluation.sized.choice
        yield phrase("{}: {}.", choice.cell.name, choice.count)
    if key == "charging":
        yield phrase("To be set in a {}.", gauge_said(passport_of(evaluation)))
    if key == "deviations":
        for it in project.record.taken_over:
            yield phrase("Taken over from {}, {} on {}.", it.was.name, it.how, it.day)
    if key == "cautions":
        if evaluation.sized.pack.full.number > TOUCH_SAFE_V:
            yield OVER_60_V
        yield from CAUTIONS


def _tables(key: str, evaluation: Evaluation, proved: Proved | None) -> Iterator[ReportTable]:
    makers = {
        "cuts": _cuts,
        "power": _links,
        "order": _order,
        "bms": _settings,
        "placed": _placed,
        "wiring": _wiring,
        "deviations": _log,
        "bill": _bill,
        "assumed": _assumed,
        "findings": _findings,
    }
    if key in makers:
        yield makers[key](evaluation)
    if key == "tests" and proved is not None:
        yield _tests(proved.proof)


def _cuts(evaluation: Evaluation) -> ReportTable:
    counts: dict[int, int] = {}
    sizes = {}
    numbers = numbers_of(evaluation.cuts)
    for cut in evaluation.cuts:
        number = numbers[cut.size]
        counts[number] = counts.get(number, 0) + cut.count
        sizes[number] = cut.size
    rows = tuple(
        (
            str(number),
            size.role,
            size.part,
            say_sides((size.width_mm, size.length_mm)),
            str(counts[number]),
        )
        for number, size in sorted(sizes.items())
    )
    return ReportTable(("no.", "for", "from", "width × length", "count"), rows)


def _links(evaluation: Evaluation) -> ReportTable:
    rows = tuple(
        (link.name, link.detail, say(link.continuous_a, "A"), say(link.demand_a, "A"))
        for link in evaluation.path.links
    )
    return ReportTable(("link", "what", "holds continuously", "load"), rows)


def _order(evaluation: Evaluation) -> ReportTable:
    rows = tuple(
        (
            phrase("{} before {}", *pair.names),
            pair.why,
            "thin" if pair.thin else "in order" if pair.holds else "not in order",
            say(pair.margin_a, "A") if math.isfinite(pair.margin_a) else "",
        )
        for pair in evaluation.power.pairs
    )
    return ReportTable(("what opens first", "why", "stands", "apart by"), rows)


def _settings(evaluation: Evaluation) -> ReportTable:
    rows = tuple(
        (
            row.name,
            "" if row.value is None else say(row.value, row.unit),
            say(row.wanted, row.unit),
            row.origin,
            row.reason,
        )
        for row in evaluation.power.settings
    )
    return ReportTable(("setting", "in force", "wanted", "is", "why"), rows)


def _placed(evaluation: Evaluation) -> ReportTable:
    hand = evaluation.project.hand
    known = {cell.number: cell for cell in hand.cells}
    rows = []
    for item in hand.placed:
        cell = known.get(item.number)
        ah = "" if cell is None or cell.ah is None else say(cell.ah, "Ah")
        mohm = "" if cell is None or cell.mohm is None else say(cell.mohm, "mΩ")
        rows.append((item.cell, str(item.number), ah, mohm))
    return ReportTable(("place", "cell", "capacity", "resistance"), tuple(rows))


def _wiring(evaluation: Evaluation) -> ReportTable:
    harness = harness_in_hand(evaluation, guides_in_hand(evaluation))
    rows = tuple(
        (str(it.number), it.place, it.colour, say(it.length_mm, "mm"), str(it.pin))
        for it in harness.wires
    )
    return ReportTable(("wire", "at", "colour", "length", "pin"), rows)


def _log(evaluation: Evaluation) -> ReportTable:
    rows = tuple(
        (it.when, it.kind, phrase("{}{}", it.text, f" — {it.reason}" if it.reason else ""), it.who)
        for it in evaluation.project.record.log
    )
    return ReportTable(("when", "what", "entry", "who"), rows)


def _bill(evaluation: Evaluation) -> ReportTable:
    rows = tuple(
        (
            line.what,
            say(line.count, line.unit) if line.unit == "m" else f"{line.count:g} {line.unit}",
            "" if line.cost is None else say(line.cost, "money"),
            line.note,
        )
        for line in bill_of(evaluation)
    )
    return ReportTable(("what", "how much", "cost", "note"), rows)


def _assumed(evaluation: Evaluation) -> ReportTable:
    """What nobody said or measured, each once."""
    rows = tuple(
        (figure.label, say(figure.value, figure.unit), figure.rule)
        for figure in evaluation.figures.values()
        if figure.origin == "assumed"
    )
    return ReportTable(("what", "taken as", "why"), rows)


def _findings(evaluation: Evaluation) -> ReportTable:
    found = sorted(evaluation.findings, key=lambda it: SEVERITIES.index(it.severity))
    rows = tuple((it.severity, it.text, it.do) for it in found)
    return ReportTable(("", "what", "do"), rows)


def _tests(proof: PackProof) -> ReportTable:
    rows = []
    for test in proof.tests:
        for it in test.figures:
            if it.measured is None:
                continue
            unit, expected = it.observable.unit, it.expected
            band = phrase("{} to {}", say(expected.low, unit), say(expected.high, unit))
            rows.append((it.observable.label, band, say(it.measured.value, unit), it.verdict))
    return ReportTable(("figure", "nine in ten", "measured", "stands"), tuple(rows))
