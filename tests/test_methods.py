"""docs/methods.md: every section says for what it holds, and its example is what the program gives.

An example's result stands in bold. It is worked out here by the program; the sum beside it in the
document is by hand.
"""

from __future__ import annotations

import json
import re
from collections.abc import Callable
from functools import cache
from pathlib import Path
from typing import Any

import numpy as np
import pytest

from lumvak.cli.at_bench.taps import case_of
from lumvak.cli.project.evaluate import with_tolerance
from lumvak.core.arrangement.layout import potential_v
from lumvak.core.as_found.limits import one_strip_a
from lumvak.core.balancing.imbalance import imbalance
from lumvak.core.balancing.resistor import resistor
from lumvak.core.beside.joining import joined_on
from lumvak.core.beside.side import from_numbers
from lumvak.core.bms.verdicts import peak_current_a
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.cells.behaviour import behaviour_of
from lumvak.core.cells.cell_model import warm_factor
from lumvak.core.cells.pack_heat import lump_of, rise_k
from lumvak.core.clearance.least import apart_mm
from lumvak.core.conductors.lead_wire import outer_mm
from lumvak.core.conductors.strip_and_wire import MATERIALS, Section, peak_factor, strip_ohm
from lumvak.core.document.joints import WeldRead, WeldTest
from lumvak.core.document.making import Making
from lumvak.core.document.need import Need
from lumvak.core.evaluate import evaluate
from lumvak.core.evaluation import Evaluation
from lumvak.core.joints.candidates import current_share
from lumvak.core.joints.contacts import reads_of
from lumvak.core.making.strip_check import readings
from lumvak.core.matching.joining import through_resistor
from lumvak.core.matching.judging import LotUsual, modified_z
from lumvak.core.matching.sharing_over_time import SharedSource, shared
from lumvak.core.need.demand import power_current
from lumvak.core.need.window import voltage_window
from lumvak.core.power.surge import precharge
from lumvak.core.proving.programme import standard_error
from lumvak.core.said import say
from lumvak.core.sizing.counts import series_max
from lumvak.core.sizing.served import even_count
from lumvak.core.specification.topic import specification_in_hand
from lumvak.core.spelling import spoken
from lumvak.core.taps.readings import TapMeter
from lumvak.core.taps.shown import explained
from lumvak.core.taps.verdict import judged
from lumvak.core.trouble.case import case_of as case_in_trouble
from lumvak.core.trouble.diagnosis import diagnosed
from lumvak.core.trouble.readings import TroubleReading
from lumvak.files.catalogue_file import load_catalogue, read_parts
from lumvak.files.passport import base45
from lumvak.files.project_file import load_project
from tests.conftest import BARROW, TRIMMER

TEXT = (Path(__file__).parents[1] / "docs" / "methods.md").read_text("utf-8")
SECTIONS = {
    int(number): body
    for number, body in re.findall(r"^## (\d+) (.*?)(?=^## )", TEXT, re.MULTILINE | re.DOTALL)
}


@cache
def parts() -> Catalogue:
    return load_catalogue()[0]


@cache
def sample(path: Path) -> Evaluation:
    return evaluate(load_project(path, parts()), parts())


def figure(key: str, path: Path = BARROW) -> Callable[[], str]:
    """The figure of a sample, as it is said."""

    def said() -> str:
        found = sample(path).figures[key]
        return spoken(say(found.value, found.unit))

    return said


def number(value: Any, unit: str, digits: int = 3) -> str:
    return f"{float(value):.{digits}g} {unit}".strip()


def strip(length_mm: float, width_mm: float, thickness_mm: float) -> Section:
    return Section(MATERIALS["nickel"], thickness_mm, width_mm, 1, length_mm)


def wicket(seconds: float) -> str:
    return number(peak_current_a(parts().boards["wicket-14-30"], seconds), "A")


def warmed() -> str:
    lump = lump_of(np.array([0.148]), np.array([6.71]), 5.0)
    return number(rise_k(lump, np.array([60.0]), np.array([np.inf]))[0], "K")


def nickel_piece() -> str:
    making = Making(check_length_mm=100.0, check_width_mm=8.0, check_thickness_mm=0.15)
    return number(next(it.mohm for it in readings(making) if it.material == "nickel"), "mΩ")


def toleranced() -> str:
    found = with_tolerance(sample(BARROW)).figures["tolerance.low_h"]
    return spoken(say(found.value, found.unit))


def cut_strip() -> str:
    spans = (np.hypot(*np.subtract(it.end, it.start)) for it in sample(BARROW).cuts)
    return number(max(spans), "mm")


def fitted() -> str:
    page = (Path(__file__).parents[1] / "docs" / "format.md").read_text("utf-8")
    curves = re.search(r'```json\n("curves".*?)```', page, re.DOTALL)
    part = re.search(r'```json\n(\{\n  "format": "lumvak-parts".*?)```', page, re.DOTALL)
    assert curves is not None and part is not None
    document = json.loads(part[1])
    document["cells"][0] |= json.loads(f"{{{curves[1]}}}")
    (cell,) = read_parts(json.dumps(document), "page").cells
    fit = behaviour_of(cell, parts().chemistries[cell.chemistry]).fit
    assert fit is not None
    return number(1e3 * max(fit.residual_v), "mV", 2)


def lot_score() -> str:
    values = np.array([2.50, 2.52, 2.49, 2.51, 2.48, 2.50, 2.51, 2.30])
    middle = float(np.median(values))
    usual = LotUsual(middle, float(np.median(np.abs(values - middle))), len(values))
    return number(modified_z(values, usual)[-1], "")


def levelled() -> str:
    plan = through_resistor(3.0, 0.04, np.array([3.0, 3.0]), 0.3, 1.5)
    return number(plan.ohm, "Ω")


def two_sources() -> str:
    charge = np.linspace(0.0, 1.0, 11)
    one, other = (
        SharedSource(charge, 3.0 + 1.2 * charge, np.ones(11), np.array([ah]), np.array([ohm]))
        for ah, ohm in ((10.0, 0.02), (10.0, 0.04))
    )
    found = shared(one, other, 3.0, 3.0)
    return number(found.one_a[0, 0], "A")


def swapped() -> str:
    case = case_of([3.71, 3.70, 3.69], [0.0, 7.41, 3.71, 11.10], TapMeter(0.005, 2.0, 0.01))
    return judged(case).hypotheses[0].name


def shown_wrong() -> str:
    words = spoken(explained([3.60, 3.80, 3.70], [3.70, 3.70, 3.70])[0].words)
    found = re.search(r"(\d+ mV) too low", words)
    assert found is not None
    return found[1]


def usable_now() -> str:
    return number(imbalance(np.array([10.0, 10.0]), np.array([8.0, 7.0])).usable_ah, "Ah")


def bms_window() -> str:
    parts_of = specification_in_hand(sample(BARROW)).parts
    bms = next(part for part in parts_of if part.key == "bms")
    window = next(item for item in bms.windows if item.name == "continuous_a")
    assert window.least is not None
    return number(window.least.number, "A")


def joints_tried() -> str:
    """Two read by a four-wire meter, one by its drop of 1.4 mV at 10 A."""
    reads = (WeldRead(mohm=0.10), WeldRead(mohm=0.12), WeldRead(drop_mv=1.4, current_a=10.0))
    return number(np.mean(reads_of(WeldTest(reads=reads))), "mΩ")


def surer() -> str:
    amps = np.array([2.0, 4.0, 6.0, 8.0])
    drops = 0.1 * amps + np.array([0.01, -0.01, -0.01, 0.01])
    return number(1e3 * standard_error(amps, drops), "mΩ")


def spark() -> str:
    chemistry = parts().chemistries["nmc"]
    one = from_numbers("A", 14, 9.0, 0.09, chemistry, 1.0)
    other = from_numbers("B", 14, 20.0, 0.06, chemistry, 0.8)
    joined = joined_on([one], other)
    # What the document says by hand: volts apart over both resistances, no less than that at once.
    assert joined.peak_a >= joined.apart_v / 0.15 - 1e-9
    return number(joined.peak_a, "A")


def dead_charger() -> str:
    case = case_in_trouble(10, parts().chemistries["lfp"])
    reading = TroubleReading("charger", "rest", 0.0, value="nothing", in_ohm=False)
    found = diagnosed(case, "no-charge", [reading], ())
    return f"{found.ranked[0].share:.1%}".replace("%", " %")


EXAMPLES: dict[int, Callable[[], str]] = {
    1: lambda: number(voltage_window(Need(rated_voltage_v=36.0)).highest.value, "V"),
    2: lambda: str(series_max(60.0, 4.2)),
    3: lambda: number(power_current(50.0, 0.1, 500.0), "A"),
    4: lambda: number(20.0 * warm_factor(np.array(0.0), 1.0), "mΩ"),
    5: figure("pack.usable_fraction"),
    6: figure("needs.capacity"),
    7: lambda: number(even_count(np.array([6.95]))[0], ""),
    8: lambda: number(1e3 * strip_ohm(strip(20.0, 8.0, 0.15)), "mΩ"),
    9: lambda: number(peak_factor(10.0, 10.0), ""),
    10: lambda: number(current_share("group", 7, "middle", 1), ""),
    11: lambda: number(outer_mm(4.0), "mm"),
    12: lambda: wicket(0.5),
    13: lambda: number(sample(BARROW).path.weakest.continuous_a, "A"),  # type: ignore[union-attr]
    14: warmed,
    15: figure("charge.voltage_v"),
    16: figure("run.time_h"),
    17: toleranced,
    18: lambda: number(potential_v(7, 4.2), "V"),
    19: figure("network.fair_cell_a"),
    20: cut_strip,
    21: nickel_piece,
    22: figure("balance_leads.melts_s"),
    23: lambda: number(precharge(100.0, 58.8, 1e-3).energy_j, "J"),
    24: figure("rest.cut_days"),
    25: fitted,
    26: lot_score,
    27: levelled,
    28: joints_tried,
    29: two_sources,
    30: swapped,
    31: figure("balance_leads.mean_m"),
    32: shown_wrong,
    33: figure("charge.voltage_v", TRIMMER),
    34: figure("charging.stops_share"),
    35: usable_now,
    36: lambda: number(resistor(22.0, 4.2, 0.5, 14).watts, "W"),
    37: figure("charging.given_up_ah"),
    38: figure("charging.turns_off_a"),
    39: lambda: number(apart_mm(None, np.array(100.0)), "mm"),
    40: figure("exit.bend_mm"),
    41: bms_window,
    42: surer,
    43: lambda: base45(b"AB"),
    44: spark,
    45: lambda: number(one_strip_a("nickel", 0.15, 7.0, 1, 20.0)[0], "A"),
    46: lambda: number(
        voltage_window(Need(kind="tool", rated_voltage_v=18.0, nickel_cells=15)).highest.value, "V"
    ),
    47: dead_charger,
}


@pytest.mark.parametrize("section", sorted(SECTIONS))
def test_a_section_says_for_what_it_holds_and_its_example_is_right(section: int) -> None:
    body = SECTIONS[section]
    assert body.count("*Holds for* ") == 1, section
    (example,) = re.findall(r"^\*Example\.\* (.+?)(?:\n\n|\Z)", body, re.MULTILINE | re.DOTALL)
    (result,) = re.findall(r"\*\*(.+?)\*\*", example)
    assert result == EXAMPLES[section](), example


def test_every_section_has_its_example() -> None:
    assert set(SECTIONS) == set(EXAMPLES)
    assert "[1]" in TEXT and "used to be" not in TEXT.lower()


def test_every_source_that_is_named_is_listed() -> None:
    body, _, listed = TEXT.partition("## Sources")
    named = set(re.findall(r"\[(\d+)\]", body))
    assert named <= set(re.findall(r"^(?:- )?\[(\d+)\]", listed, re.MULTILINE))
