"""Twenty tasks of a stranger, each beside its solution: at most three commands, and what is right.

What is right is worked out beside it by other means: a rule of thumb, a sum by hand, a data sheet.
"""

from __future__ import annotations

import csv
import io
import json
import math
from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest
from msgspec import Struct

from lumvak.cli.main import main

# The texts that commands print, one after the other; and the folder in which they ran.
Answers = list[str]
BARROW = "new barrow.lumvak.json --sample orchard-barrow"


class Task(Struct, frozen=True):
    """What somebody wants, the commands that do it, and whether the answers are right."""

    wants: str
    commands: tuple[tuple[str, ...], ...]
    right: Callable[[Answers, Path], Any]


def words(*lines: str | tuple[str, ...]) -> tuple[tuple[str, ...], ...]:
    return tuple(tuple(line.split()) if isinstance(line, str) else line for line in lines)


def rows(text: str) -> list[dict[str, str]]:
    return list(csv.DictReader(io.StringIO(text)))


def first_serves_an_hour(answers: Answers, _: Path) -> bool:
    option = json.loads(answers[0])["options"][0]
    # 18 A for an hour, with a tenth left for age: 20 Ah; ten cells of 4.2 V under 43 V.
    return bool(
        option["series"] == 10
        and 18.0 / 0.95 < option["capacity_ah"] < 30.0
        and option["runtime_h"] >= 1.0
    )


def phosphate_under_60_v(answers: Answers, _: Path) -> bool:
    option = json.loads(answers[0])["options"][0]
    return bool(option["chemistry"] == "lfp" and option["voltage_full_v"] <= 60.0)


def eight_give_more(answers: Answers, _: Path) -> bool:
    before, after = (float(json.loads(text)["value"]) for text in answers[1:])
    return math.isclose(after / before, 8.0 / 7.0, rel_tol=1e-9)


def cheapest_of_four_ah(answers: Answers, _: Path) -> bool:
    found = rows(answers[0])
    prices = [float(row["price"]) for row in found]
    return prices == sorted(prices) and all(float(r["capacity_typical_ah"]) >= 4 for r in found)


def wire_of_six_mm2(answers: Answers, _: Path) -> bool:
    first = next(row for row in rows(answers[0]) if row["serves"] == "true")
    # 50 A through 2 × 0.5 m of copper may drop 250 mV: 17.2 nΩ·m × 1 m ÷ 5 mΩ is 3.4 mm².
    return 3.3 <= float(first["area_mm2"]) <= 6.1


def strip_by_density(answers: Answers, _: Path) -> bool:
    first = next(row for row in rows(answers[0]) if row["serves"] == "true")
    # 10 A at 5 A/mm² are 2 mm² of nickel: 0.2 mm × 10 mm, or layers of less.
    return float(first["limits_a.rule"]) >= 10.0


def wrong_charger_is_wrong(answers: Answers, _: Path) -> bool:
    # Fourteen cells of 4.2 V are 58.8 V; a charger of 67.2 V is for sixteen.
    return "wrong" in answers[1].lower()


def time_to_full(answers: Answers, _: Path) -> bool:
    hours = json.loads(answers[1])["hours"]
    # 33.6 Ah, a fifth in it, at 4 A: 6.7 h, and the taper.
    return 6.0 < float(hours) < 8.5


def swapped_leads(answers: Answers, _: Path) -> bool:
    found = json.loads(answers[0])
    return not found["safe"] and {1, 2} <= set(found["hypotheses"][0]["leads"])


def groups_alike(answers: Answers, folder: Path) -> bool:
    best = json.loads(answers[0])["best"]
    totals = best["capacity_ah"]
    return len(totals) == 4 and (max(totals) - min(totals)) / max(totals) < 0.02


def label_comes_back(answers: Answers, folder: Path) -> bool:
    claimed = json.loads(answers[2])["claimed"]
    return claimed["series"] == 14 and claimed["parallel"] == 7 and claimed["full_v"] == 58.8


def salvaged_gives_less(answers: Answers, _: Path) -> bool:
    found = json.loads(answers[1])
    return found["promised_a"] == 40 and 10 < found["rating"]["continuous_a"]["value"] < 25


def charger_is_dead(answers: Answers, _: Path) -> bool:
    first = json.loads(answers[0])["causes"][0]
    return first["name"] == "charger-dead" and first["probability"] > 0.9


def spark_of_packs(answers: Answers, _: Path) -> bool:
    found = json.loads(answers[0])
    # 14 groups of some tenths of a volt apart over 0.15 Ω.
    return not found["join_safe"] and found["join_peak_a"] > 5.0


def balance_takes_hours(answers: Answers, _: Path) -> bool:
    found = json.loads(answers[0])
    # 15.0 Ah at 80 % against 14.6 Ah at 78 %: at the top they are 0.21 Ah apart; 60 mA take 3.5 h.
    return 3.0 < found["hours_to_even"] < 4.0


def fuse_between(answers: Answers, _: Path) -> bool:
    (row, *_others) = [it for it in rows(answers[1]) if it["name"] == "rating_a"]
    # Four fifths of it carry 22 A, and it guards a wire of 33 A.
    return float(row["least"]) * 1.001 >= 22.0 / 0.8 and float(row["most"]) <= 45.0


def holds_a_found_bms(answers: Answers, _: Path) -> bool:
    found = json.loads(answers[1])
    short = {item["name"] for item in found["short"]}
    return "continuous_a" in short


def why_this_long(answers: Answers, _: Path) -> bool:
    lines = answers[1].splitlines()
    told = [line for line in lines if "(see above)" not in line]
    return "run time" in lines[0] and "22 A" in answers[1] and len(told) == len(set(told))


def a_template_is_there(answers: Answers, folder: Path) -> bool:
    return (folder / "template.pdf").read_bytes().startswith(b"%PDF")


def wrong_file_is_named(answers: Answers, folder: Path) -> bool:
    return "Parallel" in answers[1] or "parallel" in answers[1]


def too_fast(answers: Answers, _: Path) -> bool:
    # 600 W at 85 % over 9 Wh/km are 78 km/h.
    return "78.4 km/h" in answers[0]


TASKS = (
    Task("a pack for 36 V and 18 A that runs an hour, under 43 V",
         words("size --rated-voltage 36V --max-voltage 43V --current 18A --runtime 1h --json"),
         first_serves_an_hour),
    Task("iron phosphate for 48 V and no more than 60 V",
         words("size --rated-voltage 48V --max-voltage 60V --current 20A --runtime 1h "
               "--chemistry LFP --top 1 --json"),
         phosphate_under_60_v),
    Task("what one more cell in each group of the barrow gives",
         words(BARROW, "explain barrow.lumvak.json pack.energy_wh --set pack.parallel=7 --json",
               "explain barrow.lumvak.json pack.energy_wh --set pack.parallel=8P --json"),
         eight_give_more),
    Task("cells of 4 Ah or more, the cheapest first, as a table",
         words(("parts", "cells", "--where", "capacity_typical_ah>=4Ah", "--sort", "price",
                "--csv")),
         cheapest_of_four_ah),
    Task("the thinnest wire for 50 A that drops no more than 250 mV in both leads of half a metre",
         words("wire --current 50A --length 0.5m --drop 250mV --criterion loss --csv"),
         wire_of_six_mm2),
    Task("nickel for 10 A, by 5 A/mm²",
         words("strip --current 10A --metal nickel --density 5A/mm2 --criterion density --csv"),
         strip_by_density),
    Task("whether a charger of 67.2 V may go on the barrow's pack",
         words(BARROW, "charge barrow.lumvak.json --charger 67.2V:2A"),
         wrong_charger_is_wrong),
    Task("how long 4 A take from a fifth",
         words(BARROW, "charge barrow.lumvak.json --charger 58.8V:4A --from 20% --json"),
         time_to_full),
    Task("whether the plug may go in: 3.71, 3.70 and 3.69 V, read 0, 7.41, 3.71, 11.10",
         words("taps --groups 3.71,3.70,3.69 --readings 0,7.41,3.71,11.10 --json"),
         swapped_leads),
    Task("twelve measured cells in four groups that are alike",
         words("group cells.csv --series 4S --parallel 3P --json"),
         groups_alike),
    Task("a label, and what a later builder reads from it",
         words(BARROW, "label barrow.lumvak.json -o label.svg", "passport label.svg --json"),
         label_comes_back),
    Task("what a bought pack may really give",
         words("new old.lumvak.json --sample hay-tedder", "audit old.lumvak.json --json"),
         salvaged_gives_less),
    Task("why a pack of ten does not charge: the charger shows nothing",
         words("diagnose --series 10S --complaint no-charge --reading charger=nothing --json"),
         charger_is_dead),
    Task("what flows when a full pack is plugged onto one of 60 %",
         words("join 14S:9Ah:0.09ohm@100% 14S:20Ah:0.06ohm@60% --current 20A --json"),
         spark_of_packs),
    Task("how long 60 mA take to balance two groups",
         words("balance --groups 15.0Ah@80%,14.6Ah@78% --bleed 60mA@4.15V --json"),
         balance_takes_hours),
    Task("which fuse to buy for the barrow",
         words(BARROW, "spec barrow.lumvak.json --part fuse --csv"),
         fuse_between),
    Task("whether a BMS of 14 groups and 15 A serves the barrow",
         words(BARROW, "spec barrow.lumvak.json --check bms:series=14,continuous_a=15 --json"),
         holds_a_found_bms),
    Task("how the barrow's run time came about",
         words(BARROW, "explain barrow.lumvak.json pack.runtime_h"),
         why_this_long),
    Task("a drilling and cutting template at 1:1",
         words(BARROW, "export barrow.lumvak.json --to pdf -o template.pdf"),
         a_template_is_there),
    Task("what is wrong in a file that somebody typed",
         words("new typed.lumvak.json --set need.rated_voltage_v=36",
               "check broken.lumvak.json"),
         wrong_file_is_named),
    Task("whether 600 W and 9 Wh/km are a sensible wish",
         words("size --rated-voltage 36V --power 600W --distance 30km --consumption 9 --top 1"),
         too_fast),
)  # fmt: skip


@pytest.mark.parametrize("task", TASKS, ids=[item.wants[:40] for item in TASKS])
def test_a_stranger_does_it_in_three_commands(
    task: Task,
    tmp_path: Path,
    monkeypatch: pytest.MonkeyPatch,
    capsys: pytest.CaptureFixture[str],
) -> None:
    monkeypatch.chdir(tmp_path)
    table = ["number;mAh;mOhm", *(f"{n};{2500 + 11 * n % 90};{20 + n % 4}" for n in range(1, 13))]
    Path("cells.csv").write_text("\n".join(table) + "\n", "utf-8")
    Path("broken.lumvak.json").write_text(
        '{"format": "lumvak-project", "version": 1, "pack": {"parallel": "five"}}', "utf-8"
    )
    assert len(task.commands) <= 3
    answers: Answers = []
    for command in task.commands:
        assert main(command) in (0, 1, 2)
        answers.append(capsys.readouterr().out)
    assert task.right(answers, tmp_path), answers


def test_there_are_twenty() -> None:
    assert len(TASKS) >= 20
