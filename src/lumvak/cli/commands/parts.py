"""Commands about parts and conductors."""

from __future__ import annotations

from lumvak.cli.command import BATCH, CATALOGUE, CSV, JSON, SET, Command, flag, maybe_file
from lumvak.cli.spelled import cell_at, count_of, quantity_of
from lumvak.core import units

CRITERION = flag(
    "--criterion", choices=("temperature", "density", "loss"), default="temperature",
    says="what is judged by: the rise, the current density, the drop",
)  # fmt: skip
RISE = flag(
    "--rise", type=quantity_of(units.KELVIN), metavar="20K",
    says="rise that is allowed, in K (as in a new project, if not said)",
)  # fmt: skip
DENSITY = flag(
    "--density", type=quantity_of(units.CURRENT_DENSITY), metavar="5A/mm2",
    says="current density that is allowed, in A/mm²; of strip, for nickel (as in a new project, "
    "if not said)",
)  # fmt: skip
DROP = flag(
    "--drop", type=quantity_of(units.MILLIVOLT), metavar="100mV",
    says="drop that is allowed, in mV (as in a new project, if not said)",
)  # fmt: skip
AMBIENT = flag(
    "--ambient", type=quantity_of(units.TEMPERATURE), default=25.0, metavar="35C",
    says="air, or cells beside a strip, in °C",
)  # fmt: skip
LISTED = flag("--top", type=count_of, default=12, metavar="5", says="how many are listed")
CURRENT = flag(
    "--current", type=quantity_of(units.CURRENT), required=True, metavar="30A",
    says="continuous current, in A",
)  # fmt: skip

CELL = Command(
    "cell", "How a cell behaves: what its sheet draws fitted, and its discharges.",
    (
        flag("cell", metavar="ostrel-21-48", says="a cell by id or name"),
        flag("--at", type=cell_at, action="append", default=[], metavar="5A:10C",
             says="a discharge from full at a current in A and a held cell temperature in °C "
             "(0.2, 1 and 2 C at 25 °C, if not said)"),
        JSON, CSV, CATALOGUE,
    ),
    "lumvak.cli.parts.cell:run",
    (
        "cell ostrel-21-48",
        "cell 'Ostrel 21-48' --at 5A --at 5A:0C",
        "cell ostrel-21-48 --at 10A --csv",
    ),
    rows="runs",
)  # fmt: skip

PARTS_LIST = Command(
    "parts", "List the catalogue, search it, or show one part whole.",
    (
        flag("kind", nargs="?", metavar="KIND",
             says="cells, conductors, boards, fuses, wires, connectors, switches, surges, "
             "chargers, holders, instruments, chemistries; or a part by id or name (all kinds "
             "with their count, if not said)"),
        flag("part", nargs="?", metavar="ID", says="one part of the kind, whole"),
        flag("--where", action="append", default=[], metavar="'capacity_typical_ah>=4'",
             says="only parts of which a field is so: =, !=, <, <=, >, >=, or ~ for has in it"),
        flag("--find", default="", metavar="copper", says="only parts that have this in id, name "
             "or note"),
        flag("--sort", default="", metavar="price", says="by this field, the least first"),
        JSON, CSV, CATALOGUE,
    ),
    "lumvak.cli.parts.listed:run",
    (
        "parts",
        "parts cells --where 'capacity_typical_ah>=4 Ah' --where 'continuous_a>=15' --sort price",
        "parts ostrel-21-48 --json",
    ),
    rows="parts",
)  # fmt: skip

WIRE = Command(
    "wire", "Which wires carry a current as a pair of leads, by each criterion.",
    (
        CURRENT,
        flag("--length", type=quantity_of(units.LENGTH_M), metavar="0.4m",
             says="of one lead, in m (as in a new project, if not said)"),
        flag("--bundled", action="store_true", says="both lie in one sleeve or bundle"),
        RISE, DENSITY, DROP, AMBIENT, CRITERION, LISTED, JSON, CSV, CATALOGUE,
    ),
    "lumvak.cli.parts.conductors:wire",
    (
        "wire --current 30A",
        "wire --current 60A --length 0.8m --drop 100mV --criterion loss",
        "wire --current 30A --bundled --ambient 40C --csv",
    ),
    rows="wires",
)  # fmt: skip

STRIP = Command(
    "strip", "Which strips and busbars carry a current between two welds, by each criterion.",
    (
        CURRENT,
        flag("--span", type=quantity_of(units.LENGTH_MM), default=21.5, metavar="19mm",
             says="from weld to weld, in mm"),
        flag("--metal", choices=("nickel", "plated steel", "copper", "nickel-copper", "brass",
                                 "aluminium"), says="only this metal (any, if not said)"),
        flag("--width", type=quantity_of(units.LENGTH_MM), metavar="8mm",
             says="only so wide, in mm; sheets are cut so (any, if not said)"),
        RISE, DENSITY, DROP, AMBIENT, CRITERION, LISTED, JSON, CSV, CATALOGUE,
    ),
    "lumvak.cli.parts.conductors:strip",
    (
        "strip --current 10A --metal nickel",
        "strip --current 25A --span 19mm --criterion density",
        "strip --current 40A --metal copper --width 10mm --json",
    ),
    rows="strips",
)  # fmt: skip

SPEC = Command(
    "spec", "What to look for in a shop: the window of every figure of every part.",
    (
        maybe_file(),
        flag("--part", metavar="bms", says="one part alone: bms, fuse, leads and so on"),
        flag("--check", metavar="bms:series=14,continuous_a=60",
             says="hold a part that you have against its windows, by as few figures as there are"),
        SET, JSON, CSV, BATCH, CATALOGUE,
    ),
    "lumvak.cli.parts.spec:run",
    (
        "spec barrow.lumvak.json --part fuse",
        "spec barrow.lumvak.json --check bms:series=14,continuous_a=60,peak_a=120 --json",
        "spec barrow.lumvak.json --set pack.parallel=8 --csv",
    ),
    rows="parts",
)  # fmt: skip

PARTS = (CELL, PARTS_LIST, WIRE, STRIP, SPEC)
