"""A log whose entries contradict each other is refused."""

import pytest
from msgspec.structs import asdict

from lumvak.core.checked import NotAccepted, made
from lumvak.core.document.afterwards.record_of_pack import PackRecord
from tests.core.record_of_pack.test_log import entry


def test_an_entry_is_there_once_and_corrects_one_that_is() -> None:
    one = asdict(entry("a" * 8))
    assert made(PackRecord, {"log": [one]}).log[0].id == "a" * 8
    with pytest.raises(NotAccepted, match="twice"):
        made(PackRecord, {"log": [one, one]})
    with pytest.raises(NotAccepted, match="corrects no entry"):
        made(PackRecord, {"log": [{**one, "corrects": "b" * 8}]})
