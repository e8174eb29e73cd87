"""``lumvak size``: from a need to ranked packs, without a window."""

from __future__ import annotations

import argparse
from typing import Any

from msgspec.structs import asdict, replace

from lumvak.cli.command import Refuse
from lumvak.cli.named import NotKnown, named
from lumvak.cli.project.options_told import assumed_lines, cautions, options_json, options_text
from lumvak.cli.project.typed import with_typed
from lumvak.cli.table import tell
from lumvak.cli.told import complain
from lumvak.cli.written import STANDARD, check_free, write_out
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.catalogue.cells import FAMILY_NAMES
from lumvak.core.comparison.why_not import Answer, typical_row, why_not
from lumvak.core.document.edit import ProjectError, with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate, stops_of
from lumvak.core.evaluation import Evaluation
from lumvak.core.need.window import NICKEL_RATED_V
from lumvak.core.sizing.options import Options
from lumvak.core.sizing.search import Filters
from lumvak.core.spelling import spoken
from lumvak.core.steps import Steps
from lumvak.files.catalogue_file import load_catalogue
from lumvak.files.problem import FileProblem
from lumvak.files.project_file import project_text, with_copies

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
    _check_together(chosen, refuse)
    try:
        catalogue, problems = load_catalogue(chosen.catalogue)
    except FileProblem as problem:
        refuse(f"--catalogue: {problem}")
    for note in problems:
        complain(chosen.command, note)
    cell = _named(refuse, "cell", chosen.cell, catalogue.cells)
    kinds = {**FAMILY_NAMES, **catalogue.chemistries}
    chemistry = _named(refuse, "chemistry", chosen.chemistry, kinds)
    try:
        project = with_typed(project_of(chosen), chosen.set)
        if chosen.save is not None:
            check_free(chosen.save, chosen.force, project=True)
    except ProjectError as error:
        refuse(f"{FLAGS.get(error.path, error.path)}: {error}")
    except FileProblem as problem:
        refuse(f"--save: {problem}")
    filters = Filters(chemistry, cell, chosen.series, chosen.parallel)
    steps = Steps()
    first = evaluate(project, catalogue, filters, steps=steps)
    options = first.sized.options
    count = min(max(chosen.top, chosen.take), len(options))
    seen = [_of_option(project, catalogue, options, place, steps) for place in range(count)]
    if chosen.take > max(count, 1):
        refuse(f"--take {chosen.take}: there are {count} options; accepted: 1 to {count}")
    if chosen.save is not None:
        status = _save(chosen, seen, catalogue)
        if status or chosen.save == STANDARD:
            return status
    asked = _asked(first, filters) if not count else None

    def text() -> str:
        lines = [options_text(seen, options, catalogue)]
        if asked is not None:
            lines.append(f"{spoken(asked.text)}; {spoken(asked.change)}.")
        if seen:
            lines += [*cautions(seen[0]), *assumed_lines(seen[0], chosen.assumed)]
        return "\n".join(lines)

    tell(chosen, options_json(seen, options, asked), text)
    return int(not seen or bool(stops_of(seen[0])))


def _check_together(chosen: argparse.Namespace, refuse: Refuse) -> None:
    """Refuse flags that lack another, or stand beside one that they do not go with."""
    if chosen.rated_voltage is None and chosen.nickel_cells is None:
        refuse("--rated-voltage is missing; write it as --rated-voltage 36V")
    if chosen.distance is None and chosen.consumption is not None:
        refuse("--consumption goes with --distance")
    in_watts = chosen.power is not None or (chosen.duty is not None and chosen.duty[0] == "W")
    if chosen.efficiency is not None and not in_watts:
        refuse("--efficiency goes with a load in watts; a current needs none")


def _save(chosen: argparse.Namespace, seen: list[Evaluation], catalogue: Catalogue) -> int:
    """Write the project with the option that is taken; 1 where nothing serves, 2 where refused."""
    if not seen:
        complain(chosen.command, "nothing serves, so nothing is saved")
        return 1
    name = chosen.save.name.removesuffix(".json").removesuffix(".lumvak")
    project = replace(seen[chosen.take - 1].project, name=name if name != "-" else "sized")
    content = project_text(with_copies(project, catalogue)).encode("utf-8")
    try:
        told = not (chosen.json or chosen.csv)
        write_out(chosen.save, content, chosen.force, project=True, told=told)
    except FileProblem as problem:
        complain(chosen.command, problem)
        return 2
    return 0


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


def _named(refuse: Refuse, what: str, word: str | None, known: dict[str, Any]) -> str | None:
    """The id that a word of a flag means."""
    try:
        return None if word is None else named(word, known, what)
    except NotKnown as problem:
        refuse(f"--{what}: {spoken(problem.said)}")


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
