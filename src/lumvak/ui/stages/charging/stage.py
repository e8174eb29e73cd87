"""Stage: charging. With what, for how long, how full, and whether groups even out."""

from __future__ import annotations

from lumvak.ui.session import Session
from lumvak.ui.stages.charging.answer import VIEWS
from lumvak.ui.widgets.pages import Page, StageOfViews

TITLES = {
    "charger": "What is it charged with?", "time": "How long, and what ends it?",
    "ceiling": "How full, and how empty?", "groups": "Do the groups balance?",
    "resistors": "Which resistor, and by hand?", "log": "How does a charge go?",
}  # fmt: skip


def _charger(session: Session) -> Page:
    from lumvak.ui.stages.charging.charger import ChargerView

    return ChargerView(session)


def _time(session: Session) -> Page:
    from lumvak.ui.stages.charging.time_to_full import TimeView

    return TimeView(session)


def _ceiling(session: Session) -> Page:
    from lumvak.ui.stages.charging.ceiling import CeilingView

    return CeilingView(session)


def _groups(session: Session) -> Page:
    from lumvak.ui.stages.charging.groups import ChargeGroupsView

    return ChargeGroupsView(session)


def _resistors(session: Session) -> Page:
    from lumvak.ui.stages.charging.resistors import ResistorsView

    return ResistorsView(session)


def _log(session: Session) -> Page:
    from lumvak.ui.stages.charging.log import LogView

    return LogView(session)


# Each view is loaded when it is first opened.
MAKERS = {"charger": _charger, "time": _time, "ceiling": _ceiling, "groups": _groups,
          "resistors": _resistors, "log": _log}  # fmt: skip


class ChargingStage(StageOfViews):
    """One of the views of charging."""

    titles = TITLES

    def __init__(self, session: Session) -> None:
        super().__init__(session, VIEWS, "View of charging", MAKERS)
