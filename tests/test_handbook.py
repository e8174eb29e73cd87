"""The handbook, read as a builder would: short sentences, a beginning, an example that is true."""

import re
from functools import cache
from itertools import pairwise
from pathlib import Path

import pytest

from lumvak.core.evaluate import evaluate
from lumvak.core.evaluation import Evaluation
from lumvak.core.said import say
from lumvak.core.spelling import spoken
from lumvak.files.catalogue_file import load_catalogue
from lumvak.files.project_file import load_project
from lumvak.files.samples import samples
from lumvak.ui.stages.order import STAGES

FOLDER = Path(__file__).parents[1] / "src" / "lumvak" / "data" / "handbook"
WALKS = ("first_pack", "walk_tool", "walk_salvaged", "walk_trouble")
BEGINS = ("What is decided here:", "From what:", "In this order:", "What goes wrong:")
EXAMPLE = re.compile(r"^- (?P<label>.+): (?P<value>.+) \(`(?P<key>[a-z_.0-9]+)`\)$", re.MULTILINE)
MOST_WORDS = 30


@cache
def sample(name: str) -> Evaluation:
    catalogue = load_catalogue()[0]
    path = dict(samples())[name]
    return evaluate(load_project(path, catalogue), catalogue)


def page(name: str) -> str:
    return (FOLDER / f"{name}.md").read_text("utf-8")


@pytest.mark.parametrize("stage", [item.key for item in STAGES])
def test_a_stage_begins_with_what_is_decided_and_has_an_example_that_is_true(stage: str) -> None:
    text = page(stage)
    places = [text.index(f"**{begin}**") for begin in BEGINS]
    assert places == sorted(places)
    (name,) = re.findall(r"^## Example: (.+)$", text, re.MULTILINE)
    assert places[-1] < text.index(f"## Example: {name}")
    figures = sample(name).figures
    found = [*EXAMPLE.finditer(text)]
    assert found, stage
    for item in found:
        figure = figures[item["key"]]
        assert spoken(figure.label).lower() == item["label"].lower(), item[0]
        assert spoken(say(figure.value, figure.unit)) == item["value"], item[0]


def test_pages_follow_the_order_of_the_work() -> None:
    """Each stage leads to the next, and back to the one before."""
    keys = [item.key for item in STAGES]
    for before, after in pairwise(keys):
        assert f"Next: [{names()[after]}]({after}.md)" in page(before)
        assert f"Before: [{names()[before]}]({before}.md)" in page(after)


def names() -> dict[str, str]:
    return {item.key: item.name for item in STAGES}


def test_a_walk_leads_through_steps_that_are_there() -> None:
    for name in WALKS:
        text = page(name)
        steps = re.findall(r"^(\d+)\. ", text, re.MULTILINE)
        assert len(steps) >= 7 and steps == [str(place) for place in range(1, len(steps) + 1)]
        assert re.findall(r"\]\((\w+)\.md\)", text)
    assert all(f"({name}.md)" in page("first_pack") for name in WALKS[1:])


@pytest.mark.parametrize("path", sorted(FOLDER.glob("*.md")), ids=lambda path: path.stem)
def test_no_sentence_is_longer_than_a_breath(path: Path) -> None:
    if path.is_symlink() or path.stem == "words":
        return
    for block in re.split(r"\n\s*\n|\n(?=[-#]|\d+\. )", path.read_text("utf-8")):
        plain = re.sub(r"\]\([^)]*\)|[*`\[\]#]|^\s*(-|\d+\.)\s", " ", block)
        for sentence in re.split(r"(?<=[.!?:;])\s+", plain):
            words = [word for word in sentence.split() if re.search(r"\w", word)]
            assert len(words) <= MOST_WORDS, f"{path.stem}: {' '.join(words)}"
