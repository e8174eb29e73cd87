"""What may be wrong, as a table that holds together."""

import pytest

from lumvak.core.trouble.causes import BY_NAME, CAUSES, COMPLAINTS


def test_every_complaint_has_causes_and_every_cause_its_complaints() -> None:
    for cause in CAUSES:
        assert set(cause.complaints) <= set(COMPLAINTS), cause.name
        assert sum(cause.complaints.values()) == pytest.approx(1.0), cause.name
        assert cause.prior > 0.0 and cause.mend and cause.used
    for complaint in COMPLAINTS:
        assert any(complaint in it.complaints for it in CAUSES), complaint


def test_names_begin_with_the_part_and_stand_once() -> None:
    parts = {it.name.partition("-")[0] for it in CAUSES}
    assert len(BY_NAME) == len(CAUSES)
    assert {"group", "joint", "tap", "bms", "fuse", "charger", "sound", "something"} <= parts


def test_nobody_revives_what_was_shorted_inside() -> None:
    assert (
        BY_NAME["group-shorted"].by == "nobody" and "never revived" in BY_NAME["group-shorted"].mend
    )
    assert not any("bypass" in it.mend or "bridge" in it.mend for it in CAUSES)
