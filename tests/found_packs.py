"""Packs drawn with a known truth, and what somebody saw of them.

The truth is worked out here, apart from what the audit counts with: strips as a row of a hundred
slices, wires and wear in a few lines of their own.
"""

from __future__ import annotations

import random
from dataclasses import dataclass

import numpy as np

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.afterwards.as_found import AsFound

OHM_M = {"nickel": 6.99e-8, "plated steel": 1.43e-7, "copper": 1.724e-8, "nickel-copper": 1.865e-8}
W_PER_M_K = {"nickel": 91.0, "plated steel": 51.0, "copper": 398.0, "nickel-copper": 367.3}
WIDTHS_MM = {"18650": 18.5, "21700": 21.5, "26650": 26.5, "32700": 32.5}
AH = {"18650": (1.2, 3.6), "21700": (2.5, 5.5), "26650": (2.3, 5.8), "32700": (4.6, 7.4)}
LIVES = {"cobalt": 500.0, "phosphate": 2000.0, "titanate": 8000.0, "sodium": 2000.0}
RATES = {"empty": 0.025, "half": 0.03, "full": 0.055}


@dataclass(frozen=True)
class DrawnFound:
    """All that may be seen of a pack, and what it truly gives and holds."""

    whole: AsFound
    amps: float
    ah: float
    joints_a: float


def slices_a(
    metal: str, thickness_mm: float, width_mm: float, layers: int, length_mm: float, rise_k: float
) -> float:
    """The current at which the middle of a strip rises so far: a row of slices, solved at once.

    Heat leaves by one face and both edges at 5 W/(m² K), and by 60 K/W at each end.
    """
    count = 401
    dx = length_mm * 1e-3 / (count - 1)
    stack = thickness_mm * layers
    area = stack * width_mm * 1e-6
    along = W_PER_M_K[metal] * area / dx
    off = 5.0 * (width_mm + 2.0 * stack) * 1e-3 * dx
    matrix = np.zeros((count, count))
    heat = np.full(count, OHM_M[metal] / area * dx)
    for at in range(count):
        share = 0.5 if at in (0, count - 1) else 1.0
        heat[at] *= share
        matrix[at, at] += off * share
        for beside in (at - 1, at + 1):
            if 0 <= beside < count:
                matrix[at, at] += along
                matrix[at, beside] -= along
    for end in (0, count - 1):
        matrix[end, end] += 1.0 / 60.0
    rise = np.linalg.solve(matrix, heat)
    return float((rise_k / rise[count // 2]) ** 0.5)


def drawn(seed: int, parts: Catalogue) -> DrawnFound:
    """A pack: long, for it is one drawing after the other."""
    draw = random.Random(seed)
    cells = [it for it in parts.cells.values() if it.format in WIDTHS_MM and it.origin == "new"]
    cell = draw.choice(cells)
    known = draw.random() < 0.8
    form, family = cell.format, parts.chemistry_of(cell).family
    low_ah, high_ah = AH[form]
    cell_ah = cell.capacity_typical_ah * draw.gauss(1.0, 0.02)
    rated = cell.continuous_a
    if not known:
        cell_ah = draw.uniform(low_ah, high_ah)
        rated = min(cell_ah * draw.uniform(2.0, 6.0), 30.0)
        family = "cobalt"
    series, parallel = draw.randint(4, 20), draw.randint(1, 12)
    years, charges = draw.uniform(0.0, 12.0), draw.uniform(0.0, 900.0)
    stored = draw.choice(("empty", "half", "full"))
    life = (cell.cycles if known and cell.cycles else None) or LIVES[family]
    lost = 0.2 * draw.lognormvariate(0.0, 0.3) * charges / life
    lost += RATES[stored] * draw.lognormvariate(0.0, 0.25) * years**0.5
    lost = min(lost, 0.7)
    grown = 1.0 + draw.uniform(1.7, 3.7) * lost
    cells_a = parallel * 0.8 * draw.gauss(1.0, 0.09) * rated / grown**0.5
    new_ah = parallel * cell_ah
    # Strips, and what comes along the groups to them.
    thickness = draw.choice((0.1, 0.15, 0.2, 0.3))
    width = draw.choice((5.0, 6.0, 7.0, 8.0, 10.0, 15.0))
    layers, strips = draw.choice((1, 1, 1, 2)), draw.randint(1, parallel)
    metal = draw.choices(("nickel", "plated steel", "nickel-copper", "copper"), (6, 3, 1, 1))[0]
    wide = cell.pitch_mm if known else WIDTHS_MM[form]
    one = slices_a(metal, thickness, width, layers, wide + 1.5, 20.0) * draw.gauss(1.0, 0.12)
    leave = draw.choice(("end", "middle", "spread"))
    beyond = {
        "end": parallel - 1.0,
        "middle": (parallel - 1.0) / 2.0,
        "spread": parallel / (2.0 * strips) if parallel > strips else 0.0,
    }[leave]
    along = parallel / (2.0 * strips) if parallel > strips else 0.0
    joints_a = one * min([strips, *(parallel / it for it in (beyond, along) if it > 0.0)])
    # From the BMS to the plug.
    able = [joints_a, cells_a]
    bms = "none" if draw.random() < 0.15 else "there"
    board_a = draw.choice((10.0, 15.0, 20.0, 30.0, 40.0, 60.0, 80.0))
    marked = board_a / (0.78 * draw.lognormvariate(0.0, 0.17))
    switches = max(1, round(board_a / draw.uniform(6.5, 24.0)))
    shunt = 1e3 * draw.uniform(0.016, 0.11) / board_a
    fuse = "none" if draw.random() < 0.3 else "there"
    fuse_a = draw.choice((15.0, 20.0, 30.0, 40.0, 60.0, 80.0))
    lead = draw.choice((0.75, 1.3, 2.1, 3.3, 5.3, 8.4, 13.3))
    outer = 1.2 * (4.0 * lead / np.pi) ** 0.5 + 1.6
    lead_a = (35.0 * 12.0 * np.pi * outer * 1e-3 / (1.724e-8 / (lead * 1e-6))) ** 0.5
    plug = draw.choice((8.0, 15.0, 20.0, 30.0, 45.0, 60.0, 100.0))
    able += [lead_a * draw.gauss(1.0, 0.09), plug * draw.gauss(1.0, 0.065)]
    able += [board_a] if bms == "there" else []
    able += [0.8 * fuse_a * draw.gauss(1.0, 0.05)] if fuse == "there" else []
    # Groups at rest, and what the lowest of them takes from all.
    spread = draw.choice((0.0, 0.0, 0.01, 0.03, 0.08, 0.2))
    chemistry = parts.chemistry_of(cell) if known else parts.chemistries["nmc"]
    charge, volts = np.array(chemistry.curve).T
    stand = [0.6] * (series - 1) + [0.6 - spread]
    if draw.random() < 0.05:
        stand[0] = 0.0
    group_v = tuple(round(float(np.interp(it, charge, volts)), 4) for it in stand)
    if stand[0] == 0.0:
        group_v = (0.9, *group_v[1:])
    holds = new_ah * (1.0 - lost) * (1.0 - (0.6 if stand[0] == 0.0 else spread))
    whole = AsFound(
        promised_a=round(draw.choice((10.0, 20.0, 30.0, 40.0, 60.0)), 1),
        promised_ah=new_ah / draw.uniform(0.49, 1.06),
        cell=cell.id if known else None,
        form=form,
        chemistry=chemistry.id,
        alike=draw.choices(("alike", "mixed"), (9, 1))[0],
        years=years,
        cycles=charges,
        stored=stored,
        series_cells=series,
        tap_wires=series + 1,
        full_v=series * (cell.voltage_full_v if known else float(volts[-1])),
        parallel=parallel,
        group_v=group_v,
        measured_ah=holds * draw.gauss(1.0, 0.016),
        strips=strips,
        layers=layers,
        thickness_mm=thickness,
        width_mm=width,
        metal=metal,
        leads_leave=leave,
        bms=bms,
        bms_a=marked if bms == "there" else None,
        switches=switches if bms == "there" else None,
        shunt_mohm=shunt if bms == "there" else None,
        sense_leads=draw.choice((series, series + 1, series + 1, series + 2)),
        bleeds=draw.random() < 0.6,
        ports=draw.choice((1, 2)),
        fuse=fuse,
        fuse_a=fuse_a if fuse == "there" else None,
        lead_mm2=lead,
        connector_a=plug,
        held=draw.choice(("holders", "holders", "glue-barriers", "glue")),
        state=draw.choices(("sound", "swollen", "leaking", "wet"), (17, 1, 1, 1))[0],
        charger=draw.choice(("itself", "itself", "bms")),
    )
    return DrawnFound(whole, min(able), holds, joints_a)
