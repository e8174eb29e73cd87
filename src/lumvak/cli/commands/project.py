"""Commands about a whole project."""

from __future__ import annotations

from pathlib import Path

from lumvak.cli.command import CATALOGUE, CSV, FILE, FORCE, JSON, SET, Command, flag
from lumvak.cli.spelled import (
    count_of,
    duty_of,
    forms_of,
    pair_of,
    peak_of,
    quantity_of,
    range_of,
)
from lumvak.core import units

OUT_PROJECT = "where the project is written, or - for standard output"

SIZE = Command(
    "size", "Series and parallel count, cell, joints and BMS for a need.",
    (
        flag("--kind", choices=("vehicle", "tool", "supply", "portable"),
             says="the equipment (vehicle, if not said)"),
        flag("--rated-voltage", type=quantity_of(units.VOLTAGE), metavar="36V",
             says="what is printed on the motor or its controller; needed, in V"),
        flag("--max-voltage", type=quantity_of(units.VOLTAGE), metavar="43V",
             says="maximum voltage that the equipment stands, when the pack is full, in V "
             "(assumed from the rated one, if not said)"),
        flag("--cutoff-voltage", type=quantity_of(units.VOLTAGE), metavar="30V",
             says="low-voltage cut-off: where the equipment stops, in V (assumed from the rated "
             "one, if not said)"),
        flag("--current", one_of="load!", type=quantity_of(units.CURRENT), metavar="18A",
             says="continuous load in A"),
        flag("--power", one_of="load!", type=quantity_of(units.POWER), metavar="600W",
             says="continuous load in W, at the shaft where --efficiency is given"),
        flag("--duty", one_of="load!", type=duty_of, metavar="'40A 8s, 18A 40s'",
             says="load in A or W and seconds, in steps that repeat"),
        flag("--efficiency", type=quantity_of(units.FRACTION), metavar="88%",
             says="with --power or --duty in watts: of motor and controller (85 %%, if not said)"),
        flag("--peak", type=peak_of, metavar="40A:8s",
             says="highest current in A, and for how long (the continuous load, if not said; "
             "10 s, if no time is)"),
        flag("--runtime", one_of="span", type=quantity_of(units.HOURS), metavar="1h20",
             says="how long it is to run at the load, in h or min"),
        flag("--capacity", one_of="span", type=quantity_of(units.CAPACITY), metavar="15Ah",
             says="charge that is to be delivered, in Ah"),
        flag("--energy", one_of="span", type=quantity_of(units.ENERGY), metavar="500Wh",
             says="energy that is to be delivered, in Wh"),
        flag("--distance", one_of="span", type=quantity_of(units.DISTANCE), metavar="30km",
             says="how far it is to go, in km"),
        flag("--consumption", type=quantity_of(units.CONSUMPTION), metavar="12Wh/km",
             says="with --distance, in Wh/km (usual for the rated voltage, if not said)"),
        flag("--nickel-cells", type=count_of, metavar="15",
             says="of a tool: cells of its old nickel pack, 1.2 V each"),
        flag("--contacts", type=int, choices=(2, 3),
             says="of a tool: contacts of its old pack"),
        flag("--charger", type=pair_of(units.VOLTAGE, units.CURRENT), metavar="42V:2A",
             says="a charger that is there, in V and A"),
        flag("--ambient", type=range_of, metavar="-5C:30C",
             says="coldest and warmest air in °C, or one temperature (25 °C, if not said)"),
        flag("--chemistry", metavar="lfp",
             says="only this chemistry or family, by id or name (any, if not said)"),
        flag("--cell", metavar="ostrel-21-48", says="only this cell, by id or name"),
        flag("--form", type=forms_of, metavar="18650,21700",
             says="forms of cells (round ones for vehicles and tools, all for supplies, if not "
             "said)"),
        flag("--series", type=count_of, metavar="13S", says="only this series count"),
        flag("--parallel", type=count_of, metavar="5P", says="only this parallel count"),
        flag("--rank", choices=("balance", "lightest", "cheapest", "coolest", "smallest"),
             default="balance", says="what comes first"),
        SET,
        flag("--assumed", action="store_true", says="list all that was assumed, with its rule"),
        flag("--top", type=count_of, default=10, metavar="3", says="how many options"),
        flag("--save", type=Path, metavar="barrow.lumvak.json",
             says="write the project with the option that is taken; - is standard output"),
        flag("--take", type=count_of, default=1, metavar="2",
             says="with --save: which option, counted from the top"),
        FORCE, JSON, CSV, CATALOGUE,
    ),
    "lumvak.cli.project.size:run",
    (
        "size --rated-voltage 36V --current 18A --peak 40A:8s --runtime 1h",
        "size --rated-voltage '48 volt' --power 600W --distance 30km --chemistry LFP --top 3",
        "size --rated-voltage 36V --current '20 amps' --runtime 1:30 --save barrow.lumvak.json",
    ),
    rows="options",
)  # fmt: skip

NEW = Command(
    "new", "Begin a project: from a need, a pack as found, or a sample.",
    (
        flag("file", type=Path, metavar="FILE.lumvak.json", says=OUT_PROJECT),
        flag("--from", dest="begin", choices=("need", "found"), default="need",
             says="what it begins from: a need, or a pack that somebody else built"),
        flag("--sample", metavar="orchard-barrow", says="begin with this sample project instead"),
        SET, FORCE, CATALOGUE,
    ),
    "lumvak.cli.project.begin:new",
    (
        "new punt.lumvak.json --set need.rated_voltage_v=36 --set need.current_a='20 amps'",
        "new old-pack.lumvak.json --from found --set as_found.parallel=4",
        "new - --sample hedge-trimmer",
    ),
)  # fmt: skip

CHECK = Command(
    "check", "Whether project and parts files are valid, and what in them is unusual.",
    (
        flag("files", nargs="+", type=Path, metavar="FILE",
             says="projects or files of parts, or - for standard input"),
        JSON, CSV, CATALOGUE,
    ),
    "lumvak.cli.project.begin:check",
    (
        "check barrow.lumvak.json",
        "check barrow.lumvak.json parts.json --json",
        "check - --csv < barrow.lumvak.json",
    ),
)  # fmt: skip

EVALUATE = Command(
    "evaluate", "Figures, findings and current path of a project.",
    (
        FILE, SET,
        flag("--tolerance", action="store_true",
             says="draw packs from the spreads of cells: how sure is the run time"),
        JSON, CSV, CATALOGUE,
    ),
    "lumvak.cli.project.evaluate:run",
    (
        "evaluate barrow.lumvak.json",
        "evaluate barrow.lumvak.json --set pack.parallel=8 --json",
        "evaluate barrow.lumvak.json --tolerance --csv",
    ),
    rows="figures",
)  # fmt: skip

EXPLAIN = Command(
    "explain", "How a figure of a project came about, down to what was typed.",
    (
        FILE,
        flag("key", metavar="pack.runtime_h",
             says="a figure's key, as “lumvak evaluate” lists them"),
        flag("--depth", type=int, metavar="2",
             says="how many steps down it is unfolded (all of them, if not said)"),
        SET, JSON, CSV, CATALOGUE,
    ),
    "lumvak.cli.project.explain:run",
    (
        "explain barrow.lumvak.json pack.runtime_h",
        "explain barrow.lumvak.json pack.mass_kg --depth 1",
        "explain barrow.lumvak.json pack.energy_wh --set pack.parallel=6 --json",
    ),
    rows="inputs",
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
        flag("-o", "--out", type=Path, metavar="template.pdf",
             says="where to, or - for standard output; beside the project, if not said"),
        flag("--paper", choices=("a4", "letter"), default="a4", says="pages of a pdf"),
        SET, FORCE, CATALOGUE,
    ),
    "lumvak.cli.project.export:run",
    (
        "export barrow.lumvak.json --to pdf -o template.pdf",
        "export barrow.lumvak.json --to shopping-text -o -",
        "export barrow.lumvak.json --to bom --force",
    ),
)  # fmt: skip

PROJECT = (SIZE, NEW, CHECK, EVALUATE, EXPLAIN, EXPORT)
