"""``lumvak prove``: tests at the bench, judged, and the pack as designed and as proven.

``lumvak bench`` is a simulated bench that any SCPI client can use, until it is interrupted.
"""

from __future__ import annotations

import argparse
import asyncio
import contextlib
import json
import signal
from collections.abc import Callable, Sequence
from functools import cache
from pathlib import Path
from typing import Any

from lumvak.bench.by_hand import AtTerminal
from lumvak.bench.instruments import KINDS, connected
from lumvak.bench.procedures import PROCEDURES
from lumvak.bench.proving_run import TestRun, instruments_on, run_tests
from lumvak.bench.simulated.background import BackgroundBench
from lumvak.bench.simulated.helper import SimulatedHelper
from lumvak.bench.simulated.pack import SimulatedPack
from lumvak.bench.simulated.servers import Servers
from lumvak.bench.watchdog import GUARDED, Watchdog
from lumvak.cli.command import Refuse
from lumvak.cli.project.reading import evaluation_of, read_evaluation
from lumvak.cli.spelled import say
from lumvak.cli.table import table, tell
from lumvak.cli.told import complain
from lumvak.core.catalogue.instruments import BenchInstrument
from lumvak.core.document.proving import ProofReading, Proving, TestName
from lumvak.core.proved import bench_pack_of, limits_of
from lumvak.core.proving.bench_pack import BenchPack
from lumvak.core.proving.correction import in_units, parameters_of
from lumvak.core.proving.proof import JudgedFigure, PackProof, Prepared, prepared, proof_of
from lumvak.core.spelling import Refused, spoken
from lumvak.files.problem import FileProblem, read_text

SIMULATED = "simulated"


def run(chosen: argparse.Namespace, refuse: Refuse) -> int:
    """Run the tests and print how they stand.

    1 where one is outside or was stopped, 2 where something is no good.
    """
    tests = _tests(chosen.tests, refuse)
    evaluation = evaluation_of(chosen)
    if evaluation is None:
        return 2
    pack = bench_pack_of(evaluation)
    limits = limits_of(evaluation)

    @cache
    def ready() -> Prepared:
        """What is worked out of the pack, once, and not before something is to be judged."""
        return prepared(pack)

    if chosen.bench != SIMULATED:
        if chosen.fault or chosen.batch:
            refuse("--fault and --batch are for the simulated bench")
        known = tuple(evaluation.sized.parts.instruments.values())
        return _real(chosen, pack, ready, limits=limits, tests=tests, known=known)
    try:
        if chosen.batch is None:
            result = _simulated(pack, ready, limits, tests, chosen.seed, chosen.fault)
            tell(chosen, result, lambda: _text(result))
            return int(_bad(result))
        for seed in chosen.batch:
            result = _simulated(pack, ready, limits, tests, seed, chosen.fault)
            print(json.dumps({"seed": seed, **result}, ensure_ascii=False), flush=True)
    except Refused as problem:
        refuse(f"--fault: {problem}")
    return 0


def _tests(text: str, refuse: Refuse) -> list[TestName]:
    if text == "all":
        return list(PROCEDURES)
    wanted = [name.strip() for name in text.split(",") if name.strip()]
    for name in wanted:
        if name not in PROCEDURES:
            refuse(f"--tests: “{name[:40]}” is no test; accepted: all, {', '.join(PROCEDURES)}")
    return [test for test in PROCEDURES if test in wanted]


def _simulated(
    pack: BenchPack,
    ready: Callable[[], Prepared],
    limits: dict[str, float],
    tests: Sequence[TestName],
    seed: int,
    faults: Sequence[str],
) -> dict[str, Any]:
    """The tests on a simulated pack, over real sockets, with what is true of it."""
    simulated = SimulatedPack(pack, seed, faults)
    readings: list[ProofReading] = []
    runs: list[TestRun] = []
    truth, full = simulated.truth, None
    with BackgroundBench(simulated, seed) as bench, connected(bench.resources) as lines:
        helper = SimulatedHelper(lines["meter"])
        for run in run_tests(pack, instruments_on(lines), helper, tests, readings.append):
            runs.append(run)
            # Bleeding and loss go on: what was measured is the pack as full as it was then.
            if run.test == "full-discharge":
                full = simulated.charged_to
    proof = proof_of(ready(), Proving(readings=tuple(readings)), limits)
    return proof_json(proof, runs, in_units(pack, parameters_of(pack, truth, full)[0]))


def _real(
    chosen: argparse.Namespace,
    pack: BenchPack,
    ready: Callable[[], Prepared],
    *,
    limits: dict[str, float],
    tests: Sequence[TestName],
    known: tuple[BenchInstrument, ...],
) -> int:
    """The tests with the instruments that a file names, a person doing what hands must do."""
    try:
        named = json.loads(read_text(Path(chosen.bench)))
        unknown = set(named) - set(KINDS)
        if not isinstance(named, dict) or not named or unknown:
            raise ValueError(f"accepted: some of {', '.join(KINDS)}, each with its resource")
        resources = {role: str(it) for role, it in named.items()}
        guarded = {role: it for role, it in resources.items() if role in GUARDED}
        with connected(resources) as lines:
            instruments = instruments_on(lines, known)
            with Watchdog(guarded, known):
                readings: list[ProofReading] = []
                runs = list(run_tests(pack, instruments, AtTerminal(), tests, readings.append))
    except (Refused, FileProblem, ValueError, TypeError) as problem:
        complain("lumvak prove", problem)
        return 2
    proof = proof_of(ready(), Proving(readings=tuple(readings)), limits)
    result = proof_json(proof, runs, {})
    tell(chosen, result, lambda: _text(result))
    return int(_bad(result))


def _bad(result: dict[str, Any]) -> bool:
    return any(it["verdict"] == "outside" or it["stopped"] for it in result["tests"])


# As JSON and as text.


def proof_json(
    proof: PackProof, runs: Sequence[TestRun], truth: dict[str, float]
) -> dict[str, Any]:
    """How a pack stands; ``truth`` of its parameters where it is simulated."""
    stopped = {run.test: spoken(run.stopped or run.still_on) for run in runs}
    told = {run.test for run in runs}
    tests = []
    for judged in proof.tests:
        if judged.test not in told:
            continue
        figures = [_figure_json(it) for it in judged.figures]
        first = {key: value for key, value in figures[0].items() if key not in ("name", "verdict")}
        tests.append(
            {
                "name": judged.test,
                **first,
                "verdict": judged.verdict,
                "stopped": stopped.get(judged.test, ""),
                "figures": figures,
            }
        )
    corrected = {}
    for item in proof.parameters:
        corrected[item.name] = {
            "unit": item.unit,
            "before": item.before,
            "after": item.after,
            "sigma_before": item.sigma_before,
            "sigma_after": item.sigma_after,
            **({"truth": truth[item.name]} if truth else {}),
        }
    proven = {
        name: {"value": it.value, "band": [it.low, it.high]}
        for name, it in (("continuous_a", proof.continuous), ("run_time_h", proof.hours))
    }
    designed = {
        name: {"value": it.value, "band": [it.low, it.high]}
        for name, it in (
            ("continuous_a", proof.continuous_before),
            ("run_time_h", proof.hours_before),
        )
    }
    return {
        "tests": tests,
        "corrected": corrected,
        "designed": designed,
        "proven": proven,
        "standing": proof.standing,
    }


def _figure_json(item: JudgedFigure) -> dict[str, Any]:
    return {
        "name": item.observable.key,
        "expected": item.expected.value,
        "band": [item.expected.low, item.expected.high],
        "measured": None if item.measured is None else item.measured.value,
        "unit": item.observable.unit,
        "verdict": item.verdict,
    }


def _text(result: dict[str, Any]) -> str:
    heads = ("figure", "expected", "from", "to", "measured", "")
    rows: list[tuple[str, ...]] = []
    for test in result["tests"]:
        for figure in test["figures"]:
            unit = figure["unit"]
            numbers = (figure["expected"], *figure["band"], figure["measured"])
            texts = ["—" if it is None else say(it, unit) for it in numbers]
            rows.append((figure["name"], *texts, figure["verdict"]))
        if test["stopped"]:
            rows.append((test["name"], test["stopped"], "", "", "", "stopped"))
    lines = [table(heads, rows), ""]
    lines.append(
        table(
            ("parameter", "as designed", "as proven"),
            [
                (
                    name,
                    f"{say(it['before'], it['unit'])} ± {say(it['sigma_before'], it['unit'])}",
                    f"{say(it['after'], it['unit'])} ± {say(it['sigma_after'], it['unit'])}",
                )
                for name, it in result["corrected"].items()
            ],
        )
    )
    for name, unit in (("continuous_a", "A"), ("run_time_h", "h")):
        was, now = result["designed"][name], result["proven"][name]
        lines.append(
            f"{name}: {say(was['value'], unit)} as designed; {say(now['value'], unit)}, "
            f"{say(now['band'][0], unit)} to {say(now['band'][1], unit)}, as proven"
        )
    lines.append(f"The rating is {result['standing']}.")
    return "\n".join(lines)


# A bench for others.


def serve_bench(chosen: argparse.Namespace, refuse: Refuse) -> int:
    """Serve until interrupted; 2 where the project or a fault is no good."""
    evaluation = read_evaluation(chosen.command, chosen.simulate, chosen.catalogue, chosen.set)
    if evaluation is None:
        return 2
    try:
        pack = SimulatedPack(bench_pack_of(evaluation), chosen.seed, chosen.fault)
    except Refused as problem:
        refuse(f"--fault: {problem}")
    with contextlib.suppress(KeyboardInterrupt):
        asyncio.run(_serve(Servers(pack, chosen.seed, chosen.speed)))
    return 0


async def _serve(servers: Servers) -> None:
    """Print one resource a line, then serve until told to stop."""
    stop = asyncio.Event()
    loop = asyncio.get_running_loop()
    for number in (signal.SIGINT, signal.SIGTERM):
        with contextlib.suppress(NotImplementedError):
            loop.add_signal_handler(number, stop.set)
    for name, resource in (await servers.start()).items():
        print(f"{name} {resource}", flush=True)
    await stop.wait()
    await servers.close()
