"""What ``lumvak size`` found, as records and to read."""

from __future__ import annotations

from typing import Any

from lumvak.cli.spelled import say, say_hours
from lumvak.cli.table import table
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.comparison.why_not import Answer
from lumvak.core.evaluate import stops_of
from lumvak.core.evaluation import Evaluation
from lumvak.core.said import in_line
from lumvak.core.sizing.counts import NEED_NAMES, NEEDS
from lumvak.core.sizing.options import Options, Refusal
from lumvak.core.spelling import figures, spoken
from lumvak.files.power_records import finite

# So much of what was assumed is said in a line.
MOST_ASSUMED = 5


def options_json(seen: list[Evaluation], options: Options, asked: Answer | None) -> dict[str, Any]:
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


def options_text(evaluation: list[Evaluation], options: Options, catalogue: Catalogue) -> str:
    """The options as a table, what stops the others of them, and what was refused."""
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
            "stopped",
        )
        lines.append(table(head, rows, left=(0, 1, 2, 10, 11, 12, 13)))
        alike = int(options.alike.sum())
        equals = f" Marked =: {alike} as good as the first." if alike > 1 else ""
        lines.append(f"{len(evaluation)} of {len(options)} options.{equals}")
        lines.extend(
            f"stop, of option {place}: {spoken(item.text)}"
            for place, one in enumerate(evaluation[1:], 2)
            for item in one.findings
            if item.severity == "stop" and item.code in stops_of(one)
        )
    else:
        lines.append("Nothing serves:")
    lines.extend(_refused(item, catalogue) for item in options.refused)
    return "\n".join(lines)


def _refused(item: Refusal, catalogue: Catalogue) -> str:
    """Why a combination does not serve: its cell or chemistry as they are called, and the count."""
    names: dict[str, Any] = {**catalogue.chemistries, **catalogue.cells}
    known = names.get(item.cell or item.chemistry)
    name = item.cell or item.chemistry if known is None else known.name
    words = [*([name] if name else []), *([f"{item.series} in series"] if item.series else [])]
    return f"refused: {', '.join(words)}: {spoken(item.reason)}"


def _stopped(evaluation: Evaluation) -> str:
    """How many things stop an option."""
    count = len(stops_of(evaluation))
    return f"{count} stop{'s' if count > 1 else ''}" if count else ""


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
        _stopped(evaluation),
    ]
