"""What there is to notice about the balance leads."""

from __future__ import annotations

from lumvak.core.document.power import BalanceLeads
from lumvak.core.figures.finding import Finding
from lumvak.core.taps.figures import BalanceTopic, TapFigures
from lumvak.core.units import say, say_about


def tap_findings(leads: BalanceLeads, taps: TapFigures, series: int) -> tuple[Finding, ...]:
    """Balance leads without a fuse, where there are at least two groups."""
    if leads.fuse_a is not None or series <= 1:
        return ()
    return (
        Finding(
            "balance-leads-unfused",
            "note",
            f"Two balance leads that touch carry {say(taps.fault.value, 'A')} and melt within "
            f"{say_about(taps.melts.number)}",
            "They lie over places of other voltage and have no fuse.",
            "Insulate and strip one at a time; or a small fuse in each, close to the cells.",
            "power",
            taps.fault.key,
            beside=(taps.melts.key,),
        ),
    )


def balance_topic(leads: BalanceLeads, taps: TapFigures, series: int) -> BalanceTopic:
    """The balance leads as a topic of the evaluation."""
    return BalanceTopic((taps.fault, taps.melts), tap_findings(leads, taps, series))
