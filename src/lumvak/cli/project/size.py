"""``lumvak size``: from a need to ranked packs, without a window."""

from __future__ import annotations

import argparse
from typing import Any

from msgspec.structs import asdict, replace

from lumvak.cli.command import Refuse
from lumvak.cli.spelled import say, say_hours
from lumvak.cli.table import json_text, table
from lumvak.cli.told import complain
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.catalogue.cells import FAMILY_NAMES
from lumvak.core.comparison.why_not import Answer, typical_row, why_not
from lumvak.core.document.edit import ProjectError, with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate, stops_of
from lumvak.core.evaluation import Evaluation
from lumvak.core.need.window import NICKEL_RATED_V
from lumvak.core.said import in_line
from lumvak.core.sizing.counts import NEED_NAMES, NEEDS
from lumvak.core.sizing.options import Options
from lumvak.core.sizing.search import Filters
from lumvak.core.spelling import figures, spoken
from lumvak.core.steps import Steps
from lumvak.files.catalogue_file import load_catalogue
from lumvak.files.power_records import finite
from lumvak.files.problem import FileProblem

# So much of what was assumed is said in a line.
MOST_ASSUMED = 5
FLAGS = {
    "need.rated_voltage_v": "--rated-voltage",
    "need.max_voltage_v": "--max-voltage",
    "need.stop_voltage_v": "--cutoff-voltage",
    "need.current_a": "--current",
    "need.power_w": "--power",
    "need.efficiency": "--efficiency",
    "need.duty": "--duty",
    "need.peak_current_a": "--peak",
    "need.peak_duration_s": "--peak",
    "need.runtime_h": "--runtime",
    "need.capacity_ah": "--capacity",
    "need.energy_wh": "--energy",
    "need.distance_km": "--distance",
    "need.consumption_wh_per_km": "--consumption",
    "need.nickel_cells": "--nickel-cells",
    "need.charger_voltage_v": "--charger",
    "need.charger_current_a": "--charger",
    "need.ambient_c": "--ambient",
    "need.coldest_c": "--ambient",
    "pack.series": "--series",
    "pack.parallel": "--parallel",
}


def project_of(chosen: argparse.Namespace) -> Project:
    """The project that the flags describe; raises ProjectError naming the field."""
    changes: dict[str, Any] = {
        "need.kind": chosen.kind or ("tool" if chosen.nickel_cells else "vehicle"),
        "need.rated_voltage_v": chosen.rated_voltage
        if chosen.rated_voltage is not None
        else NICKEL_RATED_V * chosen.nickel_cells,
        "need.load_basis": "duty"
        if chosen.duty is not None
        else ("current" if chosen.power is None else "power"),
        "need.endurance_basis": next(
            (
                basis
                for basis in ("runtime", "capacity", "energy", "distance")
                if getattr(chosen, basis) is not None
            ),
            "open",
        ),
        "pack.ranking": chosen.rank,
    }
    given = {
        "need.max_voltage_v": chosen.max_voltage,
        "need.stop_voltage_v": chosen.cutoff_voltage,
        "need.current_a": chosen.current,
        "need.power_w": chosen.power,
        "need.efficiency": chosen.efficiency,
        "need.runtime_h": chosen.runtime,
        "need.capacity_ah": chosen.capacity,
        "need.energy_wh": chosen.energy,
        "need.distance_km": chosen.distance,
        "need.consumption_wh_per_km": chosen.consumption,
        "need.nickel_cells": chosen.nickel_cells,
        "need.contacts": chosen.contacts,
        "need.coldest_c": None if chosen.ambient is None else chosen.ambient[0],
        "need.ambient_c": None if chosen.ambient is None else chosen.ambient[1],
        "pack.series": chosen.series,
        "pack.parallel": chosen.parallel,
        "pack.forms": chosen.form,
    }
    if chosen.duty is not None:
        given["need.duty_unit"] = chosen.duty[0]
        given["need.duty"] = tuple(asdict(step) for step in chosen.duty[1])
    if chosen.peak is not None:
        given["need.peak_current_a"], given["need.peak_duration_s"] = chosen.peak
    if chosen.charger is not None:
        given["need.charger_voltage_v"], given["need.charger_current_a"] = chosen.charger
    changes.update((path, value) for path, value in given.items() if value is not None)
    return with_values(Project(name="lumvak size"), changes)


def run(chosen: argparse.Namespace, refuse: Refuse) -> int:
    """Print the options; 1 where nothing serves or the first is not safe, 2 for bad usage."""
    if chosen.rated_voltage is None and chosen.nickel_cells is None:
        refuse("--rated-voltage is missing; write it as --rated-voltage 36V")
    if chosen.distance is None and chosen.consumption is not None:
        refuse("--consumption goes with --distance")
    in_watts = chosen.power is not None or (chosen.duty is not None and chosen.duty[0] == "W")
    if chosen.efficiency is not None and not in_watts:
        refuse("--efficiency goes with a load in watts; a current needs none")
    try:
        catalogue, problems = load_catalogue(chosen.catalogue)
    except FileProblem as problem:
        refuse(f"--catalogue: {problem}")
    for text in problems:
        complain("lumvak size", text)
    _known(refuse, "--cell", chosen.cell, catalogue.cells)
    _known(refuse, "--chemistry", chosen.chemistry, {**catalogue.chemistries, **FAMILY_NAMES})
    try:
        project = project_of(chosen)
    except ProjectError as error:
        refuse(f"{FLAGS.get(error.path, error.path)}: {error}")
    filters = Filters(chosen.chemistry, chosen.cell, chosen.series, chosen.parallel)
    steps = Steps()
    first = evaluate(project, catalogue, filters, steps=steps)
    count = min(chosen.top, len(first.sized.options))
    seen = [
        _of_option(project, catalogue, first.sized.options, place, steps) for place in range(count)
    ]
    asked = _asked(first, filters) if not count else None
    if chosen.json:
        print(json_text(_as_json(seen, first.sized.options, asked)))
    else:
        print(_as_text(seen, first.sized.options))
        if asked is not None:
            print(f"{spoken(asked.text)}; {spoken(asked.change)}.")
        if seen:
            print("\n".join([*cautions(seen[0]), *assumed_lines(seen[0], chosen.assumed)]))
    return int(not seen or bool(stops_of(seen[0])))


def _as_json(seen: list[Evaluation], options: Options, asked: Answer | None) -> dict[str, Any]:
    """The answer as JSON."""
    answer: dict[str, Any] = {
        "options": [
            {**option_json(item), "alike": bool(options.alike[place])}
            for place, item in enumerate(seen)
        ],
        "refused": [
            {
                "chemistry": item.chemistry,
                "series": item.series,
                "reason": item.reason,
                "cell": item.cell,
            }
            for item in options.refused
        ],
    }
    if seen:
        answer["specification"] = _specification(seen[0])
    if asked is not None:
        answer["why_not"] = {
            "failed": asked.failed,
            "text": asked.text,
            "change": asked.change,
            "cure": None if asked.cure is None else list(asked.cure),
        }
    return answer


def _specification(first: Evaluation) -> list[dict[str, Any]]:
    """What to look for in a shop for the first option."""
    from lumvak.cli.parts.spec import part_json
    from lumvak.core.specification.topic import specification_in_hand

    return [part_json(part) for part in specification_in_hand(first).parts]


def cautions(evaluation: Evaluation) -> list[str]:
    """What can hurt with an option, or stops it: a line each."""
    return [
        f"{'stop' if item.severity == 'stop' else 'caution'}, of the first: "
        f"{spoken(item.text)}. {spoken(item.do)}"
        for item in evaluation.findings
        if item.severity in ("stop", "warn")
    ]


def assumed_lines(evaluation: Evaluation, every: bool) -> list[str]:
    """What nobody gave: a line with the first of it, or all of it with where it was taken from."""
    # What belongs to the need comes first: it is the builder who knows it.
    found = sorted(
        (item for item in evaluation.figures.values() if item.origin == "assumed"),
        key=lambda item: not item.key.startswith("need."),
    )
    told = [f"{spoken(in_line(item.label))} {say(item.value, item.unit)}" for item in found]
    if every:
        return [
            f"assumed: {words} ({item.key}): {spoken(item.rule)}"
            for words, item in zip(told, found, strict=True)
        ]
    if not found:
        return []
    more = len(told) - MOST_ASSUMED
    rest = f" and {more} more" if more > 0 else ""
    return [f"assumed: {'; '.join(told[:MOST_ASSUMED])}{rest} (--assumed lists all)"]


def _asked(first: Evaluation, filters: Filters) -> Answer | None:
    """Why the cell or chemistry that was asked for does not serve."""
    wanted = filters.cell or filters.chemistry
    row = (
        typical_row(first.sized.sized_pack, first.sized.options, wanted)
        if wanted is not None
        else None
    )
    if row is None:
        return None
    return why_not(first.sized.sized_pack, row, filters.series, filters.parallel)


def _known(refuse: Refuse, flag: str, value: str | None, known: dict[str, Any]) -> None:
    if value is not None and value not in known:
        refuse(f"{flag}: “{value}” is not known; accepted: {', '.join(sorted(known))}")


def _of_option(
    project: Project, catalogue: Catalogue, options: Options, place: int, steps: Steps
) -> Evaluation:
    pack = replace(
        project.pack,
        cell=options.cell(place).id,
        series=int(options.series[place]),
        parallel=int(options.parallel[place]),
    )
    taken = replace(project, pack=pack)
    return evaluate(taken, catalogue, found=options, steps=steps)


def option_json(evaluation: Evaluation) -> dict[str, Any]:
    """One option as the command line prints it."""
    figures = evaluation.figures
    sized, choice, board = evaluation.sized, evaluation.sized.choice, evaluation.board
    chosen, weak = evaluation.laid_out.series.chosen, evaluation.path.weakest
    school = evaluation.project.joints.school

    def value(key: str) -> Any:
        return figures[key].value

    return {
        "series": choice.series,
        "parallel": choice.parallel,
        "chemistry": choice.cell.chemistry,
        "cell": choice.cell.id,
        "cell_count": value("pack.cell_count"),
        "voltage_full_v": value("pack.voltage_full_v"),
        "voltage_nominal_v": value("pack.voltage_nominal_v"),
        "voltage_empty_v": value("pack.voltage_empty_v"),
        "capacity_ah": value("pack.capacity_ah"),
        "energy_wh": value("pack.energy_wh"),
        "mass_kg": value("pack.mass_kg"),
        "cost": value("pack.cost"),
        "current_per_cell_a": value("pack.current_per_cell_a"),
        "headroom": value("pack.headroom"),
        "runtime_h": value("pack.runtime_h"),
        "binding": sized.pack.binding,
        "parallel_needs": {name: sized.pack.needs[name].value for name in NEEDS},
        "usable_fraction": value("pack.usable_fraction"),
        "charge_voltage_v": value("charge.voltage_v"),
        "charge_current_a": value("charge.current_a"),
        "joint": None
        if evaluation.laid_out.series.setting.joints == 0
        else {
            "part": chosen.part.id,
            "layers": chosen.layers,
            "strips": chosen.strips,
            "rise_k": finite(chosen.rise_k),
            "loss_w": value("joints.series.total_loss_w"),
            "continuous_a": finite(chosen.limits_a[school]),
        },
        "bms": None
        if board is None
        else {
            "part": board.board.id,
            "continuous_a": board.board.continuous_a,
            "peak_a": board.peak_a,
            "ports": board.board.ports,
        },
        "weakest_link": None
        if weak is None
        else {"name": weak.name, "continuous_a": weak.continuous_a},
        "stops": list(stops_of(evaluation)),
        "cautions": [
            {"code": item.code, "text": item.text, "do": item.do}
            for item in evaluation.findings
            if item.severity == "warn"
        ],
        "assumed": sorted(figure.key for figure in figures.values() if figure.origin == "assumed"),
    }


def _as_text(evaluation: list[Evaluation], options: Options) -> str:
    lines = []
    if evaluation:
        rows = [_row(item, bool(options.alike[place])) for place, item in enumerate(evaluation)]
        head = (
            "cell",
            "pack",
            "set by",
            "V full",
            "Ah",
            "Wh",
            "kg",
            "cost",
            "A/cell",
            "run time",
            "series connection",
            "BMS",
            "weakest",
            "stopped by",
        )
        lines.append(table(head, rows, left=(0, 1, 2, 10, 11, 12, 13)))
        alike = int(options.alike.sum())
        equals = f" Marked =: {alike} as good as the first." if alike > 1 else ""
        lines.append(f"{len(evaluation)} of {len(options)} options.{equals}")
    else:
        lines.append("Nothing serves:")
    lines.extend(
        f"refused: {item.chemistry} {item.series}S: {spoken(item.reason)}"
        for item in options.refused
    )
    return "\n".join(lines)


def _row(evaluation: Evaluation, alike: bool) -> list[str]:
    def number(key: str, unit: str = "") -> str:
        return say(evaluation.figures[key].value, unit)

    chosen = evaluation.laid_out.series.chosen
    return [
        evaluation.sized.choice.cell.id,
        f"{evaluation.sized.choice.count}{' =' if alike else ''}",
        NEED_NAMES[evaluation.sized.pack.binding],
        figures(evaluation.figures["pack.voltage_full_v"].number),
        figures(evaluation.figures["pack.capacity_ah"].number),
        figures(evaluation.figures["pack.energy_wh"].number),
        figures(evaluation.figures["pack.mass_kg"].number),
        number("pack.cost", "money"),
        figures(evaluation.figures["pack.current_per_cell_a"].number),
        say_hours(evaluation.figures["pack.runtime_h"].number),
        "none"
        if evaluation.laid_out.series.setting.joints == 0
        else f"{chosen.layers} x {chosen.part.id}",
        "none" if evaluation.board is None else evaluation.board.board.id,
        ""
        if (weakest := evaluation.path.weakest) is None
        else f"{spoken(weakest.name)} {say(weakest.continuous_a, 'A')}",
        ", ".join(stops_of(evaluation)),
    ]
