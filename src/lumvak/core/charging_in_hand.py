"""Charging the pack of an evaluation: simulated only where it is looked at."""

from __future__ import annotations

from collections.abc import Callable, Sequence

import numpy as np

from lumvak.core.catalogue.chargers import Charger
from lumvak.core.charging.absolute import limits_of
from lumvak.core.charging.balancing import ROOM_C
from lumvak.core.charging.charge_log import LogRead, read_log
from lumvak.core.charging.cycles import Cycle, cycles
from lumvak.core.charging.first_charge import AtHand, FirstCharge, first_charge
from lumvak.core.charging.first_charge import with_band as plan_with_band
from lumvak.core.charging.groups_now import GroupsNow
from lumvak.core.charging.groups_run import Array, Warmth
from lumvak.core.charging.highest import highest_of
from lumvak.core.charging.phase import COARSE, Equipment, Grain
from lumvak.core.charging.to_full import Charge, FullSetting, charge_run, with_band
from lumvak.core.charging.topic import ends_over
from lumvak.core.charging.verdict import end_current
from lumvak.core.document.charging import RIGHT, ChargeLog, LogRow
from lumvak.core.evaluation import Evaluation
from lumvak.core.matching.meter import apart_within
from lumvak.core.said import Text, capital, phrase, sentences
from lumvak.core.spelling import Refused
from lumvak.core.steps import Steps


class NotBegun(Refused):
    """A charge that does not, or must not, begin; the message says why and what to do."""


def why_not_begun(seen: Evaluation) -> Text:
    """Why the pack of an evaluation is not charged as it stands; empty where it is."""
    waits = seen.charging.waits
    if waits is None:
        return ""
    return sentences(phrase("{}.", capital(waits.text)), waits.means, waits.do)


def why_no_plan(seen: Evaluation) -> Text:
    """Why no first charge is planned; empty where one is.

    It is planned only with a charger that is right, or stops short.
    """
    verdict = seen.charging.verdict
    if verdict.kind in ("right", "short"):
        return why_not_begun(seen)
    name = verdict.charger.name
    return sentences(
        phrase("No plan is made with {}.", name),
        verdict.words,
        verdict.instead,
        why_not_begun(seen),
    )


def full_setting(seen: Evaluation, charger: Charger | None = None) -> FullSetting:
    """How the pack of an evaluation is charged with a charger, the one in force as a rule."""
    setting, cell = seen.charging.setting, seen.choice.cell
    charger = charger or seen.charging.charger
    over, over_is = ends_over(seen.project.charging, setting, charger)
    highest = highest_of(charger, setting.celsius).volts
    return FullSetting(
        charger.amps,
        None if charger.kind == "nickel" else highest,
        end_a=end_current(charger),
        timer_h=charger.timer_h,
        over_v=over,
        hot_c=cell.charge_max_c if setting.senses else None,
        pre_v=cell.voltage_empty_v,
        turns_off=charger.kind != "supply",
        over_is=over_is,
    )


def charge_warmth(seen: Evaluation) -> Warmth:
    """The pack of an evaluation as a warm body while it is charged."""
    pack = seen.run.pack
    return Warmth(pack.kelvin_per_watt, pack.joule_per_kelvin, seen.charging.setting.celsius)


def begun_at(now: GroupsNow, share: float) -> Array:
    """Charges of groups (n,) at a mean of ``share``, each off from it as it is now."""
    mean = float(now.charge_ah.sum() / now.groups.ah.sum())
    return np.clip(share + now.share - mean, 0.0, 1.0)


def charge_in_hand(
    seen: Evaluation,
    charger: Charger | None = None,
    share: float | None = None,
    band: bool = False,
) -> Charge:
    """A charge of the pack of an evaluation from ``share`` on; with its band where asked for.

    Raises NotBegun where it would not happen.
    """
    if problem := why_not_begun(seen):
        raise NotBegun(problem)
    now, setting = seen.charging.now, full_setting(seen, charger)
    begin = begun_at(now, seen.project.charging.start if share is None else share)
    if seen.project.charging.at == "bottom":
        begin = np.minimum(float((begin * now.groups.ah).min()) / now.groups.ah, 1.0)
    warmth, bleed = charge_warmth(seen), seen.charging.means.bleed
    found = charge_run(now.groups, begin, setting, warmth, bleed)
    if not band:
        return found
    spreads = seen.project.run
    return with_band(
        found,
        now.groups,
        share=begin,
        setting=setting,
        warmth=warmth,
        capacity_off=spreads.capacity_spread,
        ohm_off=spreads.resistance_spread,
        bleed=bleed,
    )


def cycles_in_hand(
    seen: Evaluation,
    count: int | None = None,
    grain: Grain = COARSE,
    share: Array | None = None,
    report: Callable[[float], bool] | None = None,
) -> tuple[Cycle, ...]:
    """Cycles of the pack of an evaluation from where its groups stand, or from ``share`` (n,).

    ``report`` is told the share that is done and returns whether to go on.
    """
    charging, now = seen.project.charging, seen.charging.now
    means = seen.charging.means
    share = now.share if share is None else share
    if charging.at == "bottom":
        share = np.zeros(now.count)
    having = Equipment(means.bleed, means.active, grain=grain)
    many = charging.cycles if count is None else count
    return cycles(
        now.groups,
        share,
        celsius=ROOM_C,
        setting=seen.charging.use,
        having=having,
        count=many,
        report=report,
    )


def plan_in_hand(seen: Evaluation) -> FirstCharge:
    """The first charge of the pack of an evaluation, in stages.

    Raises NotBegun where it would not happen, or with a charger that is neither right nor short.
    """
    if problem := why_no_plan(seen):
        raise NotBegun(problem)
    now = seen.charging.now
    begin = begun_at(now, seen.project.charging.start)
    given = (
        now.groups,
        begin,
        full_setting(seen),
        charge_warmth(seen),
        seen.charging.setting.ceiling_v,
    )
    spreads = seen.project.run
    return plan_with_band(
        first_charge(*given, having=_at_hand(seen)),
        *given,
        spreads.capacity_spread,
        spreads.resistance_spread,
    )


def _at_hand(seen: Evaluation) -> AtHand:
    """With what the pack of an evaluation is charged first, and read."""
    setting, charger = seen.charging.setting, seen.charging.charger
    apart = apart_within(seen.project.hand.meter, np.array([setting.cell.voltage_full_v]))
    settable = charger.kind == "supply" or charger.id == RIGHT
    return AtHand(
        float(apart[0]), None if settable else charger.amps, setting.family == "phosphate"
    )


def log_in_hand(
    seen: Evaluation, rows: Sequence[LogRow] | None = None, steps: Steps | None = None
) -> LogRead:
    """The log of a charge of the pack of an evaluation, or other ``rows``, counted and compared.

    With ``steps`` a long log is counted anew only where something that counts has changed.
    """
    project, steps = seen.project, steps or Steps()
    log = project.charging.log if rows is None else ChargeLog(rows=tuple(rows))
    limits = steps.settled(limits_of, seen.charging.setting)
    return steps.of(
        read_log,
        log,
        limits,
        groups=seen.charging.now.groups,
        share=project.charging.start,
        celsius=seen.charging.setting.celsius,
        capacity_off=project.run.capacity_spread,
        ohm_off=project.run.resistance_spread,
    )
