"""``lumvak label``: the label of a pack or of its charger; ``lumvak passport`` reads it back.

``lumvak report`` writes the whole record, ``lumvak shelf`` lists the projects of a folder.
"""

from __future__ import annotations

import argparse
from datetime import date
from pathlib import Path

from msgspec.structs import asdict

from lumvak.cli.command import Refuse
from lumvak.cli.project.reading import evaluation_of
from lumvak.cli.spelled import say
from lumvak.cli.table import table, tell
from lumvak.cli.told import complain
from lumvak.cli.written import check_free, suffix_of, write_out
from lumvak.core.fields import fields_of
from lumvak.core.record_of_pack.passport import project_of
from lumvak.core.record_of_pack.report import TITLES
from lumvak.core.spelling import spoken
from lumvak.files.catalogue_file import load_catalogue
from lumvak.files.export.formats import report_bytes
from lumvak.files.export.label import SUFFIXES, label_bytes
from lumvak.files.export.warning import warning_of
from lumvak.files.label_reader import read_label
from lumvak.files.problem import FileProblem, read_text
from lumvak.files.project_file import project_text, with_copies
from lumvak.files.shelf import Shelved, shelf, sorted_by


def run(chosen: argparse.Namespace, refuse: Refuse) -> int:
    """Write the label; 0 when done, 2 where it cannot be made."""
    suffix = suffix_of(chosen.out, SUFFIXES, refuse)
    evaluation = evaluation_of(chosen)
    if evaluation is None:
        return 2
    wanted = evaluation.project.record.label
    size = chosen.size or (wanted.width_mm, wanted.height_mm)
    try:
        check_free(chosen.out, chosen.force)
        made = label_bytes(evaluation, suffix, size, charger=chosen.charger)
        write_out(chosen.out, made, chosen.force)
    except FileProblem as problem:
        complain("lumvak label", problem)
        return 2
    return 0


def write_report(chosen: argparse.Namespace, refuse: Refuse) -> int:
    """Write the report; 0 when done, 1 where the pack must not be built, 2 where none is made."""
    forms = {".pdf": "report", ".html": "report-html"}
    form = forms[suffix_of(chosen.out, list(forms), refuse)]
    left_out = [name.strip() for name in chosen.without.split(",") if name.strip()]
    for name in left_out:
        if name not in TITLES:
            refuse(f"--without: “{name[:40]}” is no part; accepted: {', '.join(TITLES)}")
    evaluation = evaluation_of(chosen)
    if evaluation is None:
        return 2
    warning = warning_of(evaluation)
    try:
        check_free(chosen.out, chosen.force)
        made = report_bytes(evaluation, form, chosen.paper, warning, left_out=left_out)
        write_out(chosen.out, made, chosen.force)
    except FileProblem as problem:
        complain("lumvak report", problem)
        return 2
    if warning:
        complain("lumvak report", warning)
    return 1 if warning else 0


def read_back(chosen: argparse.Namespace, refuse: Refuse) -> int:
    """Read a label; 0 where it is one, 2 where it is none. With ``-o`` it becomes a project."""
    try:
        standard = chosen.label == "-"
        read = read_label(read_text(Path("-")).strip() if standard else chosen.label)
    except FileProblem as problem:
        complain("lumvak passport", problem)
        return 2
    for text in read.dropped:
        complain("lumvak passport", f"dropped: {spoken(text)}")
    if chosen.out is not None:
        try:
            catalogue = load_catalogue()[0]
            claimed = with_copies(project_of(read.passport, catalogue), catalogue)
            content = project_text(claimed).encode("utf-8")
            told = not (chosen.json or chosen.csv)
            write_out(chosen.out, content, chosen.force, project=True, told=told)
        except FileProblem as problem:
            complain("lumvak passport", problem)
            return 2
    values = {name: it for name, it in asdict(read.passport).items() if it not in (None, "")}
    if str(chosen.out) == "-":
        return 0
    known = fields_of(type(read.passport))
    rows = [
        (known[name].title, say(it, known[name].unit) if isinstance(it, float) else str(it))
        for name, it in values.items()
    ]
    document = {"claimed": values, "dropped": [spoken(it) for it in read.dropped]}
    tell(chosen, document, lambda: table(("claimed by its label", ""), rows))
    return 0


def list_shelf(chosen: argparse.Namespace, refuse: Refuse) -> int:
    """List the projects of a folder; 0 when done, 1 where one of them cannot be read."""
    if not chosen.folder.is_dir():
        refuse(f"{chosen.folder} is no folder")
    wanted = chosen.find.casefold()
    found = shelf(chosen.folder, date.today())
    items = sorted_by((it for it in found if wanted in it.name.casefold()), chosen.sort)
    broken = [it for it in items if it.problem]
    heads = ("project", "count", "full", "capacity", "", "rating", "built", "look at it")
    rows = [_shelf_row(it) for it in items if not it.problem]
    tell(chosen, [_shelf_json(it) for it in items], lambda: table(heads, rows))
    if not chosen.json:
        for it in broken:
            complain("lumvak shelf", f"{it.path.relative_to(chosen.folder)}: {it.problem}")
    return int(bool(broken))


def _shelf_row(item: Shelved) -> tuple[str, ...]:
    glance, due = item.glance, "" if item.due is None else item.due.isoformat()
    if glance is None:
        return (item.name, "", "", "", "not saved here yet", "", item.built or "", due)
    return (
        item.name,
        f"{glance.series}S{glance.parallel}P",
        say(glance.full_v, "V"),
        say(glance.capacity_ah, "Ah"),
        glance.capacity_is,
        glance.standing,
        item.built or "",
        due,
    )


def _shelf_json(item: Shelved) -> dict[str, object]:
    return {
        "path": str(item.path),
        "name": item.name,
        "problem": item.problem,
        "built": item.built,
        "due": None if item.due is None else item.due.isoformat(),
        "entries": item.entries,
        "glance": None if item.glance is None else asdict(item.glance),
    }
