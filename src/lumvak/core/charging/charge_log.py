"""What was read over a charge: counted, held against what is expected, and said in words."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

import numpy as np
from msgspec import Struct

from lumvak.core.arrays import running_integral
from lumvak.core.balancing.groups_run import Array, Groups
from lumvak.core.charging.absolute import FIRST, Limits, passed
from lumvak.core.charging.first_charge import APART_TOP_V, APART_V, RISE_STOP_K, START_OFF
from lumvak.core.document.charging import ChargeLog, LogRow
from lumvak.core.said import Text, phrase, say, say_about

# What a reading may be off besides what the spreads of the pack make of it, of the volts.
METER_SHARE = 0.005
# Volts of a cell that fall by so much under an unchanged current are told.
FALL_V, SAME_A = 0.01, 0.1
# A pause longer than this, and than so many usual ones, is a gap.
GAP_S, GAP_TIMES = 1200.0, 6.0
# Charge must change by so much before a group's ends say how large it is.
LEAST_CHANGE = 0.3
# From this charge on groups may be farther apart, for the curve is steep.
TOP_SHARE = 0.9


class Remark(Struct, frozen=True):
    """Something seen in a log: at which reading, from 1, how bad, what, and what it means.

    A stop says what to ``do`` first of all.
    """

    reading: int
    severity: str
    code: str
    text: Text
    means: Text
    do: Text = ""


class LogRead(Struct, frozen=True, eq=False):
    """A log counted and compared.

    ``seconds``, ``volts`` and ``amps`` are its own (m,), ``ah`` and ``wh`` counted up to each;
    ``expected_v`` (m,) with ``band_v`` (2, m). ``group_ah`` (n,) is what the ends say of each
    group, NaN where they say nothing.
    """

    seconds: Array
    volts: Array
    amps: Array
    ah: Array
    wh: Array
    expected_v: Array
    band_v: Array
    group_ah: Array
    remarks: tuple[Remark, ...]

    @property
    def taken_ah(self) -> float:
        """Ah put in over the whole log."""
        return float(self.ah[-1]) if len(self.ah) else 0.0

    @property
    def taken_wh(self) -> float:
        """Wh put in over the whole log."""
        return float(self.wh[-1]) if len(self.wh) else 0.0


def read_log(
    log: ChargeLog,
    limits: Limits,
    groups: Groups,
    share: float,
    celsius: float,
    capacity_off: float,
    ohm_off: float,
) -> LogRead:
    """Count a log and hold it against a pack that begins at ``share`` (methods 38).

    What passes one of the absolute ``limits`` is told first.

    ``capacity_off`` and ``ohm_off`` are what capacity and resistance may be off by, as shares.
    Amps that were not read are those of the reading before. Charge is counted on straight lines
    between readings; the expected volts are those of the mean group at the charge counted, so
    that a pause shifts nothing.
    """
    rows = log.rows
    seconds = np.array([row.seconds for row in rows], dtype=float)
    volts = np.array([row.volts for row in rows], dtype=float)
    amps = filled_amps(rows)
    steps = np.diff(seconds) / 3600.0
    ah, wh = running_integral(amps, steps), running_integral(amps * volts, steps)
    begins = log.share if log.share is not None else share
    if rows and amps[0] == 0.0 and log.share is None:
        begins = float(groups.charge_at(np.array(volts[0] / len(groups.ah))))
    warm = np.array([celsius if row.warm_c is None else row.warm_c for row in rows])
    expected, off = _expected(
        groups, begins, ah=ah, amps=amps, celsius=warm, capacity_off=capacity_off, ohm_off=ohm_off
    )
    off = off + METER_SHARE * expected
    band = np.array([expected - off, expected + off])
    group_ah = _sizes(rows, groups, amps, ah)
    top_v = float(groups.rest(np.array(TOP_SHARE))[0])
    stops = tuple(_stops(rows, amps, limits))
    remarks = stops + tuple(
        _remarks(
            rows, volts, amps=amps, seconds=seconds, band=band, count=len(groups.ah), top_v=top_v
        )
    )
    return LogRead(
        seconds,
        volts,
        amps=amps,
        ah=ah,
        wh=wh,
        expected_v=expected,
        band_v=band,
        group_ah=group_ah,
        remarks=remarks,
    )


def filled_amps(rows: Sequence[LogRow]) -> Array:
    """Amps of each reading (m,), where none were read those of the reading before."""
    found, last = [], 0.0
    for row in rows:
        last = last if row.amps is None else row.amps
        found.append(last)
    return np.array(found, dtype=float)


def _expected(
    groups: Groups,
    share: float,
    ah: Array,
    amps: Array,
    celsius: Array,
    capacity_off: float,
    ohm_off: float,
) -> tuple[Array, Array]:
    """Volts of the pack at each reading (m,), and what they may be off by the spreads."""

    def pack_v(scale: float, ohm_scale: float, begins: float) -> Array:
        size = float(groups.ah.mean()) * scale
        charge = begins + ah / size
        lead = seen.lag_s * seen.lag_factor(celsius) / 3600.0 / size
        rest_v = groups.rest(charge + lead * amps)[0]
        push = seen.charge_factor(charge) * seen.ohm_factor(celsius) * float(groups.ohm.mean())
        each = rest_v + ohm_scale * push * amps
        return np.asarray(len(groups.ah) * each + amps * groups.path_ohm)

    seen = groups.behaviour
    base = pack_v(1.0, 1.0, share)
    offs = (
        pack_v(1.0 - capacity_off, 1.0, share) - base,
        pack_v(1.0, 1.0 + ohm_off, share) - base,
        pack_v(1.0, 1.0, share + START_OFF) - base,
    )
    return base, np.sqrt(np.square(offs).sum(axis=0))


def _sizes(rows: Sequence[LogRow], groups: Groups, amps: Array, ah: Array) -> Array:
    """What the ends of a log say of each group's capacity in Ah (n,)."""
    count = len(groups.ah)
    whole = [place for place, row in enumerate(rows) if len(row.groups) == count]
    if len(whole) < 2:
        return np.full(count, np.nan)
    first, last = whole[0], whole[-1]
    ends = []
    for place in (first, last):
        volts = np.array(rows[place].groups) - amps[place] * groups.ohm
        ends.append(groups.charge_at(volts))
    change = ends[1] - ends[0]
    taken = ah[last] - ah[first]
    return np.where(change >= LEAST_CHANGE, taken / np.maximum(change, 1e-9), np.nan)


def _stops(rows: Sequence[LogRow], amps: Array, limits: Limits) -> Iterator[Remark]:
    """The first reading that passes each absolute limit, in the order of the log."""
    told: set[str] = set()
    for place, row in enumerate(rows, 1):
        for item in passed(limits, row, float(amps[place - 1])):
            if item.code not in told:
                told.add(item.code)
                yield Remark(place, "stop", item.code, item.text, item.means, item.do)


def _remarks(
    rows: Sequence[LogRow],
    volts: Array,
    amps: Array,
    seconds: Array,
    band: Array,
    count: int,
    top_v: float,
) -> Iterator[Remark]:
    yield from _out_of_band(volts, amps, band)
    yield from _falls(volts, amps, count)
    yield from _apart(rows, count, top_v)
    warm = [(place, row.warm_c) for place, row in enumerate(rows, 1) if row.warm_c is not None]
    most = warm[0][1] + RISE_STOP_K if warm else 0.0
    hot = next(((place, value) for place, value in warm if value > most), None)
    if hot is not None:
        yield Remark(
            hot[0],
            "warn",
            "warmer",
            phrase("{} warmer than at the beginning", say(hot[1] - warm[0][1], "K")),
            "Too much current, air that cannot pass, or a group that turns charge into heat. Pause "
            "and feel where it is warm.",
        )
    pauses = np.diff(seconds)
    usual = float(np.median(pauses)) if len(pauses) else 0.0
    for place in np.flatnonzero(pauses > max(GAP_S, GAP_TIMES * usual)).tolist():
        yield Remark(
            place + 2,
            "note",
            "gap",
            phrase("{} without a reading", say_about(float(pauses[place]))),
            "What flowed in between is taken on a straight line; a reading every few minutes "
            "counts better.",
        )


def _out_of_band(volts: Array, amps: Array, band: Array) -> Iterator[Remark]:
    over, under = np.flatnonzero(volts > band[1]), np.flatnonzero(volts < band[0])
    flowing = amps > 0.0
    if len(over):
        place = int(over[0])
        yield Remark(
            place + 1,
            "warn",
            "over-band",
            phrase("{} over the band", say(float(volts[place] - band[1][place]), "V")),
            "Usually more resistance than the sheet says, in a joint or a lead; or less capacity, "
            "or a pack that was fuller than thought.",
        )
    if len(under):
        place = int(under[0])
        means = (
            "Volts that do not rise: the charger gives less than it shows, a group is low or "
            "shorted, or the pack was emptier than thought."
            if flowing[place]
            else "A group is low, or the pack was emptier than thought."
        )
        yield Remark(
            place + 1,
            "warn",
            "under-band",
            phrase("{} under the band", say(float(band[0][place] - volts[place]), "V")),
            means,
        )


def _falls(volts: Array, amps: Array, count: int) -> Iterator[Remark]:
    same = np.abs(np.diff(amps)) <= SAME_A * np.maximum(np.abs(amps[:-1]), 1e-6)
    fell = -np.diff(volts)
    found = np.flatnonzero((amps[1:] > 0.0) & same & (fell > FALL_V * max(1.0, count**0.5)))
    if len(found):
        place = int(found[0])
        yield Remark(
            place + 2,
            "stop",
            "falls",
            phrase("volts fell by {} while charging", say(float(fell[place]), "V")),
            "A cell that shorts inside, or a joint that gives way.",
            phrase("{} Read every group.", FIRST),
        )


def _apart(rows: Sequence[LogRow], count: int, top_v: float) -> Iterator[Remark]:
    for place, row in enumerate(rows, 1):
        if len(row.groups) != count:
            continue
        about = np.array(row.groups) - float(np.mean(row.groups))
        most = int(np.abs(about).argmax())
        limit = APART_TOP_V if float(np.mean(row.groups)) > top_v else APART_V
        if abs(about[most]) > limit:
            ahead = about[most] > 0.0
            yield Remark(
                place,
                "warn",
                "apart",
                phrase(
                    "group {} runs ahead by {}" if ahead else "group {} stays behind by {}",
                    most + 1,
                    say(abs(float(about[most])) * 1000.0, "mV"),
                ),
                "It is fuller or smaller than the others: let the BMS bleed it, and see whether "
                "it comes back."
                if ahead
                else "It was emptier, is larger, or loses charge by itself: see whether it catches "
                "up at the top.",
            )
            return
