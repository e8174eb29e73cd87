"""What was seen of a pack, as it is stored."""

import pytest

from lumvak.core.checked import made
from lumvak.core.document.afterwards.as_found import FIELDS, NOTHING, AsFound, is_seen
from lumvak.core.spelling import Refused


def test_nothing_is_seen_at_first() -> None:
    assert not any(is_seen(NOTHING, it) for it in FIELDS) and "begun" not in FIELDS
    seen = made(AsFound, {"bleeds": False, "group_v": [3.7]})
    assert is_seen(seen, "bleeds") and is_seen(seen, "group_v") and not is_seen(seen, "bms")


@pytest.mark.parametrize("kind", ["bms", "fuse"])
def test_a_rating_of_what_is_not_there_is_refused(kind: str) -> None:
    with pytest.raises(Refused):
        made(AsFound, {kind: "none", f"{kind}_a": 20.0})
    assert made(AsFound, {kind: "there", f"{kind}_a": 20.0})
