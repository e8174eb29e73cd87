"""A found pack among the topics of an evaluation."""

from msgspec.structs import replace

from lumvak.core.as_found.topic import found_topic
from lumvak.core.document.afterwards.as_found import AsFound
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.files.catalogue_file import load_catalogue
from tests.core.as_found.test_risks import SOUND

PARTS = load_catalogue()[0]


def test_a_project_from_a_need_has_none_of_it() -> None:
    assert found_topic(AsFound(promised_a=40.0), PARTS).audit is None
    made = evaluate(Project(), PARTS)
    assert not any(key.startswith("as_found.") for key in made.figures)


def test_what_is_there_is_told_with_the_field_that_ends_it() -> None:
    bad = replace(SOUND, state="swollen", bleeds=False, tap_wires=9)
    made = evaluate(Project(as_found=bad), PARTS)
    told = {it.code: it for it in made.findings if it.stage == "as_found"}
    assert {"found-state", "found-no-balance", "found-counts"} == set(told)
    assert told["found-state"].severity == "stop" and told["found-state"].cure == "as_found.state"
    assert told["found-counts"].cure == "as_found.tap_wires"
    assert made.figures["as_found.continuous_a"].number > 15.0
    better = evaluate(Project(as_found=replace(bad, state="sound")), PARTS)
    assert not any(it.code == "found-state" for it in better.findings)
