"""Commands for a pack that is there: its record, its audit, its neighbour, its trouble."""

from __future__ import annotations

from pathlib import Path

from msgspec.structs import replace

from lumvak.cli.command import (
    BATCH,
    CATALOGUE,
    CSV,
    FILE,
    FORCE,
    JSON,
    SET,
    Command,
    flag,
    maybe_file,
)
from lumvak.cli.spelled import count_of, quantity_of, size_of
from lumvak.core import units

SET_OF_ONE = replace(SET, says=f"{SET.says}; of A, or of another as B:pack.parallel=8")

REPORT = Command(
    "report", "Write the whole record of a pack: need, choice, drawings, lists, tests, log.",
    (
        FILE,
        flag("-o", "--out", type=Path, required=True, metavar="report.pdf",
             says="where it is written; .pdf or .html, or - for standard output"),
        flag("--without", default="", metavar="wiring,bill", says="parts to leave out"),
        flag("--paper", choices=("a4", "letter"), default="a4", says="pages of the pdf"),
        SET, FORCE, CATALOGUE,
    ),
    "lumvak.cli.afterwards.record:write_report",
    (
        "report barrow.lumvak.json -o report.pdf",
        "report barrow.lumvak.json -o report.html --without wiring,bill",
        "report barrow.lumvak.json -o report.pdf --paper letter --force",
    ),
)  # fmt: skip

LABEL = Command(
    "label", "Print the label of a pack, with a code that a later builder reads.",
    (
        FILE,
        flag("-o", "--out", type=Path, required=True, metavar="label.svg",
             says="where it is written; .svg, .pdf or .png, or - for standard output"),
        flag("--size", type=size_of, metavar="100x60mm",
             says="width and height in mm (the project's, if not said)"),
        flag("--charger", action="store_true", says="the label of the charger instead"),
        SET, FORCE, CATALOGUE,
    ),
    "lumvak.cli.afterwards.record:run",
    (
        "label barrow.lumvak.json -o label.svg",
        "label barrow.lumvak.json -o label.png --size 100x70mm",
        "label barrow.lumvak.json -o charger.pdf --charger",
    ),
)  # fmt: skip

PASSPORT = Command(
    "passport", "Read a pack from its label: a picture, a drawing, or the text of its code.",
    (
        flag("label", metavar="LABEL.png",
             says="a picture, an SVG, the text, or - for standard input"),
        flag("-o", "--out", type=Path, metavar="claimed.lumvak.json",
             says="begin a project from what it claims; - is standard output"),
        FORCE, JSON, CSV,
    ),
    "lumvak.cli.afterwards.record:read_back",
    (
        "passport label.svg",
        "passport label.svg --json",
        "passport label.svg -o claimed.lumvak.json",
    ),
    rows="claimed",
)  # fmt: skip

SHELF = Command(
    "shelf", "List the projects of a folder: what each is, whether it was proven, what is due.",
    (
        flag("folder", type=Path, metavar="FOLDER", says="where they lie, folders below too"),
        flag("--sort", choices=("name", "due", "capacity", "changed"), default="name",
             says="in which order"),
        flag("--find", default="", metavar="barrow", says="only those with this in their name"),
        JSON, CSV,
    ),
    "lumvak.cli.afterwards.record:list_shelf",
    ("shelf .", "shelf . --sort due", "shelf . --find barrow --csv"),
)  # fmt: skip

AUDIT = Command(
    "audit", "A pack as found: what it may give, what sets that, and what to make of it.",
    (
        maybe_file("a project that says what was seen of it, or - for standard input"),
        flag("-o", "--out", type=Path, metavar="page.pdf",
             says="write one page for its owner; .pdf or .html, or - for standard output"),
        SET, FORCE, JSON, CSV, BATCH, CATALOGUE,
    ),
    "lumvak.cli.afterwards.audit:run",
    (
        "audit found.lumvak.json",
        "audit found.lumvak.json --set as_found.strips=2 --json",
        "audit found.lumvak.json -o page.pdf",
    ),
    rows="parts",
)  # fmt: skip

JOIN = Command(
    "join", "Two packs in parallel: what flows when they are joined, and who carries how much.",
    (
        flag("one", nargs="?", metavar="A", says="a project, or such as 14S:9Ah:0.09ohm@80%%"),
        flag("other", nargs="*", metavar="B", says="the second one, and up to two more"),
        flag("--current", type=quantity_of(units.CURRENT), metavar="20A",
             says="what is drawn from both, in A"),
        flag("--load", type=quantity_of(units.POWER), metavar="900W", says="or as W"),
        flag("--apart", type=quantity_of(units.VOLTAGE), metavar="2V",
             says="B so many V under A when they are joined, whatever its charge"),
        flag("--by", choices=("direct", "switch", "diodes", "ideal-diodes", "one-at-a-time"),
             default="direct", says="how they are joined"),
        flag("--netlist", type=Path, metavar="pair.cir",
             says="write them as a netlist for a circuit simulator, joined directly"),
        SET_OF_ONE, FORCE, JSON, CSV, BATCH, CATALOGUE,
    ),
    "lumvak.cli.afterwards.join:run",
    (
        "join 14S:9Ah:0.09ohm@100% 14S:20Ah:0.06ohm@80% --current 20A",
        "join barrow.lumvak.json 14S:12Ah:0.11ohm:nmc@90% --load 600W --set pack.parallel=8",
        "join 14S:9Ah:0.09ohm 14S:20Ah:0.06ohm --current 20A --by diodes --csv",
    ),
    rows="shares",
)  # fmt: skip

DIAGNOSE = Command(
    "diagnose", "Which part of a pack is at fault, and which reading would tell most next.",
    (
        maybe_file("a project; its readings count; or - for standard input"),
        flag("--series", type=count_of, metavar="14S", says="groups in series, without a project"),
        flag("--chemistry", metavar="lfp", says="with --series, by id or name (nmc, if not said)"),
        flag("--complaint", choices=("dead", "drops-out", "no-charge", "charges-short", "jumps",
                                     "short-range", "low-group", "warm-spot", "cuts-out",
                                     "wakes-and-dies", "since-repair", "none"),
             says="what is wrong with it"),
        flag("--reading", action="append", default=[], metavar="group:3@load:10=3.21V",
             says="PLACE[@STATE]=VALUE: terminals, pack, group:N, groups, tap:N, joint:N, bms, "
             "fuse, connector, charger, shown:N; rest, asleep, load:AMPS, charge:AMPS, "
             "after:SECONDS; V, mV, ohm, mohm, nothing, jumps, alike"),
        flag("--meter", metavar="0.5%%+2", says="what the meter is off by (the project's, or "
             "0.5 %%+2, if not said)"),
        flag("--without", default="", metavar="shown,groups", says="places that cannot be read"),
        SET, JSON, CSV, BATCH, CATALOGUE,
    ),
    "lumvak.cli.afterwards.diagnose:run",
    (
        "diagnose --series 14 --complaint jumps --reading terminals=jumps --reading pack=51.4V",
        "diagnose barrow.lumvak.json --complaint dead --without shown",
        "diagnose --series 10S --complaint no-charge --reading charger=nothing --json",
    ),
    rows="causes",
)  # fmt: skip

AFTERWARDS = (REPORT, LABEL, PASSPORT, SHELF, AUDIT, JOIN, DIAGNOSE)
