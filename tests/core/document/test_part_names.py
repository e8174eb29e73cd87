"""Parts that a project names, and what changes of them are called."""

import pytest

from lumvak.core.catalogue.catalogue import Catalogue, UnknownPart
from lumvak.core.document.edit import with_values
from lumvak.core.document.part_names import change_words, check_parts, named_parts
from lumvak.core.document.project import Project
from tests.edits import parts_of

PACK = ("pack.cell", "pack.series", "pack.parallel")


def test_every_field_that_takes_a_part_is_among_them(catalogue: Catalogue) -> None:
    named = {item.path: item for item in named_parts(Project(), catalogue)}
    for path, ids in parts_of(catalogue).items():
        assert {*ids} - {"none"} == {*named[path].known}, path


def test_a_part_that_nobody_has_is_refused_by_its_path(catalogue: Catalogue) -> None:
    for path in parts_of(catalogue):
        with pytest.raises(UnknownPart, match=path):
            check_parts(with_values(Project(), {path: "nobody-has-it"}), catalogue)


def test_changes_are_called_by_names_and_not_by_ids(catalogue: Catalogue, plain: Project) -> None:
    cell = next(iter(catalogue.cells.values()))
    fresh = with_values(plain, dict(zip(PACK, (cell.id, 13, 8), strict=True)))
    assert change_words(fresh, catalogue, PACK) == f"13S8P of {cell.name}"
    assert change_words(plain, catalogue, PACK) == "the top-ranked pack"
    for path, ids in parts_of(catalogue).items():
        fresh = with_values(plain, {path: ids[0]})
        words = change_words(fresh, catalogue, [path])
        known = next(item.known for item in named_parts(fresh, catalogue) if item.path == path)
        assert words.endswith(known[ids[0]].name)
    assert change_words(plain, catalogue, ["need.current_a"]) == "continuous current"
