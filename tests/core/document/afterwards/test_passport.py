"""A passport whose fields contradict each other is refused."""

import pytest
from msgspec.structs import asdict

from lumvak.core.checked import NotAccepted, made
from lumvak.core.document.afterwards.passport import Passport
from tests.core.record_of_pack.test_label import PACK


def test_empty_lies_under_full() -> None:
    assert made(Passport, asdict(PACK)) == PACK
    with pytest.raises(NotAccepted, match="30 V is not under full"):
        made(Passport, {**asdict(PACK), "empty_v": 30.0})
    with pytest.raises(NotAccepted, match="Built"):
        made(Passport, {**asdict(PACK), "built": "last spring"})
