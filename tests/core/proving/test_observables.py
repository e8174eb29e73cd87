"""What the tests tell: each of a test that there is, said in words."""

from typing import get_args

from lumvak.core.document.proving import TestName
from lumvak.core.proving.observables import OBSERVABLES, of_test


def test_every_test_tells_something_and_nothing_is_told_twice() -> None:
    tests = get_args(TestName)
    assert {item.test for item in OBSERVABLES} == set(tests)
    assert len({item.key for item in OBSERVABLES}) == len(OBSERVABLES)
    for item in OBSERVABLES:
        assert item.label and item.means and item.next
    assert of_test("full-discharge")[0].key == "full-discharge.ah"
