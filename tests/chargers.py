"""Made-up packs and chargers: what is said of them against what a run of them does."""

from __future__ import annotations

from collections import Counter, defaultdict

import numpy as np
from msgspec import Struct, field
from msgspec.structs import replace

from lumvak.core.balancing.cycles import CycleSetting, cycles
from lumvak.core.balancing.groups_run import Array, Bleed, BodyWarmth, Groups
from lumvak.core.balancing.imbalance import imbalance
from lumvak.core.balancing.phase import COARSE, FINE, Equipment, Phase, State, phase_run
from lumvak.core.catalogue.boards import Board
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.catalogue.chargers import CHARGER_KINDS, Charger
from lumvak.core.cells.behaviour import behaviour_of
from lumvak.core.charging.charger import ChargeSetting
from lumvak.core.charging.reasons import end_current
from lumvak.core.charging.to_full import FullSetting, charge_run
from lumvak.core.charging.verdict import verdict_on
from lumvak.core.figures.figure import typed
from lumvak.files.catalogue_file import load_catalogue

STILL = BodyWarmth(1e-6, 1e9, 25.0)
# Cells are over what they bear from here on, over their full voltage.
OVER = 1.006


class Found(Struct):
    """What came out: counts by verdict, the highest a cell got, and differences."""

    kinds: Counter[str] = field(default_factory=Counter)
    highest: dict[str, float] = field(default_factory=lambda: defaultdict(float))
    harmless: Counter[str] = field(default_factory=Counter)
    faults: list[str] = field(default_factory=list)
    stops: list[float] = field(default_factory=list)
    usable: list[float] = field(default_factory=list)
    charge: list[float] = field(default_factory=list)
    energy: list[float] = field(default_factory=list)
    steps: list[float] = field(default_factory=list)


def pack_of(catalogue: Catalogue, draw: np.random.Generator) -> ChargeSetting:
    """A pack of a sample cell, with the board for it, as a charger sees it."""
    cells = list(catalogue.cells.values())
    cell = cells[int(draw.integers(len(cells)))]
    chemistry = catalogue.chemistry_of(cell)
    series, parallel = int(draw.integers(3, 25)), int(draw.integers(1, 13))
    near = [
        board
        for board in catalogue.boards.values()
        if board.family == chemistry.family and board.kind == "full"
    ]
    board: Board = min(near, key=lambda item: abs(item.series - series))
    board = replace(board, series=series, switch_v=None)
    seen = behaviour_of(cell, chemistry)
    ceiling = cell.voltage_full_v
    if draw.random() < 0.3:
        ceiling = round(ceiling - float(draw.uniform(0.02, 0.15)), 3)

    def amps(key: str, value: float) -> object:
        return typed(key, key, value, "A")

    most = cell.charge_max_a or cell.charge_standard_a
    group = Groups(
        seen,
        np.array([parallel * cell.capacity_typical_ah]),
        np.array([seen.steady_ohm / parallel]),
        np.zeros(1),
        0.03 / series,
    )
    return ChargeSetting(
        cell,
        chemistry.family,
        seen,
        series,
        parallel,
        ceiling,
        typed("charge.voltage_v", "v", series * ceiling, "V"),
        amps("charge.cells_a", parallel * cell.charge_standard_a),  # type: ignore[arg-type]
        amps("charge.most_a", parallel * most),  # type: ignore[arg-type]
        (amps("board.charge_a", board.charge_a),),  # type: ignore[arg-type]
        group,
        board,
        ceiling,
    )


# A cell comes to harm over so many times its full voltage; what a meter does not tell apart.
LIMIT = {"phosphate": 1.03}
HAIR = 1e-6


def varied(setting: ChargeSetting, draw: np.random.Generator) -> ChargeSetting:
    """The same pack with its board, with none, with a balancer alone, or with one that is late."""
    board = setting.board
    assert board is not None
    way = int(draw.integers(6))
    if way == 0:
        board = None
    elif way == 1:
        board = replace(board, kind="balancer")
    elif way == 2:
        board = replace(board, over_voltage_v=1.06 * setting.cell.voltage_full_v)
    celsius = float(draw.choice([25.0, 25.0, 10.0, -10.0, 52.0]))
    senses = board is not None and bool(draw.random() < 0.7)
    return replace(setting, board=board, celsius=celsius, senses=senses)


def any_charger(setting: ChargeSetting, draw: np.random.Generator) -> Charger:
    """A charger with all that can be said of one, near the right volts or far from them."""
    made = charger_of(setting, draw)
    return replace(
        made,
        equalise=str(draw.choice(["unknown", "off", "on"])),
        compensates=str(draw.choice(["unknown", "off", "on"])),
        limited=bool(draw.random() < 0.8),
    )


def most_v(setting: ChargeSetting, charger: Charger) -> float:
    """The highest volts for each group in series, in a few lines of their own."""
    if charger.kind == "nickel":
        return 1e9
    shows = [charger.volts, charger.open_v or 0.0]
    if charger.kind == "lead" and charger.equalise != "off":
        shows.append(charger.volts * 15.5 / 14.4)
    if charger.kind == "lead" and charger.compensates == "on":
        # 24 mV a K on the six cells of 14.4 V, from 25 °C down.
        rise = 0.024 / 14.4 * max(0.0, 25.0 - setting.celsius)
        shows.append(max(shows) * (1.0 + rise))
    return max(shows) / setting.series


def mistaken(setting: ChargeSetting, charger: Charger) -> str:
    """What is wrong with the verdict on a charger, by volts alone; empty where nothing is."""
    verdict = verdict_on(charger, setting)
    full, board = setting.cell.voltage_full_v, setting.board
    limit = full * LIMIT.get(setting.family, 1.02) + HAIR
    works = board is not None and board.kind != "balancer"
    cap = board.over_voltage_v if works and board is not None else float("inf")
    each = most_v(setting, charger)
    if verdict.stop != (verdict.kind == "wrong"):
        return "a stop that is not wrong, or the other way"
    # However the groups stand, one of them can get to all that the board lets through.
    if verdict.kind != "wrong" and works and min(cap, 1e6 * each) > limit:
        if verdict.kind == "leans" and each > limit:
            return f"leans, and the BMS lets {cap:.3f} V through"
        if verdict.kind != "leans":
            return f"{verdict.kind}, and the BMS lets {cap:.3f} V through"
    # Alike, with the board failed or not there, they share the volts of the charger.
    if verdict.kind in ("right", "short", "over-ceiling") and each > limit:
        return f"{verdict.kind}, and {each:.3f} V a cell where the BMS fails"
    if verdict.kind == "leans" and not works and each > full * 1.005 + HAIR:
        return f"leans with nothing to lean on, at {each:.3f} V a cell"
    cell = setting.cell
    fine = (
        charger.kind == "cccv"
        and abs(charger.volts / setting.volts.number - 1.0) < 0.0049
        and (charger.open_v or 0.0) <= charger.volts
        and works
        and cap <= limit
        and cell.charge_min_c <= setting.celsius <= cell.charge_max_c
        and charger.amps <= min(item.number for item in (*setting.limits, setting.most_cells))
    )
    return f"right, but called {verdict.kind}" if fine and verdict.kind != "right" else ""


def grid(count: int, seed: int = 3) -> tuple[Counter[str], list[str]]:
    """So many packs and chargers: how many of each verdict, and what is wrong with any."""
    catalogue, _ = load_catalogue()
    draw = np.random.default_rng(seed)
    kinds: Counter[str] = Counter()
    wrong: list[str] = []
    for _ in range(count):
        setting = varied(pack_of(catalogue, draw), draw)
        charger = any_charger(setting, draw)
        kinds[verdict_on(charger, setting).kind] += 1
        if found := mistaken(setting, charger):
            wrong.append(
                f"{found}: {charger!r}, {setting.series} in series, {setting.celsius:g} °C"
            )
    return kinds, wrong


def charger_of(setting: ChargeSetting, draw: np.random.Generator) -> Charger:
    """A charger: right, a little or far off, or of another kind."""
    kinds = list(CHARGER_KINDS)
    kind = kinds[int(draw.choice(4, p=[0.6, 0.15, 0.1, 0.15]))]
    off = float(draw.choice([0.0, draw.normal(0.0, 0.004), draw.uniform(-0.12, 0.25)]))
    volts = setting.volts.number * (1.0 + off)
    amps = min(setting.by_cells.number, 20.0) * float(draw.uniform(0.05, 1.2))
    open_v = volts * float(draw.uniform(1.0, 2.6)) if draw.random() < 0.2 else None
    return Charger(
        id="one",
        name="one",
        kind=kind,
        volts=volts,
        amps=max(amps, 0.05),
        open_v=open_v,
        equalise="off",
    )


def alike(setting: ChargeSetting) -> Groups:
    """All groups of a pack, each like the other."""
    count, group = setting.series, setting.group
    return replace(
        group,
        ah=np.full(count, setting.group_ah),
        ohm=np.full(count, group.ohm[0]),
        leak_a=np.zeros(count),
        path_ohm=group.path_ohm * count,
    )


def judged(setting: ChargeSetting, charger: Charger, found: Found) -> None:
    """A verdict against the charge with its board and without it."""
    verdict = verdict_on(charger, setting)
    found.kinds[verdict.kind] += 1
    groups, begin = alike(setting), np.full(setting.series, 0.5)
    hold = None if charger.kind == "nickel" else verdict.highest.volts
    end = end_current(charger)
    far = 1.5 * setting.cell.voltage_full_v
    bare = FullSetting(charger.amps, hold, end, None, far if hold is None else None, None, 0.1)
    alone = charge_run(groups, begin, bare, STILL, grain=COARSE)
    over = float(alone.group_v[-1].max()) / setting.cell.voltage_full_v
    found.highest[verdict.kind] = max(found.highest[verdict.kind], over)
    if verdict.kind in ("right", "short") and over > OVER:
        found.faults.append(f"{verdict.kind} and {over:.3f} of full: {charger}")
    if verdict.kind == "leans" and over <= OVER:
        found.harmless["leans"] += 1
    if hold is None or hold <= setting.present_v(0.5) * 1.001:
        return
    use = replace(bare, over_v=setting.over_v)
    run = charge_run(groups, begin, use, STILL)
    if run.ended_by == "charger" and run.stops_share > 0.55:
        found.stops.append(abs(min(run.stops_share, 1.0) - verdict.stops_share))


def used(setting: ChargeSetting, draw: np.random.Generator, found: Found) -> None:
    """Groups that differ: the imbalance against a slow cycle, and what flows in a charge."""
    groups = alike(setting)
    count = setting.series
    ah = groups.ah * (1.0 + 0.04 * draw.standard_normal(count))
    share = np.clip(0.5 + 0.03 * draw.standard_normal(count), 0.05, 0.95)
    slow = replace(groups, ah=ah, ohm=1e-3 * groups.ohm, path_ohm=0.0)
    full, empty = setting.behaviour.rest_v[-1], setting.behaviour.rest_v[0]
    amps = float(ah.mean()) / 50.0
    use = CycleSetting(amps, 10.0 * count, 1e-6, full, None, 0.0, amps, empty, 0.0)
    (cycle,) = cycles(slow, share, 25.0, use, Equipment(grain=COARSE), 1)
    wanted = imbalance(ah, share * ah).usable_ah
    found.usable.append(abs(cycle.usable_ah - wanted) / float(ah.mean()))
    flows(setting, replace(groups, ah=ah), share, draw, found)


def flows(
    setting: ChargeSetting, groups: Groups, share: Array, draw: np.random.Generator, found: Found
) -> None:
    """A charge through a bleed: charge and energy conserved, and no step that decides."""
    count = len(share)
    leak = np.where(draw.random(count) < 0.2, 0.003, 0.0)
    groups = replace(groups, leak_a=leak)
    near = setting.ceiling_v - 0.05
    ohm = float(draw.uniform(10.0, 60.0))
    bleed = Bleed(near, ohm=ohm) if draw.random() < 0.5 else Bleed(near, amps=0.08)
    amps = 0.3 * float(groups.ah.mean())
    ends = []
    for grain in (FINE, COARSE):
        state = State(share.copy(), 25.0, np.zeros(count, dtype=bool))
        phase = Phase(amps, 1e6, count * setting.ceiling_v, 0.1 * amps)
        after, sums, _ = phase_run(groups, state, phase, Equipment(bleed, grain=grain))
        ends.append(float(after.charge.mean()))
        held = float(((after.charge - share) * groups.ah).sum())
        into = count * sums.ah - sums.bleed_ah - float(leak.sum()) * sums.seconds / 3600.0
        found.charge.append(abs(held - into))
        out = sums.stored_wh + sums.heat_wh + sums.bleed_wh + sums.leak_wh
        found.energy.append(abs(sums.wh - out))
    found.steps.append(abs(ends[1] - ends[0]))


def campaign(count: int, seed: int = 1) -> Found:
    """So many made-up packs with a charger each."""
    catalogue, _ = load_catalogue()
    draw, found = np.random.default_rng(seed), Found()
    for _ in range(count):
        setting = pack_of(catalogue, draw)
        judged(setting, charger_of(setting, draw), found)
        used(setting, draw, found)
    return found
