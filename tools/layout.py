"""Holds random packs, laid and joined from defaults alone, against a look at their metal.

Whether any pieces of different potential touch, whether every pack that fits is solved, whether the
cut list, the drawing and the solved network hold the same pieces; how many places of the best
lattice are found; whether what a refusal asks for is enough, and whether a small room is refused
where a search through all paths finds one.
"""

from __future__ import annotations

import io
import random
import re
import sys
import time
from collections import Counter
from pathlib import Path

from msgspec.structs import replace

sys.path.insert(0, str(Path(__file__).resolve().parent.parent))

import ezdxf
from tests.packs import (
    ROOMS,
    best_lattice,
    in_the_way,
    path_exists,
    random_pack,
    room_of,
    small_room,
    touching,
)

from lumvak.core.arrangement.lattice import lattices_in
from lumvak.core.arrangement.outline import outline_of
from lumvak.core.arrangement.proposals import placed
from lumvak.core.arrangement.set_aside import usable
from lumvak.core.arrangement.walk import walked_path
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.arrangement import Arrangement, Room
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.evaluation import Evaluation
from lumvak.files.catalogue_file import load_catalogue
from lumvak.files.export.formats import exported

HOW_MANY = 2000
WANTED = {"triangle": 0.95}
LACKS = re.compile(r"([\d.]+) mm in (length|width|diameter)")
HEIGHT = re.compile(r"height: (\d+) mm for")


def main(count: int) -> int:
    """Print what was found of ``count`` packs; 0 where all holds."""
    catalogue = load_catalogue(own=Path("/nonexistent"))[0]
    told: Counter[str] = Counter()
    begin = time.perf_counter()
    for seed in range(count):
        _pack(catalogue, seed, told)
    print(f"{time.perf_counter() - begin:.0f} s")
    wrong = _rooms(catalogue, max(40, count // 20), told)
    _small(max(40, count // 10), told)
    for name, number in told.items():
        print(f"{name:<52} {number}")
    bad = [name for name in told if name.startswith("NOT ") and told[name]]
    print("held" if not bad and not wrong else f"MISSED: {', '.join([*bad, *wrong])}")
    return int(bool(bad or wrong))


def _pack(catalogue: Catalogue, seed: int, told: Counter[str]) -> None:
    pack = random_pack(catalogue, seed)
    evaluation = evaluate(pack.project, catalogue)
    joined_pack = evaluation.laid_out.joined_pack
    placing = joined_pack.placing
    told["packs"] += 1
    told["packs that fit"] += placing.fits
    near = evaluation.laid_out.clearance.found.near
    codes = {item.code for item in evaluation.findings}
    by_hand = touching(evaluation)
    found = {
        "NOT solved though they fit": placing.fits and joined_pack.solved is None,
        "NOT clear, by the program": any(item.touches for item in near),
        "NOT clear, by a look apart": bool(by_hand),
        "NOT clear of the parts in the room": placing.fits and bool(in_the_way(evaluation)),
        "NOT told though nearer than the least": bool(evaluation.laid_out.clearance.flaws)
        and not codes & {"metal-near", "metal-touches", "metal-wall"},
        "NOT the same pieces in cut list and network": sorted(
            piece for cut in evaluation.cuts for piece in cut.pieces
        )
        != list(range(len(evaluation.laid_out.joined_pack.pieces))),
    }
    if seed % 20 == 0:
        found["NOT the same pieces in the drawing"] = not _drawn_alike(evaluation)
    if seed % 25 == 0 and placing.fits:
        found["NOT clear, of other proposals"] = _others_touch(pack.project, catalogue, evaluation)
    if placing.short and seed % 4 == 0:
        found["NOT enough though asked for"] = not _enough(pack.project, catalogue, evaluation)
        told["refusals tried"] += 1
    told["nearer than the least, and told"] += bool(evaluation.laid_out.clearance.flaws)
    for name, wrong in found.items():
        told[name] += wrong
        if wrong:
            print(pack.name, "|", name, "|", placing.short, by_hand[:1], flush=True)


def _drawn_alike(evaluation: Evaluation) -> bool:
    """Whether the DXF, read by another reader, has a closed line for every strip that is cut."""
    drawing = ezdxf.read(io.StringIO(exported(evaluation, "dxf").decode("utf-8")))  # type: ignore[attr-defined]
    lines = [
        item for item in drawing.modelspace().query("LWPOLYLINE") if "_STRIPS_" in item.dxf.layer
    ]
    wanted = sorted(
        round(max(point[0] for point in ring) - min(point[0] for point in ring), 2)
        for cut in evaluation.cuts
        for ring in (*cut.outlines, *cut.windows, *(ring for _, ring in cut.beyond))
    )
    drawn = sorted(round(max(x for x, *_ in line) - min(x for x, *_ in line), 2) for line in lines)
    return len(wanted) == len(drawn) and all(
        abs(one - other) < 0.011 for one, other in zip(wanted, drawn, strict=True)
    )


def _others_touch(project: Project, catalogue: Catalogue, evaluation: Evaluation) -> bool:
    for proposal in evaluation.laid_out.joined_pack.placing.proposals[1:4]:
        other = evaluate(with_values(project, {"arrangement.way": proposal.key}), catalogue)
        if touching(other):
            return True
    return False


def _enough(project: Project, catalogue: Catalogue, evaluation: Evaluation) -> bool:
    """Whether everything that a refusal says would be enough is, in a box and a tube."""
    short, room = evaluation.laid_out.joined_pack.placing.short, project.arrangement.room
    if room.kind not in ("box", "round"):
        return True
    bigger = [
        {f"{name}_mm": getattr(room, f"{name}_mm") + float(mm) + 0.05}
        for mm, name in LACKS.findall(short)
    ]
    bigger += [{"height_mm": float(tall)} for tall in HEIGHT.findall(short)]
    for change in bigger:
        larger = replace(project.arrangement, room=replace(room, **change))
        layout, wanted = evaluation.laid_out.joined_pack.layout, project.arrangement
        holder = evaluation.sized.parts.holders.get(wanted.holder or "")
        if not placed(
            larger,
            evaluation.sized.choice.cell,
            layout.series,
            layout.parallel,
            project.joints.gap_mm,
            holder,
        ).fits:
            print(short, change)
            return False
    return True


def _rooms(catalogue: Catalogue, count: int, told: Counter[str]) -> list[str]:
    """Places found in random rooms against the best lattice at any angle; what misses."""
    cell = catalogue.cells["ostrel-21-48"]
    found: Counter[str] = Counter()
    best: Counter[str] = Counter()
    for seed in range(count):
        draw = random.Random(seed)
        kind, nested = draw.choice(ROOMS[1:]), draw.random() < 0.5
        room = Room(**room_of(draw, kind, draw.uniform(20, 120) * 21.3**2 * 1.5))
        arrangement = Arrangement(room=room, rows="nested" if nested else "straight")
        free = usable(outline_of(room)[0], arrangement, cell, 1.5)
        assert free is not None
        sites = lattices_in(free, arrangement, cell, 1.5, every_angle=True)
        found[kind] += max(map(len, sites), default=0)
        best[kind] += best_lattice(free, 21.3, 1.5, nested)  # type: ignore[arg-type]
    for kind in sorted(best):
        told[f"places found in rooms of kind {kind}, of 1000"] = round(
            1000 * found[kind] / best[kind]
        )
    return [
        f"places in {kind}" for kind in best if found[kind] < WANTED.get(kind, 0.98) * best[kind]
    ]


def _small(count: int, told: Counter[str]) -> None:
    """Small rooms against a search through all paths."""
    for seed in range(count):
        draw = random.Random(seed)
        grid = [(column, row) for column in range(4) for row in range(4)]
        sites = small_room(sorted(draw.sample(grid, draw.randint(5, 12))))
        parallel = draw.randint(1, 3)
        series = draw.randint(2, max(2, len(sites) // parallel))
        if series * parallel > len(sites):
            continue
        there = path_exists(sites, series, parallel)
        told["small rooms with a path"] += there
        told["NOT found though there is a path"] += there and (
            walked_path(sites, series, parallel) is None
        )


if __name__ == "__main__":
    raise SystemExit(main(int(sys.argv[1]) if len(sys.argv) > 1 else HOW_MANY))
