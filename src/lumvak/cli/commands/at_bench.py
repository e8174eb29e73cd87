"""Commands for the bench."""

from __future__ import annotations

from pathlib import Path

from lumvak.cli.command import BATCH, CATALOGUE, CSV, FILE, JSON, SET, Command, flag, maybe_file
from lumvak.cli.spelled import (
    apart_of,
    groups_count_of,
    pin_of,
    seconds_of,
    seed_of,
    seeds_of,
    speed_of,
)

SEED = flag("--seed", type=seed_of, default=1, metavar="3", says="which of the packs it may be")

GROUP = Command(
    "group", "Assign measured cells to groups that are alike, by every method.",
    (
        maybe_file("a table of cells (CSV: number, mAh, mΩ, V), or - for standard input"),
        flag("--series", type=groups_count_of, metavar="13S", says="groups in series"),
        flag("--parallel", type=groups_count_of, metavar="10P", says="cells in each group"),
        flag("--by", choices=("capacity", "resistance", "both"), default="capacity",
             says="what counts for more"),
        flag("--cell", metavar="ostrel-21-48",
             says="what the cells are said to be, by id or name, for its limits"),
        flag("--origin", choices=("new", "reclaimed", "used"), default="used",
             says="where they are from"),
        flag("--pin", type=pin_of, action="append", default=[], metavar="57=g3c2",
             says="a cell that has its place: number, group, place"),
        flag("--apart", type=apart_of, action="append", default=[], metavar="12,15",
             says="cells of which no two sit in one group"),
        flag("--seed", type=seed_of, default=1, metavar="3", says="where chance begins"),
        flag("--seconds", type=seconds_of, metavar="5",
             says="about how long to look, in s (until they are alike, if not said)"),
        JSON, CSV, BATCH, CATALOGUE,
    ),
    "lumvak.cli.at_bench.group:run",
    (
        "group cells.csv --series 4S --parallel 3P",
        "group cells.csv --series 4 --parallel 3 --by both --pin 5=g1c1 --json",
        "group - --series 4 --parallel 3 --csv < cells.csv",
    ),
    rows="methods",
)  # fmt: skip

TAPS = Command(
    "taps", "Compare the totals of balance leads with everything that can be wrong.",
    (
        maybe_file("a project: where its leads go, and its readings; or - for standard input"),
        flag("--groups", metavar="3.71,3.70,3.69", says="V of each group as it is now"),
        flag("--readings", metavar="0,3.71,open,11.10",
             says="V from main minus to each lead, from the most negative"),
        flag("--more", action="append", default=[], metavar="0-1=3.65",
             says="a further reading in V: between leads, or plus and minus"),
        flag("--meter", metavar="0.5%%+2d", says="accuracy of the meter (0.5 %%+2d, if not said)"),
        SET, JSON, CSV, BATCH, CATALOGUE,
    ),
    "lumvak.cli.at_bench.taps:run",
    (
        "taps --groups 3.71,3.70,3.69 --readings 0,3.71,7.40,11.10",
        "taps --groups 3.71,3.70,3.69 --readings 0,7.41,3.71,11.10 --more 0-1=3.71",
        "taps barrow.lumvak.json --json",
    ),
)  # fmt: skip

CHARGE = Command(
    "charge", "The charger for a pack, a verdict on one that is there, and the time to full.",
    (
        maybe_file(),
        flag("--charger", metavar="54.6V:2A:cccv",
             says="a charger: V, A, kind (cccv, lead, nickel, supply), and what else is known, "
             "such as :open=60V:equalise=no (that of the project, if not said)"),
        flag("--log", type=Path, metavar="charge.csv",
             says="a log of a charge, as CSV with heads: judge it; - is standard input"),
        flag("--from", dest="begin", metavar="20%%",
             says="how full it is (as in the project, if not said)"),
        SET, JSON, CSV, BATCH, CATALOGUE,
    ),
    "lumvak.cli.at_bench.charge:run",
    (
        "charge barrow.lumvak.json",
        "charge barrow.lumvak.json --charger 54.6V:2A:cccv:open=60V --from 20%",
        "charge barrow.lumvak.json --charger 42V:4A --json",
    ),
    rows="phases",
)  # fmt: skip

BALANCE = Command(
    "balance", "What groups give, what is lost in each and why, and what balancing takes.",
    (
        maybe_file(),
        flag("--groups", metavar="15.0Ah@80%%,14.6Ah@78%%",
             says="Ah and charge of each (of the project, if not said)"),
        flag("--bleed", metavar="60mA@4.15V",
             says="what a group is bled by, and from where (as the BMS has it, if not said)"),
        flag("--every", metavar="3d", says="how often it is charged"),
        flag("--stays", metavar="2h", says="how long it stays on the charger once full"),
        flag("--leak", action="append", metavar="4:5mA",
             says="what a group loses by itself: number, current"),
        flag("--cycles", type=int, default=0, metavar="10", says="simulate so many cycles"),
        flag("--top", one_of="how", action="store_true", says="balanced at the top"),
        flag("--bottom", one_of="how", action="store_true", says="balanced at the bottom"),
        flag("--active", one_of="how", metavar="1A", says="charge is moved at so many A"),
        flag("--none", one_of="how", action="store_true", says="as they stand, which is usual"),
        SET, JSON, CSV, BATCH, CATALOGUE,
    ),
    "lumvak.cli.at_bench.balance:run",
    (
        "balance --groups 15.0Ah@80%,14.6Ah@78% --bleed 60mA@4.15V --cycles 10",
        "balance barrow.lumvak.json --stays 2h --every 3d --leak 4:5mA --json",
        "balance barrow.lumvak.json --top --csv",
    ),
    rows="groups",
)  # fmt: skip

BENCH = Command(
    "bench", "A simulated bench for a project: instruments that speak SCPI on loopback sockets.",
    (
        flag("--simulate", type=Path, required=True, metavar="FILE",
             says="the project whose pack stands on the bench, or - for standard input"),
        flag("--fault", action="append", default=[], metavar="weak-group",
             says="a fault to hide in it"),
        SEED,
        flag("--speed", type=speed_of, default=1.0, metavar="100",
             says="how many times as fast as the clock, up to 1000; 0 stands still until told"),
        SET, CATALOGUE,
    ),
    "lumvak.cli.at_bench.prove:serve_bench",
    (
        "bench --simulate barrow.lumvak.json",
        "bench --simulate barrow.lumvak.json --fault weak-group --speed 100",
        "bench --simulate barrow.lumvak.json --seed 7 --set pack.parallel=8",
    ),
    talks=True,
)  # fmt: skip

PROVE = Command(
    "prove", "Run tests on a pack at the bench, judge them, and correct what was assumed.",
    (
        FILE,
        flag("--bench", default="simulated", metavar="bench.json",
             says="simulated, or a file that names the resource of each instrument (JSON)"),
        flag("--tests", default="all", metavar="staircase,full-discharge",
             says="which tests: all, or their names"),
        SEED,
        flag("--fault", action="append", default=[], metavar="weak-group",
             says="a fault to hide in the simulated pack"),
        flag("--batch", type=seeds_of, metavar="1-20",
             says="simulated packs of these seeds, a line of JSON each"),
        SET, JSON, CSV, CATALOGUE,
    ),
    "lumvak.cli.at_bench.prove:run",
    (
        "prove barrow.lumvak.json --tests groups",
        "prove barrow.lumvak.json --tests groups,staircase --fault weak-group --json",
        "prove barrow.lumvak.json --tests groups --batch 1-3",
    ),
    rows="tests",
    talks=True,
)  # fmt: skip

AT_BENCH = (GROUP, TAPS, CHARGE, BALANCE, BENCH, PROVE)
