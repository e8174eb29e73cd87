"""A topic that nobody has is added whole to a copy of the source, and what it took is counted.

A section of the document, a kind of part, a figure, a link and a finding, a stage with its page of
the handbook, and a command. CONTRIBUTING.md walks along the same places.
"""

import os
import shutil
import subprocess
import sys
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
MOST_FILES, MOST_LINES = 9, 45
PROJECT = "pyproject.toml"


def test_a_new_topic_is_rooms_of_its_own_and_few_lines_elsewhere(tmp_path: Path) -> None:
    shutil.copytree(ROOT / "src", tmp_path / "src", ignore=shutil.ignore_patterns("__pycache__"))
    shutil.copy(ROOT / PROJECT, tmp_path / PROJECT)
    for name, text in ADDED.items():
        path = tmp_path / "src" / "lumvak" / name
        assert not path.exists()
        path.parent.mkdir(exist_ok=True)
        path.write_text(text, "utf-8")
    lines = 0
    for name, changes in TOUCHED.items():
        path = tmp_path / (name if name == PROJECT else f"src/lumvak/{name}")
        text = path.read_text("utf-8")
        for after, more in changes:
            assert text.count(after) == 1, f"{name}: {after}"
            text = text.replace(after, after + more)
            lines += max(1, more.count("\n"))
        path.write_text(text, "utf-8")
    assert len(TOUCHED) <= MOST_FILES
    assert lines <= MOST_LINES
    ran = subprocess.run(
        [sys.executable, "-c", SCRIPT],
        env={**os.environ, "PYTHONPATH": str(tmp_path / "src"), "QT_QPA_PLATFORM": "offscreen"},
        check=False,
        capture_output=True,
        text=True,
    )
    assert not ran.returncode, ran.stderr
    assert ran.stdout.splitlines() == [
        "7.5",
        "lantern",
        "lantern-dim",
        "a lantern of 7.5 W",
        "Amps",
        "Glow 5",
        "# Lanterns",
        "{'lumens': 500.0}",
        "12 W of light",
    ]


ADDED = {
    "core/lanterns/__init__.py": '"""Lanterns."""\n',
    "core/lanterns/lantern.py": '''"""A lantern on the pack."""

from __future__ import annotations

from msgspec import Struct

from lumvak.core.document.lanterns import Lanterns
from lumvak.core.figures.figure import Figure, computed, typed
from lumvak.core.figures.finding import Finding
from lumvak.core.figures.link import Link, PathLoad


class Lantern(Struct, frozen=True):
    """A lantern: its power, the link it makes and what there is to notice."""

    power: Figure
    links: tuple[Link, ...]
    figures: tuple[Figure, ...]
    findings: tuple[Finding, ...]


def lantern(wanted: Lanterns, full: Figure, load: PathLoad) -> Lantern:
    """The lantern of a pack."""
    amps = typed("lanterns.amps", "Lantern", wanted.amps, "A")
    watts = amps.number * 15.0
    power = computed("lanterns.power_w", "Lantern gives", watts, "W", "A x 15 V", "", amps)
    dim = Finding("lantern-dim", "note", "It is dim", "Few watts.", "More.", "lanterns", power.key)
    link = load.link("lantern", "lantern", "a lamp", "lanterns", full)
    return Lantern(power, (link,), (power,), (dim,))
''',
    "core/document/lanterns.py": '''"""What the builder says of lanterns."""

from typing import Annotated

from lumvak.core.record import Document, about


class Lanterns(Document, frozen=True):
    """A lantern, and the lamp in it."""

    amps: Annotated[float, about("Amps", "A", ge=0, le=10)] = 0.5
    lamp: str | None = None
''',
    "core/catalogue/lamps.py": '''"""Lamps."""

from typing import Annotated

from lumvak.core.record import Document, about


class Lamp(Document, frozen=True, kw_only=True):
    """A lamp: what it gives."""

    id: str
    name: str = ""
    lumens: Annotated[float, about("Light", "lm", gt=0)]
    sample: bool = False
''',
    "data/parts/lamps.json": '{"format": "lumvak-parts", "version": 1, "title": "Sample lamps", '
    '"lamps": [{"id": "glow-5", "name": "Glow 5", "lumens": 500.0, "sample": true}]}',
    "ui/stages/lanterns/__init__.py": '"""The stage of the lanterns."""\n',
    "ui/stages/lanterns/answer.py": '''"""What the build line says of lanterns."""

from lumvak.core.evaluation import Evaluation


def lanterns_answer(seen: Evaluation) -> str:
    """The power of the lantern."""
    return f"a lantern of {seen.lantern.power.value:g} W"
''',
    "ui/stages/lanterns/stage.py": '''"""The stage of the lanterns."""

from lumvak.core.evaluation import Evaluation
from lumvak.ui.widgets.pages import Page


class LanternsStage(Page):
    """Nothing but the lantern."""

    def show_evaluation(self, seen: Evaluation) -> None:
        """Show it."""
''',
    "data/handbook/lanterns.md": "# Lanterns\n",
    "cli/lantern.py": '''"""The lamp of a project, and its light."""

import argparse

from lumvak.cli.command import Refuse


def run(chosen: argparse.Namespace, refuse: Refuse) -> int:
    """Print it."""
    print(f"{chosen.watts} W of light")
    return 0
''',
}
# Which lines a topic adds to what stands already: after which text, and what.
TOUCHED: dict[str, list[tuple[str, str]]] = {
    "core/document/project.py": [
        ('    rest: Annotated[Rest, about("Storage", tip="The pack left alone")] = Rest()\n',
         '    lanterns: Annotated[Lanterns, about("Lanterns", tip="Its lamps")] = Lanterns()\n'),
        ("from lumvak.core.record import Document, Unfit, about\n",
         "from lumvak.core.document.lanterns import Lanterns\n"),
    ],
    "core/document/part_names.py": [
        ("    named: tuple[tuple[str, str, str | None, Mapping[str, Any]], ...] = (\n",
         '        ("lanterns.lamp", "lamp", project.lanterns.lamp, catalogue.lamps),\n'),
    ],
    "core/catalogue/catalogue.py": [
        ('        tuple[Holder, ...], about("Cell holders", tip="Holders for round cells")\n'
         "    ] = ()\n",
         '    lamps: Annotated[tuple[Lamp, ...], about("Lamps", tip="What gives light")] = ()\n'),
        ("    holders: dict[str, Holder]\n", "    lamps: dict[str, Lamp]\n"),
        ("from lumvak.core.catalogue.holders import Holder\n",
         "from lumvak.core.catalogue.lamps import Lamp\n"),
    ],
    "core/evaluation.py": [
        ("    charging: ChargingTopic\n", "    lantern: Lantern\n"),
        ("at_the_bench = (", "self.lantern, "),
        ("from lumvak.core.taps.routes import Taps\n",
         "from lumvak.core.lanterns.lantern import Lantern\n"),
    ],
    "core/evaluate.py": [
        ("charging=charging_of(project, sized, power, run, watched, steps),\n",
         "        lantern=steps.of(lantern, project.lanterns, sized.pack.full, sized.load),\n"),
        ("from lumvak.core.steps import Steps\n",
         "from lumvak.core.lanterns.lantern import lantern\n"),
    ],
    "ui/stages/order.py": [
        ('("rating.continuous_a",), POWER_VIEWS),\n',
         '    Stage("lanterns", "Lanterns", lanterns_answer, _lanterns, ("lanterns.power_w",)),\n'),
        ("from lumvak.ui.widgets.pages import Page\n",
         "from lumvak.ui.stages.lanterns.answer import lanterns_answer\n"),
        ("    return PowerStage(session)\n",
         "\n\ndef _lanterns(session: Session) -> Page:\n"
         "    from lumvak.ui.stages.lanterns.stage import LanternsStage\n\n"
         "    return LanternsStage(session)\n"),
    ],
    "cli/commands/parts.py": [
        ('    rows="runs",\n)  # fmt: skip\n',
         '\nLANTERN = Command(\n    "lantern", "The lamp of a project, and its light.",\n'
         '    (flag("--watts", type=int, metavar="12"),),\n    "lumvak.cli.lantern:run",\n)\n'),
        ("PARTS = (CELL, ", "LANTERN, "),
    ],
    PROJECT: [
        ('  "making | taps', " | lanterns"),
        ('  "lumvak.ui.stages.taps",\n', '  "lumvak.ui.stages.lanterns",\n'),
    ],
}  # fmt: skip
SCRIPT = """
from pathlib import Path
from lumvak.core.catalogue.lamps import Lamp
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.fields import title_at
from lumvak.cli.main import main
from lumvak.files.catalogue_file import load_catalogue
from lumvak.ui.handbook.pages import page_text
from lumvak.ui.stages.order import STAGES
catalogue = load_catalogue(own=Path("none"))[0]
made = evaluate(Project(), catalogue)
print(made.figures["lanterns.power_w"].value)
print(next(link.key for link in made.path.links if link.stage == "lanterns"))
print(next(item.code for item in made.findings if item.stage == "lanterns"))
print(next(stage for stage in STAGES if stage.key == "lanterns").answer(made))
print(title_at(Project, ("lanterns", "amps")))
print(catalogue.lamps["glow-5"].name)
print(page_text("lanterns").strip())
print({"lumens": catalogue.lamps["glow-5"].lumens})
main(["lantern", "--watts", "12"])
"""
