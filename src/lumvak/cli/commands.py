"""All commands of the command line; what they run is loaded once one of them is called."""

from __future__ import annotations

from pathlib import Path

from lumvak.cli.command import BATCH, CATALOGUE, FILE, JSON, Command, flag, maybe_file
from lumvak.cli.spelled import (
    apart_of,
    cell_at,
    count_of,
    duty_of,
    forms_of,
    groups_count_of,
    pair_of,
    peak_of,
    pin_of,
    quantity_of,
    range_of,
    seconds_of,
    seed_of,
    seeds_of,
    size_of,
    speed_of,
)
from lumvak.core import units

SIZE = Command(
    "size", "Series and parallel count, cell, joints and BMS for a need.",
    (
        flag("--kind", choices=("vehicle", "tool", "supply", "portable"),
             says="equipment (default: vehicle)"),
        flag("--rated-voltage", type=quantity_of(units.VOLTAGE), metavar="36V"),
        flag("--max-voltage", type=quantity_of(units.VOLTAGE), metavar="43V",
             says="maximum voltage, when the pack is full"),
        flag("--cutoff-voltage", type=quantity_of(units.VOLTAGE), metavar="30V",
             says="where it stops"),
        flag("--current", one_of="load!", type=quantity_of(units.CURRENT), metavar="18A"),
        flag("--power", one_of="load!", type=quantity_of(units.POWER), metavar="600W"),
        flag("--duty", one_of="load!", type=duty_of, metavar="'40A 8s, 18A 40s'",
             says="steps that repeat"),
        flag("--efficiency", type=quantity_of(units.FRACTION), metavar="0.88",
             says="with --power"),
        flag("--peak", type=peak_of, metavar="40A:8s"),
        flag("--runtime", one_of="span", type=quantity_of(units.HOURS), metavar="1h"),
        flag("--capacity", one_of="span", type=quantity_of(units.CAPACITY), metavar="15Ah"),
        flag("--energy", one_of="span", type=quantity_of(units.ENERGY), metavar="500Wh"),
        flag("--distance", one_of="span", type=quantity_of(units.DISTANCE), metavar="30km"),
        flag("--consumption", type=quantity_of(units.CONSUMPTION), metavar="12Wh/km",
             says="with --distance (default: usual for the rated voltage)"),
        flag("--nickel-cells", type=count_of, metavar="15", says="cells of the old nickel pack"),
        flag("--contacts", type=int, choices=(2, 3), says="contacts of the old pack"),
        flag("--charger", type=pair_of(units.VOLTAGE, units.CURRENT), metavar="42V:2A"),
        flag("--ambient", type=range_of, metavar="-5C:30C",
             says="coldest and warmest, or one temperature"),
        flag("--chemistry", metavar="ID", says="a chemistry or a family of them"),
        flag("--cell", metavar="ID"),
        flag("--form", type=forms_of, metavar="18650,21700",
             says="forms of cells (default: round ones for vehicles and tools, all for supplies)"),
        flag("--series", type=count_of, metavar="N"),
        flag("--parallel", type=count_of, metavar="N"),
        flag("--rank", choices=("balance", "lightest", "cheapest", "coolest", "smallest"),
             default="balance"),
        CATALOGUE,
        flag("--assumed", action="store_true", says="list all that was assumed"),
        flag("--top", type=count_of, default=10, metavar="N",
             says="how many options (default: 10)"),
        JSON,
    ),
    "lumvak.cli.project.size:run",
)  # fmt: skip

EVALUATE = Command(
    "evaluate", "Figures, findings and current path of a project.",
    (
        FILE, JSON, CATALOGUE,
        flag("--tolerance", action="store_true",
             says="draw packs from the spreads: how sure is the run"),
    ),
    "lumvak.cli.project.evaluate:run",
)  # fmt: skip

EXPLAIN = Command(
    "explain", "How a figure of a project came about.",
    (
        FILE,
        flag("key", says="a figure's key, as “lumvak evaluate” lists them"),
        JSON, CATALOGUE,
    ),
    "lumvak.cli.project.explain:run",
)  # fmt: skip

CELL = Command(
    "cell", "How a cell behaves: what its sheet draws fitted, and its discharges.",
    (
        flag("cell", says="the id of a cell"),
        flag("--at", type=cell_at, action="append", default=[], metavar="5A:10C",
             says="a discharge from full at a current and a held cell temperature (repeatable)"),
        JSON, CATALOGUE,
    ),
    "lumvak.cli.parts.cell:run",
)  # fmt: skip

GROUP = Command(
    "group", "Assign measured cells to groups that are alike, by every method.",
    (
        maybe_file("a table of cells (CSV)"),
        flag("--series", type=groups_count_of, says="groups in series"),
        flag("--parallel", type=groups_count_of, says="cells in each group"),
        flag("--by", choices=("capacity", "resistance", "both"), default="capacity",
             says="what counts for more"),
        flag("--cell", says="the id of what the cells are said to be, for its limits"),
        flag("--origin", choices=("new", "reclaimed", "used"), default="used",
             says="where they are from"),
        flag("--pin", type=pin_of, action="append", default=[], metavar="57=g3c2",
             says="a cell that has its place (repeatable)"),
        flag("--apart", type=apart_of, action="append", default=[], metavar="12,15",
             says="cells of which no two sit in one group (repeatable)"),
        flag("--seed", type=seed_of, default=1, says="chance begins here"),
        flag("--seconds", type=seconds_of, says="about how long to look; else till alike"),
        JSON, BATCH, CATALOGUE,
    ),
    "lumvak.cli.at_bench.group:run",
)  # fmt: skip

TAPS = Command(
    "taps", "Compare the totals of balance leads with everything that can be wrong.",
    (
        maybe_file("a project: its guide, its readings"),
        flag("--groups", says="volts of each group as it is now: 3.71,3.70,…"),
        flag("--readings", says="volts from main minus to each lead: 0,3.71,open,…"),
        flag("--more", action="append", default=[],
             says="a further reading: 0-1=3.65, 0-plus=51.1; may be given again"),
        flag("--meter", says="accuracy, such as 0.5%%+2d, which is usual"),
        JSON, BATCH, CATALOGUE,
    ),
    "lumvak.cli.at_bench.taps:run",
)  # fmt: skip

CHARGE = Command(
    "charge", "The charger for a pack, a verdict on one that is there, and the time to full.",
    (
        maybe_file(),
        flag("--charger",
             says="volts:amps:kind, such as 54.6V:2A; cccv, lead, nickel, supply; then what else "
             "is known, such as :open=60V:equalise=no"),
        flag("--log", type=Path, says="a log of a charge, as CSV with heads: judge it"),
        flag("--from", dest="begin", says="how full it is, such as 20%%"),
        JSON, BATCH, CATALOGUE,
    ),
    "lumvak.cli.at_bench.charge:run",
)  # fmt: skip

BALANCE = Command(
    "balance", "What groups give, what is lost in each and why, and what balancing takes.",
    (
        maybe_file(),
        flag("--groups", says="Ah and charge of each: 15.0Ah@80%%,14.6Ah@78%%,…"),
        flag("--bleed", says="what a group is bled by and from where: 60mA@4.15V"),
        flag("--every", says="it is charged so often: 3d"),
        flag("--stays", says="how long it stays on the charger once full: 2h"),
        flag("--leak", action="append", says="what a group loses by itself: 4:5mA"),
        flag("--cycles", type=int, default=0, says="simulate so many cycles"),
        flag("--top", one_of="how", action="store_true", says="balanced at the top"),
        flag("--bottom", one_of="how", action="store_true", says="balanced at the bottom"),
        flag("--active", one_of="how", says="charge is moved: 1A"),
        flag("--none", one_of="how", action="store_true", says="as they stand, which is usual"),
        JSON, BATCH, CATALOGUE,
    ),
    "lumvak.cli.at_bench.balance:run",
)  # fmt: skip

SPEC = Command(
    "spec", "What to look for in a shop: the window of every figure of every part.",
    (
        maybe_file(),
        flag("--part", metavar="bms", says="one part alone: bms, fuse, leads and so on"),
        flag("--check", metavar="bms:series=14,continuous_a=60",
             says="hold a part that you have against its windows, by as few figures as there are"),
        JSON, BATCH, CATALOGUE,
    ),
    "lumvak.cli.parts.spec:run",
)  # fmt: skip

BENCH = Command(
    "bench", "A simulated bench for a project: instruments that speak SCPI on loopback sockets.",
    (
        flag("--simulate", type=Path, required=True, metavar="FILE",
             says="the project whose pack stands on the bench"),
        flag("--fault", action="append", default=[], metavar="NAME",
             says="a fault to hide in it (repeatable): weak-group, worn-connector and so on"),
        flag("--seed", type=seed_of, default=1, says="which of the packs that it may be"),
        flag("--speed", type=speed_of, default=1.0, metavar="X",
             says="how many times as fast as the clock, up to 1000; 0 stands still until told"),
        CATALOGUE,
    ),
    "lumvak.cli.at_bench.prove:serve_bench",
)  # fmt: skip

LABEL = Command(
    "label", "Print the label of a pack, with a code that a later builder reads.",
    (
        FILE,
        flag("-o", "--out", type=Path, required=True, metavar="LABEL.svg",
             says="where it is written; .svg, .pdf or .png"),
        flag("--size", type=size_of, metavar="100x60mm",
             says="its size; the project's if not said"),
        flag("--charger", action="store_true", says="the label of the charger instead"),
        CATALOGUE,
    ),
    "lumvak.cli.afterwards.record:run",
)  # fmt: skip
REPORT = Command(
    "report", "Write the whole record of a pack: need, choice, drawings, lists, tests, log.",
    (
        FILE,
        flag("-o", "--out", type=Path, required=True, metavar="REPORT.pdf",
             says="where it is written; .pdf or .html"),
        flag("--without", default="", metavar="PART,…",
             says="parts to leave out, such as wiring,bill"),
        flag("--paper", choices=("a4", "letter"), default="a4", says="pages of the pdf"),
        CATALOGUE,
    ),
    "lumvak.cli.afterwards.record:write_report",
)  # fmt: skip
SHELF = Command(
    "shelf", "List the projects of a folder: what each is, whether it was proven, what is due.",
    (
        flag("folder", type=Path, metavar="FOLDER", says="where they lie, folders below too"),
        flag("--sort", choices=("name", "due", "capacity", "changed"), default="name",
             says="in which order"),
        flag("--find", default="", metavar="TEXT", says="only those with this in their name"),
        JSON,
    ),
    "lumvak.cli.afterwards.record:list_shelf",
)  # fmt: skip
PASSPORT = Command(
    "passport", "Read a pack from its label: a picture, a drawing, or the text of its code.",
    (
        flag("label", metavar="LABEL.png", says="a picture, an SVG, or the text itself"),
        flag("-o", "--out", type=Path, metavar="NEW.lumvak.json",
             says="begin a project from what it claims"),
        JSON,
    ),
    "lumvak.cli.afterwards.record:read_back",
)  # fmt: skip
JOIN = Command(
    "join", "Two packs in parallel: what flows when they are joined, and who carries how much.",
    (
        flag("one", nargs="?", metavar="A", says="a project, or such as 14S:9Ah:0.09ohm@80%%"),
        flag("other", nargs="*", metavar="B", says="the second one, and up to two more"),
        flag("--current", type=quantity_of(units.CURRENT), metavar="20A",
             says="what is drawn from both"),
        flag("--load", type=quantity_of(units.POWER), metavar="900W", says="or as watts"),
        flag("--apart", type=quantity_of(units.VOLTAGE), metavar="2V",
             says="B so much under A when they are joined, whatever its charge"),
        flag("--by", choices=("direct", "switch", "diodes", "ideal-diodes", "one-at-a-time"),
             default="direct", says="how they are joined"),
        flag("--netlist", type=Path, metavar="PAIR.cir",
             says="write them as a netlist for a circuit simulator, joined directly"),
        BATCH, JSON, CATALOGUE,
    ),
    "lumvak.cli.afterwards.join:run",
)  # fmt: skip
AUDIT = Command(
    "audit", "A pack as found: what it may give, what sets that, and what to make of it.",
    (
        maybe_file("a project that says what was seen of it"),
        flag("-o", "--out", type=Path, metavar="PAGE.pdf",
             says="write one page for its owner; .pdf or .html"),
        BATCH, JSON, CATALOGUE,
    ),
    "lumvak.cli.afterwards.audit:run",
)  # fmt: skip
DIAGNOSE = Command(
    "diagnose", "Which part of a pack is at fault, and which reading would tell most next.",
    (
        maybe_file("a project; its readings count"),
        flag("--series", type=count_of, metavar="N", says="groups in series, without a project"),
        flag("--chemistry", metavar="ID", says="with --series (default: nmc)"),
        flag("--complaint", choices=("dead", "drops-out", "no-charge", "charges-short", "jumps",
                                     "short-range", "low-group", "warm-spot", "cuts-out",
                                     "wakes-and-dies", "since-repair", "none")),
        flag("--reading", action="append", default=[], metavar="PLACE[@STATE]=VALUE",
             says="such as terminals=jumps, group:3@load:10=3.21V, fuse=12mohm (repeatable)"),
        flag("--meter", metavar="0.5%%+2", says="what the meter is off by"),
        flag("--without", default="", metavar="PLACE,…", says="what cannot be read"),
        BATCH, JSON, CATALOGUE,
    ),
    "lumvak.cli.afterwards.diagnose:run",
)  # fmt: skip
PROVE = Command(
    "prove", "Run tests on a pack at the bench, judge them, and correct what was assumed.",
    (
        FILE,
        flag("--bench", default="simulated", metavar="simulated",
             says="simulated, or a file that names the resource of each instrument (JSON)"),
        flag("--tests", default="all", metavar="NAME,…",
             says="which tests: all, or names such as staircase,full-discharge"),
        flag("--seed", type=seed_of, default=1, says="which of the packs that it may be"),
        flag("--fault", action="append", default=[], metavar="NAME",
             says="a fault to hide in it (repeatable)"),
        flag("--batch", type=seeds_of, metavar="1-20",
             says="simulated packs of these seeds, a line of JSON each"),
        JSON, CATALOGUE,
    ),
    "lumvak.cli.at_bench.prove:run",
)  # fmt: skip

EXPORT = Command(
    "export", "Template at 1:1 (svg, dxf, pdf), tables (csv), netlist (spice), the sheet of cells "
    "to their places (placing), and what to look for in a shop (shopping) of a pack.",
    (
        FILE,
        flag("--to", required=True, says="what to make",
             choices=("svg", "dxf", "csv", "spice", "pdf", "placing", "wiring", "wiring-svg",
                      "wiring-csv", "shopping", "shopping-csv", "shopping-text", "label",
                      "label-svg", "label-png", "label-charger", "label-charger-svg",
                      "label-charger-png", "log", "bom", "dates", "report",
                      "report-html")),
        flag("-o", "--out", type=Path, says="where to; beside the project if not given"),
        flag("--paper", choices=("a4", "letter"), default="a4", says="pages of the pdf"),
        CATALOGUE,
    ),
    "lumvak.cli.project.export:run",
)  # fmt: skip

COMMANDS = {
    item.name: item
    for item in (
        *(SIZE, EVALUATE, EXPLAIN, CELL, GROUP, TAPS, CHARGE, BALANCE),
        *(SPEC, BENCH, PROVE, EXPORT, REPORT, LABEL, PASSPORT, SHELF, AUDIT, JOIN, DIAGNOSE),
    )
}
