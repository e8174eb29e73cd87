"""What is remembered of the window, and preferences."""

from pathlib import Path

import pytest
from msgspec.structs import replace

from lumvak.files.kept.window_settings import (
    Settings,
    load_settings,
    save_settings,
    spelling_of,
    with_recent,
)


def test_what_is_kept_is_read_back(tmp_path: Path) -> None:
    path = tmp_path / "deep" / "settings.json"
    kept = replace(Settings(), sheet="dark", text_percent=150, currency="kr", lengths="in")
    save_settings(kept, path)
    assert load_settings(path) == (kept, "")
    assert load_settings(tmp_path / "none.json") == (Settings(), "")


@pytest.mark.parametrize("text", ["", "{", "[]", '{"sheet": "plaid"}', '{"text_percent": "x"}'])
def test_preferences_that_are_none_begin_anew_and_say_so(tmp_path: Path, text: str) -> None:
    path = tmp_path / "settings.json"
    path.write_text(text, "utf-8")
    settings, said = load_settings(path)
    assert settings == Settings() and "begun anew" in said


def test_the_desktop_has_its_way_until_something_is_preferred() -> None:
    assert spelling_of(Settings(), comma=True, currency="€").comma
    assert spelling_of(Settings(), comma=True, currency="€").currency == "€"
    preferred = replace(Settings(), decimal="point", currency="kr", temperatures="F")
    spelling = spelling_of(preferred, comma=True, currency="€")
    assert (spelling.comma, spelling.currency, spelling.fahrenheit) == (False, "kr", True)


def test_the_last_file_is_first_and_none_twice(tmp_path: Path) -> None:
    settings = Settings()
    for name in ("a", "b", "a"):
        settings = with_recent(settings, tmp_path / name)
    assert [Path(item).name for item in settings.recent] == ["a", "b"]
    for place in range(40):
        settings = with_recent(settings, tmp_path / str(place))
    assert len(settings.recent) <= 12 and Path(settings.recent[0]).name == "39"
