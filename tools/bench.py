"""Timings of what the hand feels, each as milliseconds and as a ratio to a fixed loop."""

from __future__ import annotations

import compileall
import gc
import itertools
import json
import math
import os
import resource
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import TYPE_CHECKING, Any

from msgspec.structs import asdict, replace

import lumvak

if TYPE_CHECKING:
    from lumvak.core.catalogue.catalogue import Catalogue
    from lumvak.core.document.project import Project

SOURCE = Path(lumvak.__file__).parent
DEMOS = SOURCE / "data" / "demos"
RUNS, COLD_RUNS = 60, 7
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
# The high-water mark of the process itself: what ``getrusage`` gives is its parent's at the least.
MEMORY = """
from pathlib import Path
from lumvak.ui.application import make_application, make_window
app = make_application()
window = make_window(app, Path({file!r}))
window.show()
for step in range(1000):
    window.session.edit({{"need.current_a": 20.0 + 0.01 * step}})
    app.processEvents()
status = dict(line.split(":", 1) for line in Path("/proc/self/status").read_text().splitlines())
print(float(status["VmHWM"].split()[0]) / 1024.0)
window.session.undo_stack.setClean()
"""
MOST_MB = 140.0
SIZE = (
    *("size", "--rated-voltage", "36V", "--max-voltage", "43V", "--cutoff-voltage", "30V"),
    *("--current", "18A", "--peak", "40A:8s", "--runtime", "1h"),
)
VIEWS = (
    *("need", "cells", "cells/chart", "cells/beside", "cells/library", "run", "arrangement"),
    *("joints", "joints/conductors", "joints/making", "power", "power/settings"),
    *("power/parts", "power/order", "power/start", "power/rating", "power/rest"),
    *("charging", "charging/time", "charging/groups"),
)
# Of those the ones with a drawing of thousands of places, which may take longer.
RICH = ("cells", "cells/chart", "joints/conductors")
# What is wanted of each kind of edit, as a ratio to the fixed loop.
KINDS = {
    "name": 0.1,
    "charger": 0.3,
    "run": 0.3,
    "take-off": 0.75,
    "layers": 0.75,
    "runtime": 1.0,
    "load": 1.1,
    "fuse": 1.1,
    "board": 1.1,
    "ambient": 1.35,
}


def loop_ms() -> float:
    """The fixed loop that all else is held against: 200,000 squares."""
    begin = time.perf_counter()
    sum(value * value for value in range(200_000))
    return (time.perf_counter() - begin) * 1000.0


def timed(do: Callable[[], object], runs: int) -> tuple[list[float], float]:
    """Milliseconds of each run, and the median of the fixed loop run in between."""
    times, loops = [], []
    for _ in range(runs):
        begin = time.perf_counter()
        do()
        times.append((time.perf_counter() - begin) * 1000.0)
        loops.append(loop_ms())
    return times, statistics.median(loops)


def report(name: str, measured: tuple[list[float], float], target: float) -> bool:
    """Print a line; whether its median keeps the target, a ratio to the fixed loop."""
    times, loop = measured
    median = statistics.median(times)
    ratio = median / loop
    held = ratio <= target
    print(
        f"{name:<44} median {median:8.1f} ms   ratio {ratio:6.2f}   wanted {target:6.2f}   "
        f"p95 {statistics.quantiles(times, n=20)[-1]:8.1f} ms   {'held' if held else 'MISSED'}",
        flush=True,
    )
    return held


def largest_demo() -> Path:
    """The demo with the most cells."""

    def cells(path: Path) -> int:
        pack = json.loads(path.read_text("utf-8"))["pack"]
        return int(pack.get("series") or 0) * int(pack.get("parallel") or 0)

    return max(sorted(DEMOS.glob("*.lumvak.json")), key=cells)


def cold(arguments: list[str]) -> tuple[list[float], float]:
    """CPU milliseconds of processes from nothing, and the median of the fixed loop in between."""
    times, loops = [], []
    for turn in range(COLD_RUNS + 1):
        before = resource.getrusage(resource.RUSAGE_CHILDREN)
        subprocess.run([sys.executable, *arguments], check=False, stdout=subprocess.DEVNULL)
        after = resource.getrusage(resource.RUSAGE_CHILDREN)
        spent = after.ru_utime + after.ru_stime - before.ru_utime - before.ru_stime
        if turn:
            times.append(spent * 1000.0)
            loops.append(loop_ms())
    return times, statistics.median(loops)


def memory_line(demo: Path) -> bool:
    """Megabytes of a window after a thousand edits."""
    done = subprocess.run(
        [sys.executable, "-c", MEMORY.format(file=str(demo))],
        check=True,
        capture_output=True,
        text=True,
    )
    found = float(done.stdout.split()[-1])
    held = found <= MOST_MB
    print(
        f"{'memory after 1,000 edits':<44} {found:8.0f} MB   wanted {MOST_MB:.0f} MB   "
        f"{'held' if held else 'MISSED'}"
    )
    return held


def values_of(project: Project, catalogue: Catalogue) -> dict[str, tuple[str, Iterator[Any]]]:
    """What each kind of edit changes, and to what."""
    count = project.pack.series
    boards = [key for key, board in catalogue.boards.items() if board.series == count]
    rising = itertools.count
    return {
        "name": ("name", (f"pack {place}" for place in rising())),
        "charger": ("charging.start", (0.1 + 1e-4 * (place % 900) for place in rising())),
        "run": ("run.start_charge", (0.9 + 1e-4 * (place % 900) for place in rising())),
        "take-off": (
            "joints.lead_points",
            (
                ({"pole": "-", "cell": 1, "toward": 2, "share": 0.3 + 1e-3 * (place % 400)},)
                for place in rising()
            ),
        ),
        "layers": ("joints.group.layers", itertools.cycle((1, 2, 3))),
        "runtime": ("need.runtime_h", (1.0 + 1e-3 * place for place in rising())),
        "load": ("need.current_a", (20.0 + 0.01 * place for place in rising())),
        "fuse": ("power.fuse", itertools.cycle([*catalogue.fuses][:8])),
        "board": ("protection.board", itertools.cycle(boards[:3])),
        "ambient": ("need.ambient_c", (20.0 + 0.01 * place for place in rising())),
    }


def edits(project: Project, catalogue: Catalogue) -> list[bool]:
    """One line per kind of edit, from the edit to the whole evaluation."""
    from lumvak.core.document.edit import with_values
    from lumvak.core.evaluate import evaluate
    from lumvak.core.steps import Steps

    held = []
    for kind, (path, values) in values_of(project, catalogue).items():
        steps = Steps()
        current = project

        def edit(path: str = path, values: Any = values, steps: Steps = steps) -> None:
            nonlocal current
            current = with_values(current, {path: next(values)})
            evaluate(current, catalogue, steps=steps)

        evaluate(project, catalogue, steps=steps)
        edit()
        held.append(report(f"edit to evaluation, {kind}", timed(edit, RUNS), KINDS[kind]))
    return held


def field_sampler(project: Project, catalogue: Catalogue) -> Callable[[], object]:
    """Evaluates FIELD packs of all cells at once."""
    import numpy as np

    from lumvak.core.comparison.all_packs import field_at
    from lumvak.core.evaluate import evaluate

    hand = evaluate(project, catalogue).sized.sized_pack
    draw = np.random.default_rng(1)
    rows = draw.integers(0, len(hand.table.cells), FIELD)
    series, parallel = (draw.integers(1, most, FIELD).astype(float) for most in (40, 64))
    return lambda: field_at(hand.table, hand.terms, hand.pack, rows, series, parallel)


def hour_runner(project: Project, catalogue: Catalogue) -> Callable[[], object]:
    """Runs the pack in hand for an hour of changing load in steps of one second."""
    import numpy as np

    from lumvak.core.evaluate import evaluate
    from lumvak.core.run.discharge import discharge
    from lumvak.core.run.model import RunStep

    pack = evaluate(project, catalogue).run.pack
    amps = np.random.default_rng(1).uniform(5.0, 30.0, 3600).tolist()
    duty = [RunStep(value, None, 1.0) for value in amps]
    return lambda: discharge(pack, duty, 1.0, longest_s=3600.0)


def charging_lines(project: Project, catalogue: Catalogue) -> list[bool]:
    """An hour of a charge, cycles of 24 groups that differ, and an edit of the charger."""
    import numpy as np

    from lumvak.core.balancing.cycles import CycleSetting, cycles
    from lumvak.core.balancing.groups_run import Bleed, Groups
    from lumvak.core.balancing.phase import COARSE, Equipment
    from lumvak.core.charging_in_hand import charge_in_hand
    from lumvak.core.evaluate import evaluate

    evaluation = evaluate(project, catalogue)
    hours = charge_in_hand(evaluation).hours
    times, loop = timed(lambda: charge_in_hand(evaluation), RUNS // 3)
    hour = ([value / hours for value in times], loop)
    own, draw = evaluation.charging.now.groups, np.random.default_rng(1)
    count = 24
    groups = Groups(
        own.behaviour,
        15.0 * (1.0 + 0.02 * draw.standard_normal(count)),
        np.full(count, float(own.ohm[0])),
        np.zeros(count),
    )
    share = np.clip(0.3 + 0.02 * draw.standard_normal(count), 0.0, 1.0)
    use = CycleSetting(5.0, 4.2 * count, 0.5, 4.25, 4.15, 2.0, 8.0, 2.9, 40.0)
    having = Equipment(Bleed(4.18, amps=0.06), grain=COARSE)
    ten = timed(lambda: cycles(groups, share, 25.0, use, having, 10), RUNS // 3)
    return [
        report("an hour of a charge", hour, 1.3),
        report("ten cycles of 24 groups", ten, 6.6),
    ]


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
    import numpy as np
    from scipy.sparse.linalg import spsolve

    from lumvak.core.document.edit import with_values
    from lumvak.core.evaluate import evaluate
    from lumvak.core.joints.joined_pack import moved_lead
    from lumvak.core.joints.network import branches_of, conductance, solve
    from lumvak.core.joints.variants import nearest_lead, variant_of
    from lumvak.core.steps import Steps

    held = []
    milliohms = (0.05 + 1e-5 * step for step in itertools.count())
    for series, parallel, target in ((20, 20, 1.0), (40, 40, 6.0), (20, 100, 8.0)):
        wide, steps = wide_pack(project, series, parallel), Steps()
        evaluate(wide, catalogue, steps=steps)

        def edit(wide: Project = wide, steps: Steps = steps) -> None:
            changed = with_values(wide, {"joints.contact_mohm": next(milliohms)})
            evaluate(changed, catalogue, steps=steps)

        edit()
        held.append(
            report(f"edit of a joint, {series}S{parallel}P", timed(edit, RUNS // 2), target)
        )
    evaluation = evaluate(wide_pack(project, 20, 20), catalogue)
    places = itertools.cycle(range(0, 440, 7))

    def drag() -> None:
        lead = nearest_lead(evaluation.laid_out.joined_pack, "-", 0.0, float(next(places)))
        solved = moved_lead(evaluation.laid_out.joined_pack, 0, lead)
        assert solved is not None
        variant_of(evaluation.laid_out.joined_pack, solved, "dragged")

    held.append(report("a take-off dragged, 20S20P", timed(drag, RUNS), 0.6))
    network = evaluation.laid_out.joined_pack.network
    assert network is not None

    def assembly() -> None:
        conductance(branches_of(network))

    matrix = conductance(branches_of(network))
    wanted = np.zeros(matrix.shape[0])
    wanted[-1] = -1.0
    bare = statistics.median(timed(lambda: spsolve(matrix, wanted), RUNS)[0])
    allowed = statistics.median(timed(assembly, RUNS)[0]) + 1.5 * bare
    own, loop = timed(lambda: solve(network), RUNS)
    median = statistics.median(own)
    print(
        f"{'solve of 20S20P, median':<44} median {median:8.2f} ms   ratio {median / loop:6.2f}   "
        f"assembly + 1.5 × bare spsolve {allowed:.2f} ms   "
        f"{'held' if median <= allowed else 'MISSED'}"
    )
    return [*held, median <= allowed]


def ten_times(catalogue: Catalogue, times: int) -> Catalogue:
    """A catalogue with every part so many times, each under its own name."""
    from lumvak.core.catalogue.catalogue import Catalogue, Parts

    every = catalogue.all_parts
    bundles = [every]
    for turn in range(1, times):
        copied = {
            name: tuple(replace(part, id=f"{part.id}-{turn}") for part in parts)
            for name, parts in asdict(every).items()
            if name != "chemistries"
        }
        bundles.append(Parts(**copied, chemistries=every.chemistries))
    return Catalogue(bundles)


def catalogue_lines(project: Project, catalogue: Catalogue) -> list[bool]:
    """An edit of the load with many parts at hand."""
    from lumvak.core.document.edit import with_values
    from lumvak.core.evaluate import evaluate
    from lumvak.core.steps import Steps

    held = []
    for times, target in ((10, 1.8), (50, 3.6)):
        many, steps = ten_times(catalogue, times), Steps()
        currents = (20.0 + 0.01 * step for step in itertools.count())

        def edit(many: Catalogue = many, steps: Steps = steps, currents: Any = currents) -> None:
            evaluate(with_values(project, {"need.current_a": next(currents)}), many, steps=steps)

        edit()
        name = f"edit to evaluation, load, {times} times the parts"
        held.append(report(name, timed(edit, RUNS // 4), target))
    return held


def repaints(demo: Path) -> list[bool]:
    """One line per view, from an edit of the load to the repainted window."""
    from lumvak.ui.application import make_application, make_window

    app = make_application()
    window = make_window(app, demo)
    window.show()
    currents = (20.0 + 0.01 * step for step in itertools.count())
    held = []
    for key in VIEWS:
        stage, _, view = key.partition("/")
        window.open_stage(stage)
        if view:
            window.stages[stage].show_view(view)
        app.processEvents()

        def repaint() -> None:
            window.session.edit({"need.current_a": next(currents)})
            app.processEvents()

        repaint()
        held.append(
            report(
                f"edit to repainted stage, {key}",
                timed(repaint, RUNS // 2),
                1.75 if key in RICH else 1.35,
            )
        )
    window.session.undo_stack.setClean()
    window.close()
    return held


def pool(count: int) -> str:
    """A table of readings of so many made-up cells."""
    rows = [
        f"{place};3.6{place % 10};{2.45 + 0.03 * math.sin(place * 7.1):.3f};"
        f"{47.0 + 1.6 * math.sin(place * 3.7):.1f}"
        for place in range(1, count + 1)
    ]
    return "number;volts;ah;mohm\n" + "\n".join(rows)


def dealing_lines() -> list[bool]:
    """Pools dealt into groups, and a table of 5,000 cells taken in."""
    from lumvak.core.document.edit import with_values
    from lumvak.core.document.hand import Hand, HandCell
    from lumvak.core.document.project import Project
    from lumvak.core.matching.optimiser import optimised
    from lumvak.core.matching.pool import pool_of
    from lumvak.core.matching.readings import merged
    from lumvak.files.kept.recovery import RecoveryCopy
    from lumvak.files.readings_file import read_readings

    held = []
    for count, series, parallel, target in ((140, 13, 10, 3.3), (1000, 100, 10, 66.0)):
        cells = [HandCell(**cell) for cell in read_readings(pool(count), "pool").cells]
        dealt = pool_of(
            [(cell.number, cell.ah, (cell.mohm or 0.0) * 1e-3) for cell in cells], series, parallel
        )

        def deal(dealt: Any = dealt) -> None:
            optimised(dealt)

        name = f"{count} cells dealt into {series} groups of {parallel}"
        held.append(report(name, timed(deal, RUNS // 4), target))
    text = pool(5000)

    def paste() -> None:
        Hand(cells=merged((), read_readings(text, "pool").cells, "lot 1").cells)

    held.append(report("a table of 5,000 readings taken in", timed(paste, RUNS // 4), 13.0))
    many = merged((), read_readings(text, "pool").cells, "lot 1").cells
    project = with_values(Project(), {"hand.cells": many})
    with tempfile.TemporaryDirectory() as folder:
        copy = RecoveryCopy(Path(folder))
        kept = timed(lambda: copy.write(project, None), RUNS // 4)
        copy.close()
    held.append(report("a reading among 5,000 kept", kept, 1.5))
    return held


def reading_line(project: Project, catalogue: Catalogue) -> bool:
    """One reading changed among 5,000, to its evaluation."""
    from lumvak.core.document.edit import with_values
    from lumvak.core.evaluate import evaluate
    from lumvak.core.matching.readings import merged, with_reading
    from lumvak.core.steps import Steps
    from lumvak.files.readings_file import read_readings

    lot = project.hand.lots[0].name
    cells = merged((), read_readings(pool(5000), "pool").cells, lot).cells
    changes = {"hand.cells": cells, "hand.placed": (), "hand.pins": (), "hand.soldered": ()}
    many, steps = with_values(project, changes), Steps()
    evaluate(many, catalogue, steps=steps)
    volts = (3.6 + 1e-4 * (step % 900) for step in itertools.count())

    def change() -> None:
        fresh = with_reading(many.hand.cells, 2000, lot, "volts", next(volts))
        evaluate(with_values(many, {"hand.cells": fresh}), catalogue, steps=steps)

    change()
    return report("a reading among 5,000 changed", timed(change, RUNS // 4), 0.5)


def specification_line(project: Project, catalogue: Catalogue) -> bool:
    """The windows of every part, as they are worked out after each edit that is looked at."""
    from lumvak.core.evaluate import evaluate
    from lumvak.core.specification.topic import specification_in_hand

    evaluation = evaluate(project, catalogue)
    specification_in_hand(evaluation)
    measured = timed(lambda: specification_in_hand(evaluation), RUNS)
    return report("windows of every part", measured, 0.3)


def search_line(catalogue: Catalogue) -> bool:
    """The causes of a trouble after twenty readings of twenty groups."""
    from lumvak.core.trouble.case import case_of
    from lumvak.core.trouble.diagnosis import diagnosed
    from lumvak.core.trouble.readings import TroubleReading

    case = case_of(20, next(iter(catalogue.chemistries.values())))
    groups = [TroubleReading(f"group:{it}", value=3.7 + 1e-3 * (it % 3)) for it in range(1, 17)]
    whole = [TroubleReading("terminals", value=74.0), TroubleReading("pack", value=74.1)]
    loaded = [TroubleReading(it, "load", 10.0, 72.0) for it in ("terminals", "pack")]
    readings = [*whole, *groups, *loaded]
    measured = timed(lambda: diagnosed(case, "drops-out", readings), RUNS // 4)
    return report("causes after twenty readings", measured, 15.0)


def report_lines(catalogue: Catalogue) -> list[bool]:
    """Reports of the demo that was proven, its tests judged: three seconds are wanted at most."""
    from lumvak.core.evaluate import evaluate
    from lumvak.files.export.formats import report_bytes
    from lumvak.files.project_file import load_project

    proven = DEMOS / "hedge-trimmer.lumvak.json"
    evaluation = evaluate(load_project(proven, catalogue), catalogue)
    return [
        report(f"report as {words}", timed(lambda to=to: report_bytes(evaluation, to), 3), 200.0)
        for to, words in (("report", "PDF"), ("report-html", "HTML"))
    ]


def main() -> int:
    home = tempfile.mkdtemp()
    for name in ("XDG_CONFIG_HOME", "XDG_STATE_HOME", "XDG_DATA_HOME"):
        os.environ[name] = home
    compileall.compile_dir(SOURCE, quiet=2)
    from lumvak.files.catalogue_file import load_catalogue
    from lumvak.files.project_file import load_project

    fixed = statistics.median(loop_ms() for _ in range(RUNS))
    print(f"{'a fixed loop, to compare machines':<44} median {fixed:8.1f} ms   ratio   1.00")
    demo = largest_demo()
    print(f"largest demo: {demo.name}; {RUNS} runs warm, {COLD_RUNS} cold; ratios to the loop")
    catalogue, _ = load_catalogue()
    project = load_project(demo, catalogue)
    gc.collect()
    gc.freeze()
    held = edits(project, catalogue)
    held += catalogue_lines(project, catalogue)
    held.append(search_line(catalogue))
    sampler = field_sampler(project, catalogue)
    held.append(report(f"{FIELD} packs as arrays", timed(sampler, RUNS // 2), 3.0))
    held.append(
        report("an hour in steps of 1 s", timed(hour_runner(project, catalogue), RUNS // 2), 0.5)
    )
    held += charging_lines(project, catalogue)
    held.append(specification_line(project, catalogue))
    held += network_lines(project, catalogue)
    held += repaints(demo)
    held += dealing_lines()
    held.append(reading_line(project, catalogue))
    held += report_lines(catalogue)
    held.append(memory_line(demo))
    # Interpreter and NumPy alone take 7: no less can be had.
    for name, arguments, target in (
        ("lumvak --version", ["-m", "lumvak", "--version"], 4.0),
        ("lumvak size --help", ["-m", "lumvak", "size", "--help"], 4.0),
        ("lumvak size --top 1", ["-m", "lumvak", *SIZE, "--top", "1"], 19.0),
        ("lumvak size, ten options", ["-m", "lumvak", *SIZE], 32.0),
        ("cold start to a usable window", ["-c", START.format(file=str(demo))], 36.0),
    ):
        held.append(report(name, cold(arguments), target))
    print(f"{sum(held)} of {len(held)} held")
    return 0 if all(held) else 1


if __name__ == "__main__":
    sys.exit(main())
