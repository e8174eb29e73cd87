from __future__ import annotations

import re
from collections import Counter

import pytest
from tools.sentences import sentences, window_words

from lumvak.core.said import phrase
from lumvak.core.spelling import PLAIN, spoken
from lumvak.files.languages import LANGUAGES, language_of, sentences_of

FIELD = re.compile(r"\{[^}]*\}")
OTHERS = [each for each in LANGUAGES if each != "en"]


def test_a_language_is_the_one_preferred_else_that_of_the_desktop_else_ours() -> None:
    assert language_of("", "de_AT") == "de"
    assert language_of("en", "de_AT") == "en"
    assert language_of("de", "C") == "de"
    assert language_of("", "fr_FR") == language_of("xx", "C") == "en"
    assert sentences_of("en") == {} == sentences_of("xx")


@pytest.mark.parametrize("language", OTHERS)
def test_a_translation_has_all_values_of_what_it_translates(language: str) -> None:
    """A value left out would be hidden from a reader, and one too many would end the program."""
    wrong = {
        ours: theirs
        for ours, theirs in sentences_of(language).items()
        if Counter(FIELD.findall(ours)) != Counter(FIELD.findall(theirs))
    }
    assert wrong == {}


@pytest.mark.parametrize("language", OTHERS)
def test_a_translation_begins_and_ends_as_what_it_translates(language: str) -> None:
    """Pieces are set together: a space that is lost joins two words."""
    wrong = {
        ours: theirs
        for ours, theirs in sentences_of(language).items()
        if (ours[:1].isspace(), ours[-1:].isspace())
        != (theirs[:1].isspace(), theirs[-1:].isspace())
        or theirs.count("\t") != ours.count("\t")
    }
    assert wrong == {}


@pytest.mark.parametrize("language", OTHERS)
def test_nothing_is_translated_that_is_not_said(language: str) -> None:
    said = {*sentences(), *window_words()}
    assert sorted(set(sentences_of(language)) - said) == []


@pytest.mark.parametrize("language", OTHERS)
def test_of_what_the_window_and_the_core_say_nearly_all_is_translated(language: str) -> None:
    """Names of units that are read, patterns and sheets of styles are left out."""
    wanted = [
        text
        for text, place in {**sentences(), **window_words()}.items()
        if place.startswith(("ui/", "core/", "bench/"))
        and place.split(":")[0] != "core/units.py"
        and len(re.findall(r"[a-z]{3,}", text)) > 2
        and " " in text.strip()
        and not re.search(r"\(\?|[{];|: \w+;", text)
    ]
    assert len(wanted) > 3000
    missing = [text for text in wanted if text not in sentences_of(language)]
    assert len(missing) <= len(wanted) / 500, missing


def test_a_finding_is_spoken_in_the_other_language_with_its_values_in_their_places() -> None:
    of_group = phrase("Group {} is at {}, under {}", 3, "2.9 V", "3 V")
    assert spoken(of_group, PLAIN, sentences_of("de")) == "Gruppe 3 steht bei 2.9 V, unter 3 V"
