"""What the sizing proposes first for random needs, held against its own evaluation."""

from __future__ import annotations

import statistics
import sys
import tempfile
import time
from collections import Counter
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parents[1]))

from tests.needs import random_need
from tests.pairs import gained, random_pair

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate, stops_of
from lumvak.core.evaluation import Evaluation
from lumvak.core.steps import Steps
from lumvak.files.catalogue_file import load_catalogue

NEEDS = 1000
# Pairs of needs for each need of the campaign.
PAIRS_A_NEED = 2
# So much heavier than the lightest that serves is told.
HEAVY = 2.0


def another_stands(project: Project, catalogue: Catalogue, seen: Evaluation) -> str:
    """The first of all options that nothing stops, in words; empty where there is none."""
    options, steps = seen.options, Steps()
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


def main(needs: int = NEEDS) -> int:
    catalogue, _ = load_catalogue(own=Path(tempfile.mkdtemp()) / "none")
    stopped: Counter[str] = Counter()
    forms: Counter[str] = Counter()
    weights: list[float] = []
    without, none_stands, wrong = 0, 0, 0
    begun = time.monotonic()
    for seed in range(needs):
        project = random_need(seed)
        seen = evaluate(project, catalogue)
        if not len(seen.options):
            without += 1
            continue
        forms[seen.choice.cell.format] += 1
        weights.append(float(seen.options.mass_kg[0] / seen.options.mass_kg.min()))
        stops = stops_of(seen)
        if not stops:
            continue
        stopped.update(stops)
        none_stands += 1
        if better := another_stands(project, catalogue, seen):
            wrong += 1
            print(f"need {seed}: stopped by {', '.join(stops)}, and {better} is not")
    heavy = sum(ratio > HEAVY for ratio in weights)
    for what, count in (
        ("random needs", needs),
        ("without an option", without),
        ("first option stopped", none_stands),
        ("of these with another that is not", wrong),
        (f"first heavier than {HEAVY:g} times the lightest", heavy),
    ):
        print(f"{what:<44} {count:6d}")
    print(
        f"{'weight of the first over the lightest, median':<44} {statistics.median(weights):6.2f}"
    )
    print(f"{'stopped by':<44} {dict(stopped.most_common())}")
    print(f"{'forms of the first':<44} {dict(forms.most_common())}")
    gaining = pairs(PAIRS_A_NEED * needs, catalogue)
    print(f"{'seconds':<44} {time.monotonic() - begun:6.0f}")
    return 1 if wrong or gaining else 0


def pairs(count: int, catalogue: Catalogue) -> int:
    """How many pairs of needs gain a pack by asking for more."""
    gaining = 0
    for seed in range(count):
        project, harder, way = random_pair(seed)
        if packs := gained(project, harder, catalogue):
            gaining += 1
            print(f"pair {seed}, {way}: gains {', '.join(packs[:3])}")
    print(f"{'random pairs, the second asking for more':<44} {count:6d}")
    print(f"{'of these that gain a pack by it':<44} {gaining:6d}")
    return gaining


if __name__ == "__main__":
    sys.exit(main(*map(int, sys.argv[1:])))
