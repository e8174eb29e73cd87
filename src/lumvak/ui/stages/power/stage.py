"""Stage: the power path. Board, leads and parts, what opens first, the start, the rating, rest."""

from __future__ import annotations

from lumvak.ui.session import Session
from lumvak.ui.stages.power.answer import VIEWS
from lumvak.ui.widgets.pages import Page, StageOfViews

TITLES = {
    "board": "Which BMS?",
    "settings": "What to set it to",
    "parts": "What the current passes",
    "order": "Protection coordination: what opens first?",
    "start": "Does it start?",
    "rating": "What it gives, and for how long",
    "rest": "Storage: how long may it stand?",
    "shop": "What to look for in a shop",
}


def _board(session: Session) -> Page:
    from lumvak.ui.stages.power.boards import BoardsView

    return BoardsView(session)


def _shop(session: Session) -> Page:
    from lumvak.ui.stages.shop import ShopView

    return ShopView(session)


def _settings(session: Session) -> Page:
    from lumvak.ui.stages.power.board_settings import BoardSettingsView

    return BoardSettingsView(session)


def _parts(session: Session) -> Page:
    from lumvak.ui.stages.power.parts import PowerPartsView

    return PowerPartsView(session)


def _order(session: Session) -> Page:
    from lumvak.ui.stages.power.opening_order import OpenFirstView

    return OpenFirstView(session)


def _start(session: Session) -> Page:
    from lumvak.ui.stages.power.motor_start import StartView

    return StartView(session)


def _rating(session: Session) -> Page:
    from lumvak.ui.stages.power.rating import RatingView

    return RatingView(session)


def _rest(session: Session) -> Page:
    from lumvak.ui.stages.power.at_rest import RestView

    return RestView(session)


# Each view is loaded when it is first opened.
MAKERS = {
    "board": _board,
    "settings": _settings,
    "parts": _parts,
    "order": _order,
    "start": _start,
    "rating": _rating,
    "rest": _rest,
    "shop": _shop,
}


class PowerStage(StageOfViews):
    """One of several views of what lies between the joints and the equipment."""

    titles = TITLES

    def __init__(self, session: Session) -> None:
        super().__init__(session, VIEWS, "View of the power path", MAKERS, views_below=True)
