"""Timings from several runs: median, 95th percentile and target of each."""

from __future__ import annotations

import json
import os
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING

import numpy as np

if TYPE_CHECKING:
    from lumvak.core.catalogue.catalogue import Catalogue
    from lumvak.core.document.project import Project

DEMOS = Path(__file__).parents[1] / "src" / "lumvak" / "data" / "demos"
RUNS = 60
COLD_RUNS = 7
FIELD = 50_000
START = """
from pathlib import Path
from PyQt6.QtWidgets import QApplication
from lumvak.ui.application import make_application, make_window
app = make_application()
window = make_window(app, Path({file!r}))
window.show()
app.processEvents()
window.grab()
print("usable", flush=True)
"""
SIZE = (
    *("size", "--rated-voltage", "36V", "--max-voltage", "43V", "--cutoff-voltage", "30V"),
    *("--current", "18A", "--peak", "40A:8s", "--runtime", "1h"),
)


def timed(do: Callable[[], object], runs: int) -> list[float]:
    times = []
    for _ in range(runs):
        begin = time.perf_counter()
        do()
        times.append((time.perf_counter() - begin) * 1000.0)
    return times


def report(name: str, times: list[float], target_ms: float) -> bool:
    high = statistics.quantiles(times, n=20)[-1]
    held = high <= target_ms
    print(
        f"{name:<44} median {statistics.median(times):7.1f} ms   p95 {high:7.1f} ms   "
        f"target {target_ms:6.0f} ms   {'held' if held else 'MISSED'}"
    )
    return held


def largest_demo() -> Path:
    """The demo with the most cells."""

    def cells(path: Path) -> int:
        pack = json.loads(path.read_text("utf-8"))["pack"]
        return int(pack.get("series") or 0) * int(pack.get("parallel") or 0)

    return max(sorted(DEMOS.glob("*.lumvak.json")), key=cells)


def cold(arguments: list[str]) -> Callable[[], object]:
    return lambda: subprocess.run(
        [sys.executable, *arguments], check=True, stdout=subprocess.DEVNULL
    )


def field_sampler(project: Project, catalogue: Catalogue) -> Callable[[], object]:
    """Evaluates FIELD packs of all cells at once."""
    from lumvak.core.evaluate import evaluate
    from lumvak.core.sizing.all_packs import field_at

    hand = evaluate(project, catalogue).hand
    draw = np.random.default_rng(1)
    rows = draw.integers(0, len(hand.table.cells), FIELD)
    series, parallel = (draw.integers(1, most, FIELD).astype(float) for most in (40, 64))
    return lambda: field_at(hand.table, hand.terms, hand.pack, rows, series, parallel)


def hour_runner(project: Project, catalogue: Catalogue) -> Callable[[], object]:
    """Runs the pack in hand for an hour of changing load in steps of one second."""
    from lumvak.core.evaluate import evaluate
    from lumvak.core.run.discharge import Step, discharge

    pack = evaluate(project, catalogue).run.pack
    amps = np.random.default_rng(1).uniform(5.0, 30.0, 3600).tolist()
    duty = [Step(value, None, 1.0) for value in amps]
    return lambda: discharge(pack, duty, 1.0, longest_s=3600.0)


def wide_pack(project: Project, series: int, parallel: int) -> Project:
    """The project with another count and no room around it."""
    from lumvak.core.document.edit import with_values

    return with_values(
        project,
        {
            "pack.series": series,
            "pack.parallel": parallel,
            "need.rated_voltage_v": 3.6 * series,
            "need.max_voltage_v": 4.2 * series + 1.0,
            "need.stop_voltage_v": 2.7 * series,
            "arrangement.room.kind": "none",
            "arrangement.kept_free": (),
        },
    )


def network_lines(project: Project, catalogue: Catalogue) -> list[bool]:
    """The pack on the table: an edit to its result, a take-off dragged, the bare solver."""
    import itertools

    from scipy.sparse.linalg import spsolve

    from lumvak.core.document.edit import with_values
    from lumvak.core.evaluate import evaluate
    from lumvak.core.joints.joined_pack import moved_lead
    from lumvak.core.joints.network import branches_of, conductance, solve
    from lumvak.core.joints.variants import nearest_lead, variant_of
    from lumvak.core.steps import Steps

    held = []
    milliohms = (0.05 + 1e-5 * step for step in itertools.count())
    for count, target in ((20, 25.0), (40, 250.0)):
        wide = wide_pack(project, count, count)
        steps = Steps()
        seen = evaluate(wide, catalogue, steps=steps)

        def edit(wide: Project = wide, steps: Steps = steps) -> None:
            nonlocal seen
            changed = with_values(wide, {"joints.contact_mohm": next(milliohms)})
            seen = evaluate(changed, catalogue, steps=steps)

        edit()
        held.append(report(f"edit of a joint, {count}S{count}P", timed(edit, RUNS), target))
    seen = evaluate(wide_pack(project, 20, 20), catalogue)
    places = itertools.cycle(range(0, 440, 7))

    def drag() -> None:
        lead = nearest_lead(seen.table, "-", 0.0, float(next(places)))
        solved = moved_lead(seen.table, 0, lead)
        assert solved is not None
        variant_of(seen.table, solved, "dragged")

    held.append(report("a take-off dragged, 20S20P", timed(drag, RUNS), 1000.0 / 30.0))
    network = seen.table.network
    assert network is not None

    def assembly() -> None:
        conductance(branches_of(network))

    matrix = conductance(branches_of(network))
    wanted = np.zeros(matrix.shape[0])
    wanted[-1] = -1.0
    bare = statistics.median(timed(lambda: spsolve(matrix, wanted), RUNS))
    allowed = statistics.median(timed(assembly, RUNS)) + 1.5 * bare
    own = statistics.median(timed(lambda: solve(network), RUNS))
    print(
        f"{'solve of 20S20P, median':<44} {own:7.2f} ms   assembly + 1.5 × bare spsolve "
        f"{allowed:7.2f} ms   {'held' if own <= allowed else 'MISSED'}"
    )
    return [*held, own <= allowed]


def main() -> int:
    home = tempfile.mkdtemp()
    for name in ("XDG_CONFIG_HOME", "XDG_STATE_HOME", "XDG_DATA_HOME"):
        os.environ[name] = home
    from lumvak.core.document.edit import with_values
    from lumvak.core.evaluate import evaluate
    from lumvak.files.catalogue_file import load_catalogue
    from lumvak.files.project_file import load_project
    from lumvak.ui.application import make_application, make_window

    fixed = timed(lambda: sum(value * value for value in range(200_000)), RUNS)
    print(f"{'a fixed loop, to compare machines':<44} median {statistics.median(fixed):7.1f} ms")
    demo = largest_demo()
    print(f"largest demo: {demo.name}; {RUNS} runs warm, {COLD_RUNS} cold")
    catalogue, _ = load_catalogue()
    project = load_project(demo, catalogue)
    currents = iter(20.0 + 0.01 * step for step in range(100_000))

    def evaluation() -> None:
        evaluate(with_values(project, {"need.current_a": next(currents)}), catalogue)

    evaluation()
    held = [report("edit to evaluation", timed(evaluation, RUNS), 20)]
    held.append(
        report(f"{FIELD} packs as arrays", timed(field_sampler(project, catalogue), RUNS), 100)
    )
    held.append(report("an hour in steps of 1 s", timed(hour_runner(project, catalogue), RUNS), 50))
    held += network_lines(project, catalogue)
    app = make_application()
    window = make_window(app, demo)
    window.show()
    views = (
        *("need", "cells", "cells/chart", "cells/beside", "run", "arrangement"),
        *("joints", "joints/conductors", "joints/making", "power", "power/settings"),
        *("power/parts", "power/order", "power/start", "power/rating", "power/rest"),
    )
    for key in views:
        stage, _, view = key.partition("/")
        window.open_stage(stage)
        if view:
            window.stages[stage].show_view(view)
        app.processEvents()

        def repaint() -> None:
            window.session.edit({"need.current_a": next(currents)})
            app.processEvents()

        repaint()
        held.append(report(f"edit to repainted stage, {key}", timed(repaint, RUNS), 50))
    window.session.undo_stack.setClean()
    window.close()
    size = timed(cold(["-m", "lumvak", *SIZE]), COLD_RUNS)
    held.append(report("lumvak size, cold", size, 1000))
    start = timed(cold(["-c", START.format(file=str(demo))]), COLD_RUNS)
    held.append(report("cold start to a usable window", start, 1500))
    return 0 if all(held) else 1


if __name__ == "__main__":
    sys.exit(main())
