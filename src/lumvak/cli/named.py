"""Parts and chemistries as people call them: by id, by name, in any case, or nearly."""

from __future__ import annotations

import difflib
import re
from collections.abc import Mapping, Sequence
from typing import Any

from lumvak.core.said import listed, phrase
from lumvak.core.spelling import Refused

# Other words for a chemistry or a family of them.
ALSO = {
    "lifepo4": "lfp", "ironphosphate": "lfp", "lithiumironphosphate": "lfp",
    "nickelmanganesecobalt": "nmc", "ncm": "nmc", "liion": "cobalt", "lithiumion": "cobalt",
    "titanate": "lto", "sodiumion": "sodium", "naion": "sodium", "cobaltoxide": "lco",
}  # fmt: skip
# So many are listed where nothing is near.
MOST_LISTED = 12


class NotKnown(Refused):
    """A name that nothing has; the message says what may have been meant."""


def named(word: str, known: Mapping[str, Any], what: str) -> str:
    """The id among ``known`` that a word means; raises NotKnown with what is near.

    ``known`` are parts, or names, by id; case, spaces, hyphens and the like do not count.
    """
    for key, part in known.items():
        if word.casefold() in (key.casefold(), _name(part).casefold()):
            return key
    ids: dict[str, list[str]] = {}
    for key, part in known.items():
        for spelled in {_plain(key), _plain(_name(part))}:
            ids.setdefault(spelled, []).append(key)
    plain = _plain(word)
    meant = ids.get(plain) or ids.get(ALSO.get(plain, ""), [])
    if len(meant) == 1:
        return meant[0]
    begins = [key for it in ids if plain[:-1] and it.startswith(plain[:-1]) for key in ids[it]]
    close = difflib.get_close_matches(plain, ids, 3, 0.75)
    near = [*meant, *begins[:3], *(key for it in close for key in ids[it])]
    raise NotKnown(_told(word, list(dict.fromkeys(near))[:4], sorted(known), what))


def _told(word: str, near: Sequence[str], known: Sequence[str], what: str) -> Any:
    if near:
        meant = listed(near, ", ", " or ")
        return phrase("no {} “{}”; did you mean {}?", what, word[:60], meant)
    more = " …" if len(known) > MOST_LISTED else ""
    accepted = listed(known[:MOST_LISTED])
    return phrase("no {} “{}”; accepted: {}{}", what, word[:60], accepted, more)


def _name(part: Any) -> str:
    return str(getattr(part, "name", part))


def _plain(text: str) -> str:
    return re.sub(r"[^\w.]+|_", "", text.casefold())
