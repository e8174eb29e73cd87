"""Numbers that lack, and slips of the pen."""

from lumvak.core.matching.numbering import gaps, one_slip, slips


def test_gaps_and_slips_of_the_numbering() -> None:
    numbers = [*range(1, 47), *range(48, 63), *range(64, 91), 447, 633]
    assert gaps(numbers) == (47, 63)
    found = {slip.number: slip.meant for slip in slips(numbers)}
    assert found == {447: (47,), 633: (63,)}
    assert slips([7, 8, 9]) == gaps([7, 8, 9]) == ()
    assert gaps([]) == slips([]) == ()
    for one, other, near in (
        ("47", "74", True),
        ("47", "48", True),
        ("47", "447", True),
        ("47", "4", True),
        ("47", "47", False),
        ("47", "58", False),
        ("47", "4477", False),
        ("147", "741", False),
    ):
        assert one_slip(one, other) == one_slip(other, one) == near
