"""Languages that the window speaks besides ours: a table of sentences for each."""

from __future__ import annotations

from collections.abc import Mapping
from functools import cache
from importlib.resources import files

from msgspec import json

# What each is called by those who speak it; the first is the one that the program is written in.
LANGUAGES = {"en": "English", "de": "Deutsch"}
OURS = "en"


def language_of(wanted: str, desktop: str) -> str:
    """The language to speak: the one ``wanted``, else that of the ``desktop``, else ours."""
    return next((each for each in (wanted, desktop[:2].lower()) if each in LANGUAGES), OURS)


@cache
def sentences_of(language: str) -> Mapping[str, str]:
    """Sentences and words of ``language`` by our own, with ``{}`` for each value; none for ours."""
    if language == OURS or language not in LANGUAGES:
        return {}
    table = files("lumvak") / "data" / "languages" / f"{language}.json"
    return json.decode(table.read_bytes(), type=dict[str, str])
