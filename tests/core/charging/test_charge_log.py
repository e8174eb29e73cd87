"""A log of a charge: counted, compared, said in words."""

import numpy as np
import pytest
from msgspec.structs import replace

from lumvak.core.balancing.groups_run import BodyWarmth
from lumvak.core.charging.absolute import Limits
from lumvak.core.charging.charge_log import filled_amps, read_log
from lumvak.core.charging.to_full import FullSetting, charge_run
from lumvak.core.document.charging import ChargeLog, LogRow
from lumvak.core.spelling import spoken
from tests.straight import at, straight_groups

GROUPS = straight_groups([2.5, 2.4, 2.6])
ROOM = BodyWarmth(1e-6, 1e9, 25.0)
LIMITS = Limits(4.22, "full", 12.66, 0.0, 45.0, 2.5, 2.0)


def logged(every: int = 5, share: tuple[float, ...] = (0.2, 0.2, 0.2)) -> ChargeLog:
    """What a right charge would be read as."""
    run = charge_run(
        GROUPS, at(*share), FullSetting(1.25, 12.6, 0.125, None, None, None, 3.0), ROOM
    )
    rows = tuple(
        LogRow(
            seconds=float(run.seconds[place]),
            volts=float(run.volts[place]),
            amps=float(run.amps[place]),
            warm_c=25.0,
            groups=tuple(float(value) for value in run.group_v[place]),
        )
        for place in range(0, len(run.seconds), every)
    )
    return ChargeLog(share=0.2, rows=rows)


def read(log: ChargeLog):  # type: ignore[no-untyped-def]
    return read_log(log, LIMITS, GROUPS, 0.2, 25.0, 0.02, 0.1)


def test_a_right_charge_stays_in_its_band_and_is_counted() -> None:
    log = logged()
    found = read(log)
    assert [item.text for item in found.remarks if item.code not in ("apart", "group-over")] == []
    seconds = np.array([row.seconds for row in log.rows])
    amps = np.array([row.amps for row in log.rows], dtype=float)
    assert found.taken_ah == pytest.approx(np.trapezoid(amps, seconds) / 3600.0)
    assert found.taken_wh == pytest.approx(
        np.trapezoid(amps * np.array([row.volts for row in log.rows]), seconds) / 3600.0
    )
    assert (found.volts >= found.band_v[0]).all() and (found.volts <= found.band_v[1]).all()


def test_the_ends_of_groups_say_how_large_they_are() -> None:
    found = read(logged(every=1))
    assert found.group_ah == pytest.approx([2.5, 2.4, 2.6], rel=0.01)
    short = logged(every=1)
    assert np.isnan(read(replace_rows(short, short.rows[:10])).group_ah).all()


def replace_rows(log: ChargeLog, rows: tuple[LogRow, ...]) -> ChargeLog:
    return replace(log, rows=rows)


def changed(log: ChargeLog, place: int, **values: object) -> ChargeLog:
    rows = list(log.rows)
    rows[place] = replace(rows[place], **values)
    return replace_rows(log, tuple(rows))


def codes(log: ChargeLog) -> list[tuple[int, str]]:
    return [
        (item.reading, spoken(item.text)) for item in read(log).remarks if item.severity != "note"
    ]


def test_what_is_odd_is_told_at_its_reading() -> None:
    log = logged()
    high = changed(log, 6, volts=log.rows[6].volts + 1.0)
    assert any(at == 7 and "over the band" in text for at, text in codes(high))
    low = changed(log, 6, volts=log.rows[6].volts - 1.0)
    found = codes(low)
    assert any(at == 7 and "under the band" in text for at, text in found)
    assert any(at == 7 and "volts fell" in text for at, text in found)
    warm = changed(log, 4, warm_c=40.0)
    assert any(at == 5 and "warmer" in text for at, text in codes(warm))
    ahead = log.rows[3].groups
    apart = changed(log, 3, groups=(ahead[0] + 0.1, ahead[1], ahead[2]))
    assert any(at == 4 and "group 1 runs ahead" in text for at, text in codes(apart))
    behind = changed(log, 3, groups=(ahead[0], ahead[1] - 0.2, ahead[2]))
    assert any(at == 4 and "group 2 stays behind" in text for at, text in codes(behind))


def test_a_gap_is_told_and_counted_straight() -> None:
    log = logged(every=2)
    gapped = replace_rows(log, (*log.rows[:6], *log.rows[30:]))
    gaps = [item for item in read(gapped).remarks if "without a reading" in spoken(item.text)]
    assert [item.reading for item in gaps] == [7]


def test_amps_not_read_are_those_before() -> None:
    rows = (
        LogRow(seconds=0.0, volts=10.0),
        LogRow(seconds=1.0, volts=10.0, amps=2.0),
        LogRow(seconds=2.0, volts=10.0),
    )
    assert filled_amps(rows).tolist() == [0.0, 2.0, 2.0]


def test_an_empty_log_says_nothing() -> None:
    found = read(ChargeLog())
    assert found.remarks == () and found.taken_ah == 0.0 and found.taken_wh == 0.0


def test_a_log_that_begins_at_rest_says_where_it_begins() -> None:
    rows = (
        LogRow(seconds=0.0, volts=3 * 3.48, amps=0.0),
        LogRow(seconds=60.0, volts=3 * (3.48 + 1.25 * 0.04), amps=1.25),
    )
    found = read_log(ChargeLog(rows=rows), LIMITS, GROUPS, 0.9, 25.0, 0.02, 0.1)
    assert found.expected_v[0] == pytest.approx(3 * 3.48)
    assert not found.remarks
    assert replace(found).taken_ah > 0.0
