"""No sentence of the core is put together from pieces: all of it can be said in another language.

Every template and word that the source has is turned into other letters. What an evaluation then
says in plain letters was never in the source as a whole.
"""

import re
from collections.abc import Iterator

import pytest
from tools.sentences import sentences

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.evaluation import Evaluation
from lumvak.core.said import Listed, Quantity, Said, Text
from lumvak.core.spelling import spoken

# A field of a template stays; everything else is turned.
FIELD = re.compile(r"(\{\d*\})")
LETTERS = str.maketrans(dict.fromkeys("abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ", "ж"))
PLAIN = re.compile(r"[A-Za-z]{3,}")
DEMOS = ("barrow", "trimmer", "kayak", "cycle")


@pytest.fixture(scope="session")
def pseudo() -> dict[str, str]:
    return {
        text: "".join(
            part if FIELD.fullmatch(part) else part.translate(LETTERS) for part in FIELD.split(text)
        )
        for text in sentences()
    }


def said_in(evaluation: Evaluation) -> Iterator[tuple[str, Text]]:
    """Everything that an evaluation says to a person, with where."""
    for finding in evaluation.findings:
        for text in (finding.text, finding.why, finding.do):
            yield finding.code, text
    for link in evaluation.path.links:
        yield link.key, link.name
        yield link.key, link.detail
    for key, figure in evaluation.figures.items():
        yield key, figure.label
        yield key, figure.rule
    for row in evaluation.power.settings:
        yield row.key, row.reason
    for refusal in evaluation.sized.options.refused:
        yield "refused", refusal.reason
    for item in evaluation.sized.boards.own:
        for reason in (*item.reasons, *item.remarks):
            yield reason.code, reason.text
    for text in (
        *evaluation.charging.verdict.checks,
        evaluation.charging.verdict.at_end,
        evaluation.charging.verdict.board_fails,
        evaluation.charging.verdict.instead,
    ):
        yield "charger", text


def names_in(evaluation: Evaluation) -> set[str]:
    """What has a name of its own, in no language."""
    catalogue = evaluation.sized.parts
    names = {evaluation.project.name, *map(str, evaluation.laid_out.joined_pack.layout.name)}
    names |= {f"AWG {gauge}" for gauge in range(41)}
    for parts in (
        catalogue.cells,
        catalogue.chemistries,
        catalogue.conductors,
        catalogue.boards,
        catalogue.fuses,
        catalogue.connectors,
        catalogue.switches,
        catalogue.surges,
        catalogue.wires,
        catalogue.holders,
        catalogue.chargers,
    ):
        names |= {part.name for part in parts.values()}
    # What stands about the sizes in the name of a conductor.
    about = [part.said for part in catalogue.conductors.values()]
    names |= {str(value) for said in about if isinstance(said, Said) for value in said.values[::2]}
    need = evaluation.project.need
    names |= {item.name for item in (*need.rails, *need.appliances)}
    names |= {item.name for item in evaluation.project.charging.chargers}
    names |= {item.name for item in evaluation.project.hand.lots}
    names |= {item.name for item in evaluation.project.arrangement.kept_free}
    names |= {cell.why for cell in evaluation.project.hand.cells}
    return names | {chemistry.curve_source for chemistry in catalogue.chemistries.values()}


def put_together(text: Text | int, names: set[str]) -> Iterator[str]:
    """The words of a text that are no name: those are in the source, or were put together."""
    if isinstance(text, Said):
        for value in text.values:
            yield from put_together(value, names)
    elif isinstance(text, Listed):
        for item in text.items:
            yield from put_together(item, names)
    elif isinstance(text, str) and text not in names:
        yield text


@pytest.mark.parametrize("demo", DEMOS)
def test_nothing_that_is_said_was_put_together(
    demo: str, demos: dict[str, Project], catalogue: Catalogue, pseudo: dict[str, str]
) -> None:
    evaluation = evaluate(demos[demo], catalogue)
    names = names_in(evaluation)
    left, count = dict[str, str](), 0
    for where, text in said_in(evaluation):
        count += 1
        for words in put_together(text, names):
            turned = pseudo.get(words, words)
            if PLAIN.search(turned) and not words.startswith("“"):
                left[words] = where
        for said in templates(text):
            if said not in pseudo and PLAIN.search(said):
                left[said] = where
    assert count > 500
    assert not left


def templates(text: Text | int) -> Iterator[str]:
    """The templates within a text."""
    if isinstance(text, Said):
        yield text.template
        for value in text.values:
            yield from templates(value)
    elif isinstance(text, Listed):
        yield from (text.between, text.last)
        for item in text.items:
            yield from templates(item)


def test_quantities_alone_are_spelled_in_units() -> None:
    assert spoken(Quantity(1.0, "V"), sentences={"V": "ж"}) == "1 V"
