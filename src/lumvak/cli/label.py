"""``lumvak label``: the label of a pack or of its charger; ``lumvak passport`` reads it back.

``lumvak report`` writes the whole record.
"""

from __future__ import annotations

import argparse

from msgspec.structs import asdict

from lumvak.cli.command import Refuse
from lumvak.cli.evaluate import read_evaluation
from lumvak.cli.spelled import say
from lumvak.cli.table import json_text, table
from lumvak.cli.told import complain
from lumvak.core.fields import fields_of
from lumvak.core.record_of_pack.passport import project_of
from lumvak.core.record_of_pack.report import TITLES
from lumvak.core.spelling import spoken
from lumvak.files.catalogue_file import load_catalogue
from lumvak.files.export.formats import report_bytes
from lumvak.files.export.label import SUFFIXES, label_bytes
from lumvak.files.export.warning import warning_of
from lumvak.files.label_reader import read_label
from lumvak.files.problem import FileProblem, write_atomically
from lumvak.files.project_file import is_project, save_project


def run(chosen: argparse.Namespace, refuse: Refuse) -> int:
    """Write the label; 0 when done, 2 where it cannot be made."""
    suffix = chosen.out.suffix.lower()
    if suffix not in SUFFIXES:
        refuse(f"-o: “{chosen.out.name[:60]}” ends otherwise; accepted: {', '.join(SUFFIXES)}")
    evaluation = read_evaluation("lumvak label", chosen.file, chosen.catalogue)
    if evaluation is None:
        return 2
    wanted = evaluation.project.record.label
    size = chosen.size or (wanted.width_mm, wanted.height_mm)
    if is_project(chosen.out):
        complain("lumvak label", f"{chosen.out} is a project; name another file")
        return 2
    try:
        made = label_bytes(evaluation, suffix, size, charger=chosen.charger)
        write_atomically(chosen.out, made)
    except FileProblem as problem:
        complain("lumvak label", problem)
        return 2
    print(chosen.out)
    return 0


def write_report(chosen: argparse.Namespace, refuse: Refuse) -> int:
    """Write the report; 0 when done, 1 where the pack must not be built, 2 where none is made."""
    forms = {".pdf": "report", ".html": "report-html"}
    form = forms.get(chosen.out.suffix.lower())
    if form is None:
        refuse(f"-o: “{chosen.out.name[:60]}” ends otherwise; accepted: {', '.join(forms)}")
    left_out = [name.strip() for name in chosen.without.split(",") if name.strip()]
    for name in left_out:
        if name not in TITLES:
            refuse(f"--without: “{name[:40]}” is no part; accepted: {', '.join(TITLES)}")
    evaluation = read_evaluation("lumvak report", chosen.file, chosen.catalogue)
    if evaluation is None:
        return 2
    if is_project(chosen.out):
        complain("lumvak report", f"{chosen.out} is a project; name another file")
        return 2
    warning = warning_of(evaluation)
    try:
        made = report_bytes(evaluation, form, chosen.paper, warning, left_out=left_out)
        write_atomically(chosen.out, made)
    except FileProblem as problem:
        complain("lumvak report", problem)
        return 2
    if warning:
        complain("lumvak report", warning)
    print(chosen.out)
    return 1 if warning else 0


def read_back(chosen: argparse.Namespace, refuse: Refuse) -> int:
    """Read a label; 0 where it is one, 2 where it is none. With ``-o`` it becomes a project."""
    try:
        read = read_label(chosen.label)
    except FileProblem as problem:
        complain("lumvak passport", problem)
        return 2
    for text in read.dropped:
        complain("lumvak passport", f"dropped: {spoken(text)}")
    if chosen.out is not None:
        if chosen.out.exists():
            refuse(f"-o: {chosen.out} is there already")
        try:
            catalogue = load_catalogue()[0]
            save_project(project_of(read.passport, catalogue), chosen.out, catalogue)
        except FileProblem as problem:
            complain("lumvak passport", problem)
            return 2
    values = {name: it for name, it in asdict(read.passport).items() if it not in (None, "")}
    if chosen.json:
        print(json_text({"claimed": values, "dropped": [spoken(it) for it in read.dropped]}))
        return 0
    known = fields_of(type(read.passport))
    rows = [
        (known[name].title, say(it, known[name].unit) if isinstance(it, float) else str(it))
        for name, it in values.items()
    ]
    print(table(("claimed by its label", ""), rows))
    return 0
