"""Holds windows of parts against the evaluation: ./bench spec [how many].

For random needs: what is recommended lies in its windows; a random part is called good by its
windows exactly where nothing speaks against it once it is picked; a part made from the tight sides
passes; less current never narrows a window; where a window is empty none of two hundred random
parts does, and each change that is proposed opens it.
"""

from __future__ import annotations

import random
import sys
import time
from collections import Counter
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parent.parent))

from tests.needs import builders_need
from tests.specified import KINDS, against, in_force, missed, picked, pinned, random_part

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.power import AS_SPECIFIED_ID
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.evaluation import Evaluation
from lumvak.core.specification.contradictions import contradictions, empty_parts
from lumvak.core.specification.topic import specification_in_hand
from lumvak.core.spelling import spoken
from lumvak.files.catalogue_file import load_catalogue

HOW_MANY, DRAWN, TRIED = 1000, 1, 200
AGREE = 0.999
OPEN = {"bms": "protection.board", "fuse": "power.fuse", "charge-fuse": "power.charge_fuse",
        "connector": "power.connector"}  # fmt: skip
EASED = 0.85


def main(count: int) -> int:
    """Print what was found of so many needs; 0 where all holds."""
    catalogue = load_catalogue(own=Path("/nonexistent"))[0]
    told: Counter[str] = Counter()
    begun = time.perf_counter()
    for seed in range(count):
        project = builders_need(seed)
        evaluation = evaluate(project, catalogue)
        _recommended(evaluation, seed, told)
        fixed = pinned(project, evaluation)
        _drawn(fixed, catalogue, seed, told)
        _tight(fixed, catalogue, seed, told)
        _eased(fixed, catalogue, seed, told)
        _empty(fixed, catalogue, seed, told)
    print(f"{count} needs, {time.perf_counter() - begun:.0f} s")
    for name, number in sorted(told.items()):
        print(f"{name:<58} {number}")
    drawn = told["drawn parts"]
    share = 1.0 - told["NOT alike: windows and evaluation"] / max(drawn, 1)
    bad = [it for it in told if it.startswith("NOT ") and told[it] and "alike" not in it]
    held = not bad and share >= AGREE
    print(f"alike {100 * share:.2f} %: {'held' if held else 'MISSED ' + ', '.join(bad)}")
    return int(not held)


def _note(told: Counter[str], what: str, seed: int, *said: object) -> None:
    told[what] += 1
    print(what, seed, *said, flush=True)


def _recommended(evaluation: Evaluation, seed: int, told: Counter[str]) -> None:
    for kind in KINDS:
        part = in_force(evaluation, kind)
        if part is None:
            continue
        told["recommended parts"] += 1
        if missed(kind, part, evaluation):
            _note(told, "NOT in its windows: recommended", seed, kind)


def _drawn(project: Project, catalogue: Catalogue, seed: int, told: Counter[str]) -> None:
    evaluation = evaluate(project, catalogue)
    for kind in KINDS:
        draw = random.Random(f"{seed} {kind}")
        for _ in range(DRAWN):
            part = random_part(kind, evaluation, draw)
            windows = missed(kind, part, evaluation)
            engine = against(evaluate(picked(project, kind, part), catalogue), kind)
            told["drawn parts"] += 1
            told["of these good"] += not engine
            if bool(windows) != bool(engine):
                _note(told, "NOT alike: windows and evaluation", seed, kind, windows, engine)


def _tight(project: Project, catalogue: Catalogue, seed: int, told: Counter[str]) -> None:
    """All parts of the path as specified: made from the tight sides of their windows."""
    evaluation = evaluate(
        with_values(project, dict.fromkeys(OPEN.values(), AS_SPECIFIED_ID)), catalogue
    )
    for kind in OPEN:
        part = in_force(evaluation, kind)
        if part is None:
            continue
        told["parts of tight sides"] += 1
        codes = against(evaluation, kind)
        if codes and kind not in empty_parts(evaluation):
            _note(told, "NOT passed: of tight sides", seed, kind, codes)


def _bounds(evaluation: Evaluation) -> dict[tuple[str, str, str], tuple[float, float]]:
    return {
        (part.key, window.name, window.case): window.bounds
        for part in specification_in_hand(evaluation).parts
        for window in part.windows
        if window.must and window.at_s is None and part.key in ("bms", "connector", "switch")
    }


def _eased(project: Project, catalogue: Catalogue, seed: int, told: Counter[str]) -> None:
    need = project.need
    if need.load_basis != "current":
        return
    changes = {"need.current_a": EASED * need.current_a}
    if need.peak_current_a is not None:
        changes["need.peak_current_a"] = EASED * need.peak_current_a
    narrow = _bounds(evaluate(project, catalogue))
    wide = _bounds(evaluate(with_values(project, changes), catalogue))
    told["eased needs"] += 1
    for key, (low, high) in narrow.items():
        if key in wide and (wide[key][0] > low * (1 + 1e-9) or wide[key][1] < high * (1 - 1e-9)):
            _note(told, "NOT wider: an eased need", seed, key)


def _empty(project: Project, catalogue: Catalogue, seed: int, told: Counter[str]) -> None:
    """A thin wire and a higher peak, so that windows are empty now and then."""
    draw = random.Random(seed)
    evaluation = evaluate(project, catalogue)
    peak = evaluation.sized.demand.peak.number * draw.uniform(1.5, 4.0)
    thin = with_values(
        project,
        {
            "need.peak_current_a": peak,
            "need.peak_duration_s": draw.choice((2.0, 5.0, 10.0)),
            "need.controller_limit_a": None,
            "leads.area_mm2": evaluation.sized.wire.area.number * draw.uniform(0.3, 1.0),
            "power.fuse": None,
            "protection.board": None,
        },
    )
    evaluation = evaluate(thin, catalogue)
    for item in contradictions(evaluation, lambda other: evaluate(other, catalogue)):
        told["empty windows"] += 1
        for _ in range(TRIED):
            part = random_part(item.part, evaluation, draw)
            if not missed(item.part, part, evaluation):
                _note(told, "NOT empty: a drawn part does", seed, item.part, part)
                break
        if not item.changes:
            _note(told, "NOT opened: no change is known", seed, item.part)
        for change in item.changes:
            told["changes proposed"] += 1
            opened = evaluate(with_values(thin, change.changes), catalogue)
            if item.part in empty_parts(opened):
                _note(told, "NOT opened: by what is proposed", seed, spoken(change.text))


if __name__ == "__main__":
    sys.exit(main(int(sys.argv[1]) if len(sys.argv) > 1 else HOW_MANY))
