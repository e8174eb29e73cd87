"""Texts from elsewhere keep what can be shown and written."""

from lumvak.files.signs import in_signs, printable


def test_what_is_not_shown_goes_and_the_rest_stays() -> None:
    assert printable("a\x1b[0m\u202eb Ω×\n") == "a[0mb Ω×"


def test_bytes_that_are_no_text_get_another_sign() -> None:
    assert in_signs("a\udcff.json") == "a?.json"
    assert in_signs("Ωhm") == "Ωhm"
