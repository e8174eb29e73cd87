"""Charging the pack of an evaluation: simulated only where it is looked at."""

from __future__ import annotations

from collections.abc import Callable, Sequence

import numpy as np

from lumvak.core.balancing.balancing import ROOM_C
from lumvak.core.balancing.cycles import Cycle, cycles
from lumvak.core.balancing.groups_now import GroupsNow
from lumvak.core.balancing.groups_run import Array, BodyWarmth
from lumvak.core.balancing.phase import COARSE, Equipment, Grain
from lumvak.core.catalogue.chargers import Charger
from lumvak.core.charging.absolute import limits_of
from lumvak.core.charging.charge_log import LogRead, read_log
from lumvak.core.charging.first_charge import AtHand, FirstCharge, first_charge
from lumvak.core.charging.first_charge import with_band as plan_with_band
from lumvak.core.charging.highest import highest_of
from lumvak.core.charging.reasons import end_current
from lumvak.core.charging.to_full import Charge, FullSetting, charge_run, with_band
from lumvak.core.charging.topic import ends_over
from lumvak.core.document.charging import RIGHT, ChargeLog, LogRow
from lumvak.core.evaluation import Evaluation
from lumvak.core.matching.meter import apart_within
from lumvak.core.said import Text, capital, phrase, sentences
from lumvak.core.spelling import Refused
from lumvak.core.steps import Steps


class NotBegun(Refused):
    """A charge that does not, or must not, begin; the message says why and what to do."""


def why_not_begun(evaluation: Evaluation) -> Text:
    """Why the pack of an evaluation is not charged as it stands; empty where it is."""
    waits = evaluation.charging.waits
    if waits is None:
        return ""
    return sentences(phrase("{}.", capital(waits.text)), waits.means, waits.do)


def why_no_plan(evaluation: Evaluation) -> Text:
    """Why no first charge is planned; empty where one is.

    It is planned only with a charger that is right, or stops short.
    """
    verdict = evaluation.charging.verdict
    if verdict.kind in ("right", "short"):
        return why_not_begun(evaluation)
    name = verdict.charger.name
    return sentences(
        phrase("No plan is made with {}.", name),
        verdict.words,
        verdict.instead,
        why_not_begun(evaluation),
    )


def full_setting(evaluation: Evaluation, charger: Charger | None = None) -> FullSetting:
    """How the pack of an evaluation is charged with a charger, the one in force as a rule."""
    setting, cell = evaluation.charging.setting, evaluation.sized.choice.cell
    charger = charger or evaluation.charging.charger
    over, over_is = ends_over(evaluation.project.charging, setting, charger)
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


def charge_warmth(evaluation: Evaluation) -> BodyWarmth:
    """The pack of an evaluation as a warm body while it is charged."""
    pack = evaluation.run.pack
    return BodyWarmth(
        pack.kelvin_per_watt, pack.joule_per_kelvin, evaluation.charging.setting.celsius
    )


def begun_at(now: GroupsNow, share: float) -> Array:
    """Charges of groups (n,) at a mean of ``share``, each off from it as it is now."""
    mean = float(now.charge_ah.sum() / now.groups.ah.sum())
    return np.clip(share + now.share - mean, 0.0, 1.0)


def charge_in_hand(
    evaluation: Evaluation,
    charger: Charger | None = None,
    share: float | None = None,
    band: bool = False,
) -> Charge:
    """A charge of the pack of an evaluation from ``share`` on; with its band where asked for.

    Raises NotBegun where it would not happen.
    """
    if problem := why_not_begun(evaluation):
        raise NotBegun(problem)
    now, setting = evaluation.charging.now, full_setting(evaluation, charger)
    begin = begun_at(now, evaluation.project.charging.start if share is None else share)
    if evaluation.project.charging.at == "bottom":
        begin = np.minimum(float((begin * now.groups.ah).min()) / now.groups.ah, 1.0)
    warmth, bleed = charge_warmth(evaluation), evaluation.charging.means.bleed
    found = charge_run(now.groups, begin, setting, warmth, bleed)
    if not band:
        return found
    spreads = evaluation.project.run
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
    evaluation: Evaluation,
    count: int | None = None,
    grain: Grain = COARSE,
    share: Array | None = None,
    report: Callable[[float], bool] | None = None,
) -> tuple[Cycle, ...]:
    """Cycles of the pack of an evaluation from where its groups stand, or from ``share`` (n,).

    ``report`` is told the share that is done and returns whether to go on.
    """
    charging, now = evaluation.project.charging, evaluation.charging.now
    means = evaluation.charging.means
    share = now.share if share is None else share
    if charging.at == "bottom":
        share = np.zeros(now.count)
    having = Equipment(means.bleed, means.active, grain=grain)
    many = charging.cycles if count is None else count
    return cycles(
        now.groups,
        share,
        celsius=ROOM_C,
        setting=evaluation.charging.use,
        having=having,
        count=many,
        report=report,
    )


def plan_in_hand(evaluation: Evaluation) -> FirstCharge:
    """The first charge of the pack of an evaluation, in stages.

    Raises NotBegun where it would not happen, or with a charger that is neither right nor short.
    """
    if problem := why_no_plan(evaluation):
        raise NotBegun(problem)
    now = evaluation.charging.now
    begin = begun_at(now, evaluation.project.charging.start)
    given = (
        now.groups,
        begin,
        full_setting(evaluation),
        charge_warmth(evaluation),
        evaluation.charging.setting.ceiling_v,
    )
    spreads = evaluation.project.run
    return plan_with_band(
        first_charge(*given, having=_at_hand(evaluation)),
        *given,
        spreads.capacity_spread,
        spreads.resistance_spread,
    )


def _at_hand(evaluation: Evaluation) -> AtHand:
    """With what the pack of an evaluation is charged first, and read."""
    setting, charger = evaluation.charging.setting, evaluation.charging.charger
    apart = apart_within(evaluation.project.hand.meter, np.array([setting.cell.voltage_full_v]))
    settable = charger.kind == "supply" or charger.id == RIGHT
    return AtHand(
        float(apart[0]), None if settable else charger.amps, setting.family == "phosphate"
    )


def log_in_hand(
    evaluation: Evaluation, rows: Sequence[LogRow] | None = None, steps: Steps | None = None
) -> LogRead:
    """The log of a charge of the pack of an evaluation, or other ``rows``, counted and compared.

    With ``steps`` a long log is counted anew only where something that counts has changed.
    """
    project, steps = evaluation.project, steps or Steps()
    log = project.charging.log if rows is None else ChargeLog(rows=tuple(rows))
    limits = steps.settled(limits_of, evaluation.charging.setting)
    return steps.of(
        read_log,
        log,
        limits,
        groups=evaluation.charging.now.groups,
        share=project.charging.start,
        celsius=evaluation.charging.setting.celsius,
        capacity_off=project.run.capacity_spread,
        ohm_off=project.run.resistance_spread,
    )
