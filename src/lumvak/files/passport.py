"""A passport as the short text of a code, and read back: nothing in it is trusted.

The text is a mark and JSON with short names; where that is too long, the same in the alphabet of 45
signs that codes hold best (RFC 9285), deflated (RFC 1951).
"""

from __future__ import annotations

import json
import zlib
from collections.abc import Mapping
from typing import Any

from msgspec import Struct

from lumvak.core.checked import NotAccepted, made
from lumvak.core.document.afterwards.passport import Passport
from lumvak.core.said import Text, phrase
from lumvak.core.spelling import spoken
from lumvak.files.problem import FileProblem

PLAIN, PACKED = "LUMVAK1 ", "LUMVAK1Z "
# Longer than this no text is read, nor unpacked; nor is it nested.
MOST_TEXT, MOST_UNPACKED = 4096, 16_384
# The short name of each field.
SHORT = {
    "name": "n", "chemistry": "x", "cell": "k", "series": "s", "parallel": "p",
    "capacity_ah": "c", "capacity_is": "ci", "full_v": "f", "empty_v": "e", "continuous_a": "a",
    "peak_a": "pa", "peak_s": "ps", "charge_v": "cv", "charge_a": "ca", "discharge_min_c": "t0",
    "discharge_max_c": "t1", "charge_min_c": "t2", "charge_max_c": "t3", "bms": "b", "fuse_a": "u",
    "resistance_mohm": "r", "standing": "st", "modified": "m", "built": "d", "measured": "dm",
    "tail_a": "ta",
}  # fmt: skip
LONG = {short: name for name, short in SHORT.items()}
ALPHABET = "0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZ $%*+-./:"


class ReadPassport(Struct, frozen=True):
    """A passport as it was read, and what of the text was dropped, in words."""

    passport: Passport
    dropped: tuple[Text, ...]


def passport_text(passport: Passport, packed: bool = False) -> str:
    """The text of a code, ``packed`` where room is short; what says nothing is left out."""
    values = {}
    for name, short in SHORT.items():
        value = getattr(passport, name)
        if value is not None and value != _usual(name):
            values[short] = int(value) if isinstance(value, float) and value % 1 == 0 else value
    text = json.dumps(values, ensure_ascii=False, separators=(",", ":"))
    if not packed:
        return PLAIN + text
    squeezed = zlib.compressobj(9, wbits=-15)
    return PACKED + base45(squeezed.compress(text.encode("utf-8")) + squeezed.flush())


def _usual(name: str) -> object:
    place = Passport.__struct_fields__.index(name) - len(Passport.__struct_fields__)
    defaults = Passport.__struct_defaults__
    return defaults[place] if -place <= len(defaults) else None


def read_passport(text: str) -> ReadPassport:
    """A passport from the text of a code; raises FileProblem where it is none.

    A field that is not accepted is dropped and named; without those that a passport must have it is
    refused.
    """
    values = _values(text)
    good: dict[str, Any] = {}
    dropped: list[Text] = []
    for short, value in values.items():
        name = LONG.get(short)
        if name is None:
            dropped.append(phrase("“{}”, which nobody knows", short[:20]))
            continue
        good[name] = value
    while True:
        try:
            return ReadPassport(made(Passport, good), tuple(dropped))
        except NotAccepted as problem:
            wrong = problem.wrongs[0]
            name = str(wrong.way[0]) if wrong.way else ""
            if name not in good or name in MUST:
                raise _no(wrong.sentence) from None
            dropped.append(wrong.sentence)
            del good[name]


MUST = ("name", "series", "parallel", "capacity_ah", "full_v", "empty_v")


def _no(why: Text) -> FileProblem:
    return FileProblem(f"no passport: {spoken(why)}")


def _values(text: str) -> Mapping[str, Any]:
    """What the text holds by its short names; raises FileProblem."""
    text = text.strip("\r\n\t")
    if len(text) > MOST_TEXT:
        raise _no(phrase("{} signs; accepted: up to {}", len(text), MOST_TEXT))
    if text.startswith(PACKED):
        inner = _unpacked(text.removeprefix(PACKED))
    elif text.startswith(PLAIN):
        inner = text.removeprefix(PLAIN)
    else:
        raise _no(phrase("“{}” does not begin with {}", text[:20], PLAIN))
    try:
        values = json.loads(inner, parse_constant=_refuse)
    except (ValueError, RecursionError):
        raise _no("what it holds is no JSON") from None
    if not isinstance(values, dict):
        raise _no("what it holds is no list of names with values")
    return values


def _refuse(word: str) -> None:
    raise ValueError(word)


def _unpacked(text: str) -> str:
    try:
        inflater = zlib.decompressobj(wbits=-15)
        made_of = inflater.decompress(from_base45(text), MOST_UNPACKED)
        if inflater.unconsumed_tail:
            raise _no(phrase("it unpacks to more than {} bytes", MOST_UNPACKED))
        return made_of.decode("utf-8")
    except (zlib.error, ValueError, UnicodeDecodeError):
        raise _no("it does not unpack") from None


def base45(data: bytes) -> str:
    """Two bytes as three signs, one as two (RFC 9285)."""
    found = []
    for place in range(0, len(data), 2):
        pair = data[place : place + 2]
        number = int.from_bytes(pair, "big")
        for _ in range(len(pair) + 1):
            number, digit = divmod(number, 45)
            found.append(ALPHABET[digit])
    return "".join(found)


def from_base45(text: str) -> bytes:
    """Bytes from signs; raises ValueError."""
    made_of = bytearray()
    for place in range(0, len(text), 3):
        digits = [ALPHABET.index(sign) for sign in text[place : place + 3]]
        if len(digits) == 1:
            raise ValueError("a sign alone")
        number = sum(digit * 45**power for power, digit in enumerate(digits))
        if number >= 256 ** (len(digits) - 1):
            raise ValueError("signs for more bytes than they may")
        made_of += number.to_bytes(len(digits) - 1, "big")
    return bytes(made_of)
