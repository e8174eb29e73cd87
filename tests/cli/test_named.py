"""Names of parts as people write them."""

import pytest

from lumvak.cli.named import NotKnown, named
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.catalogue.cells import FAMILY_NAMES
from lumvak.core.spelling import spoken


@pytest.mark.parametrize("word", ["ostrel-21-48", "Ostrel 21-48", "OSTREL 21 48", "ostrel2148"])
def test_a_part_has_its_id_and_its_name_in_any_case(catalogue: Catalogue, word: str) -> None:
    assert named(word, catalogue.cells, "cell") == "ostrel-21-48"


@pytest.mark.parametrize(
    ("word", "id_"),
    [
        ("LFP", "lfp"),
        ("LiFePO4", "lfp"),
        ("NCM", "nmc"),
        ("li-ion", "cobalt"),
        ("LTO", "lto"),
        ("phosphate", "phosphate"),
    ],
)
def test_a_chemistry_has_several_names(catalogue: Catalogue, word: str, id_: str) -> None:
    assert named(word, {**FAMILY_NAMES, **catalogue.chemistries}, "chemistry") == id_


@pytest.mark.parametrize("word", ["ostrl-21-84", "ostrell", "ostrel 2148x"])
def test_what_is_nearly_so_is_asked_for_and_not_taken(catalogue: Catalogue, word: str) -> None:
    with pytest.raises(NotKnown) as found:
        named(word, catalogue.cells, "cell")
    assert "did you mean ostrel-" in spoken(found.value.said)


def test_what_is_far_from_all_lists_what_there_is(catalogue: Catalogue) -> None:
    with pytest.raises(NotKnown) as found:
        named("§", catalogue.chemistries, "chemistry")
    assert "accepted: lco, lfp" in spoken(found.value.said)


def test_every_part_is_found_by_its_id_and_its_name(catalogue: Catalogue) -> None:
    """No two cells, wires or fuses are alike once their signs are left out."""
    for known in (catalogue.cells, catalogue.wires, catalogue.fuses, catalogue.boards):
        assert all(named(key.upper(), known, "part") == key for key in known)
