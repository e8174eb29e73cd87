"""``lumvak evaluate``: the figures, findings and chain of a project."""

from __future__ import annotations

import argparse
from typing import Any

from msgspec.structs import replace

from lumvak.cli.command import Refuse
from lumvak.cli.project.reading import evaluation_of
from lumvak.cli.spelled import say
from lumvak.cli.table import table, tell
from lumvak.core.evaluation import Evaluation
from lumvak.core.figures.figure import as_json, walk
from lumvak.core.figures.link import Link
from lumvak.core.joints.node_names import node_voltages
from lumvak.core.run.tolerance import tolerance, tolerance_figures
from lumvak.core.spelling import spoken
from lumvak.files.power_records import finite, power_json


def run(chosen: argparse.Namespace, refuse: Refuse) -> int:
    """Print a project's evaluation; 1 where it has a stop, 2 where the file cannot be used."""
    evaluation = evaluation_of(chosen)
    if evaluation is None:
        return 2
    if chosen.tolerance:
        evaluation = with_tolerance(evaluation)
    tell(chosen, evaluation_json(evaluation), lambda: evaluation_text(evaluation))
    return int(any(item.severity == "stop" for item in evaluation.findings))


def with_tolerance(evaluation: Evaluation) -> Evaluation:
    """The evaluation with the figures of the drawn packs beside the others."""
    off, settings = evaluation.sized.in_hand.capacity_off, evaluation.project.run
    result = tolerance(
        evaluation.sized.sized_pack,
        evaluation.run.pack,
        evaluation.run.run.hours,
        settings,
        capacity_off=off,
    )
    made = tolerance_figures(
        result, evaluation.figures["run.time_h"], evaluation.sized.demand, settings, off
    )
    return replace(
        evaluation, figures={**evaluation.figures, **{item.key: item for item in walk(made)}}
    )


def link_json(link: Link) -> dict[str, Any]:
    """A link of the chain as plain JSON."""
    return {
        "key": link.key,
        "name": spoken(link.name),
        "detail": spoken(link.detail),
        "stage": link.stage,
        "continuous_a": finite(link.continuous_a),
        "peak_a": finite(link.peak_a),
        "demand_a": link.demand_a,
        "peak_demand_a": link.peak_demand_a,
        "peak_s": link.peak_s,
        "headroom": finite(link.headroom),
        "bursts": link.bursts,
        "limit": link.limit.key,
        "for_10_s_a": finite(link.limit_a(10.0)),
        "for_1_s_a": finite(link.limit_a(1.0)),
    }


def evaluation_json(evaluation: Evaluation) -> dict[str, Any]:
    """An evaluation as plain JSON: figures by key, findings, chain, network, power path."""
    return {
        "name": evaluation.project.name,
        "figures": {key: as_json(figure) for key, figure in evaluation.figures.items()},
        "findings": [
            {
                "code": item.code,
                "severity": item.severity,
                "text": spoken(item.text),
                "why": spoken(item.why),
                "do": spoken(item.do),
                "stage": item.stage,
                "figure": item.figure or None,
            }
            for item in evaluation.findings
        ],
        "chain": [link_json(link) for link in evaluation.path.links],
        "network": {
            "nodes": node_voltages(evaluation.laid_out.joined_pack),
            "flaws": [
                {"code": flaw.code, "text": spoken(flaw.text), "x_mm": flaw.x_mm, "y_mm": flaw.y_mm}
                for flaw in evaluation.flaws
            ],
        },
        "power": power_json(evaluation),
        "weakest_link": None
        if evaluation.path.weakest is None
        else link_json(evaluation.path.weakest),
    }


def evaluation_text(evaluation: Evaluation) -> str:
    """An evaluation as text: figures, chain, findings."""
    figures = [
        (
            figure.key,
            spoken(figure.label),
            say(figure.value, figure.unit),
            "assumed" * figure.assumed,
        )
        for figure in evaluation.figures.values()
    ]
    chain = [
        (
            spoken(link.name),
            spoken(link.detail),
            say(link.continuous_a, "A"),
            say(link.demand_a, "A"),
            say(link.peak_a, "A"),
            say(link.peak_demand_a, "A"),
            "weakest" if link is evaluation.path.weakest else "",
        )
        for link in evaluation.path.links
    ]
    found = [
        f"{item.severity:<5} {spoken(item.text)}. {spoken(item.why)} {spoken(item.do)}"
        for item in evaluation.findings
    ]
    return "\n\n".join(
        (
            evaluation.project.name,
            table(("key", "figure", "value", ""), figures, left=(0, 1, 3)),
            table(
                ("link", "what", "carries", "load", "for the peak", "peak", ""),
                chain,
                left=(0, 1, 6),
            ),
            "\n".join(found),
        )
    )
