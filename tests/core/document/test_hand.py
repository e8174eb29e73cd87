"""What of the cells in hand does not fit together is refused."""

import pytest

from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project

LOT = "lot 1"


@pytest.mark.parametrize(
    ("change", "wrong"),
    [
        (
            {"hand.cells": ({"number": 3, "lot": LOT}, {"number": 3, "lot": LOT})},
            "number 3 is there already",
        ),
        ({"hand.cells": ({"number": 3, "lot": "nobody"},)}, "no lot is called “nobody”"),
        (
            {"hand.placed": ({"number": 3, "cell": "g1c1"}, {"number": 4, "cell": "g1c1"})},
            "one place is there twice",
        ),
        ({"hand.lots": ({"name": LOT}, {"name": LOT})}, "two have the same name"),
        ({"hand.lots": ({"name": LOT, "day": "yesterday"},)}, "a day such as 2026-05-31"),
    ],
)
def test_what_does_not_fit_together_is_refused(change: dict[str, object], wrong: str) -> None:
    with pytest.raises(ValueError, match=wrong):
        with_values(Project(), change)
