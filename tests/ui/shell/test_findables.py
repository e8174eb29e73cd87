"""Where everything that is found leads to."""

from lumvak.core.document.project import Project
from lumvak.core.fields import fields_of
from lumvak.ui.shell.findables import HOMES, Ways, findables, home_of
from lumvak.ui.shell.finder import matches
from lumvak.ui.shell.window import Window
from lumvak.ui.stages.order import STAGES


def test_parts_of_the_document_have_a_home_among_the_stages() -> None:
    assert {path.partition(".")[0] for path in HOMES} <= set(fields_of(Project))
    assert all(home_of(path) for path in (*HOMES, "joints.weld_test.points", "rest.charge"))
    assert home_of("joints.weld_test.points") == "hand" and not home_of("name")
    assert set(HOMES.values()) <= {stage.key for stage in STAGES}


def test_stages_views_figures_and_commands_are_all_there(window: Window) -> None:
    gone: list[str] = []

    def page(key: str) -> object:
        gone.append(key)
        window.open_stage(key)
        return window.stages[key]

    found = findables(window.session, Ways(gone.append, page), window.menus.actions)  # type: ignore[arg-type]
    kinds: dict[str, int] = {}
    for item in found:
        kinds[item.kind] = kinds.get(item.kind, 0) + 1
    assert kinds["stage"] == len(STAGES)
    assert kinds["view"] == sum(len(stage.views) for stage in STAGES)
    assert kinds["figure"] == len(window.session.evaluation.figures)
    assert kinds["command"] > 30
    view = next(item for item in found if item.name == "Cells and count: chart")
    view.do()
    assert gone == ["cells", "cells"]


def test_fields_are_found_by_the_words_that_others_have_for_them(window: Window) -> None:
    found = findables(window.session, Ways(lambda _: None, lambda _: None), ())  # type: ignore[arg-type,return-value]
    for words, title in (
        ("bms", "BMS"),
        ("spot weld", "Weld points per cell"),
        ("price", "Cost at most"),
        ("state of charge", "Starts at"),
        ("wire gauge", "Section"),
        ("soc", "Charged from"),
    ):
        names = [item.name for item in matches(found, words) if item.kind == "field"]
        assert title in names, words
    # What a field holds is said with its unit.
    limit = next(
        item for item in found if (item.name, item.kind) == ("Rise over the cell", "field")
    )
    assert limit.now == "20 K"
