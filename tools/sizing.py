"""What the sizing proposes first for needs as builders have them, held against a rule of thumb,
against its own evaluation of every other option, and against needs a little different.
"""

from __future__ import annotations

import statistics
import sys
import tempfile
import time
from collections import Counter
from pathlib import Path

from msgspec import Struct, field

sys.path.insert(0, str(Path(__file__).parents[1]))

from rule_of_thumb import Asked, Thumb, thumb_packs
from tests.needs import builders_need
from tests.pairs import asked_a_little_more, gained, random_pair

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate, stops_of
from lumvak.core.evaluation import Evaluation
from lumvak.core.need.demand import demand_of
from lumvak.core.steps import Steps
from lumvak.files.catalogue_file import load_catalogue

NEEDS = 1000
# Pairs of needs for each need of the campaign.
PAIRS_A_NEED = 2
# What the campaign holds: shares of needs, and times the mass of the rule of thumb's lightest.
LEAST_SERVED, MOST_MEDIAN, HEAVY, MOST_HEAVY, TOO_HEAVY = 0.99, 1.5, 2.2, 0.03, 3.0
MOST_MOVED, MOST_BARE = 0.03, 0.02
# Findings that say why a pack is larger than run time and current ask for.
WHY = {"oversized"}


def asked_of(project: Project) -> Asked:
    """What a need asks, in the plain numbers of the rule of thumb."""
    need, demand = project.need, demand_of(project.need)
    amps = demand.load.current_a or demand.load_figure.number / need.rated_voltage_v
    hours = need.runtime_h
    if need.endurance_basis == "capacity":
        hours = need.capacity_ah / amps
    return Asked(
        need.rated_voltage_v,
        demand.window.highest.number,
        demand.window.stop.number if demand.window.binds else None,
        amps,
        max(amps, need.peak_current_a or 0.0),
        hours,
        demand.coldest.number,
    )


def another_stands(project: Project, catalogue: Catalogue, evaluation: Evaluation) -> str:
    """The first of all options that nothing stops, in words; empty where there is none."""
    options, steps = evaluation.sized.options, Steps()
    for place in range(len(options)):
        picked = {
            "pack.cell": options.cell(place).id,
            "pack.series": int(options.series[place]),
            "pack.parallel": int(options.parallel[place]),
        }
        taken = with_values(project, picked)
        if not stops_of(evaluate(taken, catalogue, found=options, steps=steps)):
            return f"{picked['pack.cell']} {picked['pack.series']}S{picked['pack.parallel']}P"
    return ""


class Tally(Struct):
    """What the campaign counts."""

    thumbed: int = 0
    served: int = 0
    without: int = 0
    ratios: list[float] = field(default_factory=list)
    too_heavy: list[str] = field(default_factory=list)
    stopped: Counter[str] = field(default_factory=Counter)
    wrong: int = 0
    none_stands: int = 0
    forms: Counter[str] = field(default_factory=Counter)
    moved: int = 0
    jumped: int = 0
    tried: int = 0
    alike: list[int] = field(default_factory=list)
    tools: list[float] = field(default_factory=list)


def words(evaluation: Evaluation) -> str:
    choice = evaluation.sized.choice
    return f"{choice.cell.id} {choice.series}S{choice.parallel}P"


def against_thumb(seed: int, evaluation: Evaluation, packs: list[Thumb], tally: Tally) -> None:
    """The mass of the first against the lightest by rule of thumb."""
    if evaluation.project.need.kind in ("supply", "portable"):
        packs = [
            pack for pack in packs if pack.cell.chemistry == evaluation.sized.choice.cell.chemistry
        ]
    if not packs:
        return
    mass, lightest = evaluation.figures["pack.mass_kg"].number, packs[0]
    ratio = mass / lightest.mass_kg
    tally.ratios.append(ratio)
    if ratio <= HEAVY:
        return
    why = WHY & {item.code for item in evaluation.findings}
    print(
        f"need {seed}: {words(evaluation)} {mass:.2f} kg, {ratio:.2f} times {lightest.cell.id} "
        f"{lightest.series}S{lightest.parallel}P, set by {evaluation.sized.pack.binding} "
        f"{sorted(why)}"
    )
    if ratio > TOO_HEAVY and not why:
        tally.too_heavy.append(str(seed))


def a_little_different(
    seed: int, project: Project, catalogue: Catalogue, evaluation: Evaluation, tally: Tally
) -> None:
    """One hundredth more of the load or the time: what was proposed stays, or is an equal."""
    choice = evaluation.sized.choice
    had = choice.cell.id, choice.series
    for changes in asked_a_little_more(project.need):
        tally.tried += 1
        after = evaluate(with_values(project, changes), catalogue, had=had)
        now = after.sized.choice
        if (now.cell.id, now.series) != had:
            tally.moved += 1
            print(f"need {seed}: {words(evaluation)} becomes {words(after)} with {changes}")
        elif abs(now.parallel - choice.parallel) > 1:
            tally.jumped += 1


def one_need(seed: int, catalogue: Catalogue, tally: Tally) -> None:
    project = builders_need(seed)
    evaluation = evaluate(project, catalogue)
    packs = thumb_packs(catalogue, project.need, asked_of(project))
    tally.thumbed += bool(packs)
    tally.served += bool(packs) and bool(len(evaluation.sized.options))
    if not len(evaluation.sized.options):
        tally.without += 1
        if packs:
            pack = packs[0]
            print(f"need {seed}: nothing, thumb {pack.cell.id} {pack.series}S{pack.parallel}P")
        return
    tally.forms[evaluation.sized.choice.cell.format] += 1
    tally.alike.append(int(evaluation.sized.options.alike.sum()))
    against_thumb(seed, evaluation, packs, tally)
    a_little_different(seed, project, catalogue, evaluation, tally)
    need = project.need
    if need.kind == "tool":
        # A nickel pack of that count and capacity: 20 g a cell and ampere-hour, 10 g a cell.
        old_kg = need.nickel_cells * (0.010 + 0.020 * need.capacity_ah)
        tally.tools.append(evaluation.figures["pack.mass_kg"].number / old_kg)
    stops = stops_of(evaluation)
    if stops:
        tally.stopped.update(stops)
        tally.none_stands += 1
        if better := another_stands(project, catalogue, evaluation):
            tally.wrong += 1
            print(f"need {seed}: stopped by {', '.join(stops)}, and {better} is not")


def main(needs: int = NEEDS) -> int:
    catalogue, _ = load_catalogue(own=Path(tempfile.mkdtemp()) / "none")
    tally, begun = Tally(), time.monotonic()
    for seed in range(needs):
        one_need(seed, catalogue, tally)
    heavy = sum(ratio > HEAVY for ratio in tally.ratios) / max(len(tally.ratios), 1)
    median = statistics.median(tally.ratios)
    moved, jumped = (count / max(tally.tried, 1) for count in (tally.moved, tally.jumped))
    bare = {code: tally.stopped[code] / needs for code in ("no-board", "no-fuse")}
    lines = (
        ("needs as builders have them", needs, True),
        ("the rule of thumb finds a pack", tally.thumbed, True),
        (
            "of these something serves, share",
            tally.served / max(tally.thumbed, 1),
            tally.served >= LEAST_SERVED * tally.thumbed,
        ),
        ("mass of the first over the thumb's, median", median, median < MOST_MEDIAN),
        (f"over {HEAVY:g} times it, share", heavy, heavy < MOST_HEAVY),
        (
            f"over {TOO_HEAVY:g} times it without a reason",
            len(tally.too_heavy),
            not tally.too_heavy,
        ),
        ("first option stopped", tally.none_stands, True),
        ("of these with another that is not", tally.wrong, not tally.wrong),
        ("first without a BMS, share", bare["no-board"], bare["no-board"] <= MOST_BARE),
        ("first without a fuse, share", bare["no-fuse"], bare["no-fuse"] <= MOST_BARE),
        ("1 % moves cell or series count, share", moved, moved < MOST_MOVED),
        ("1 % moves the parallel count by over one", jumped, not jumped),
        ("options as good as the first, median", statistics.median(tally.alike), True),
        (
            "tools: mass over the old nickel pack, median",
            statistics.median(tally.tools or [0.0]),
            statistics.median(tally.tools or [0.0]) < 1.0,
        ),
    )
    for what, value, holds in lines:
        print(f"{what:<48} {value:9.4g} {'' if holds else '  does not hold'}")
    print(f"{'stopped by':<48} {dict(tally.stopped.most_common())}")
    print(f"{'forms of the first':<48} {dict(tally.forms.most_common())}")
    gaining = pairs(PAIRS_A_NEED * needs, catalogue)
    print(f"{'seconds':<48} {time.monotonic() - begun:9.0f}")
    return 0 if all(holds for _, _, holds in lines) and not gaining else 1


def pairs(count: int, catalogue: Catalogue) -> int:
    """How many pairs of needs gain a pack by asking for more."""
    gaining = 0
    for seed in range(count):
        project, harder, way = random_pair(seed)
        if packs := gained(project, harder, catalogue):
            gaining += 1
            print(f"pair {seed}, {way}: gains {', '.join(packs[:3])}")
    print(f"{'random pairs, the second asking for more':<48} {count:9d}")
    print(f"{'of these that gain a pack by it':<48} {gaining:9d}")
    return gaining


if __name__ == "__main__":
    sys.exit(main(*map(int, sys.argv[1:])))
