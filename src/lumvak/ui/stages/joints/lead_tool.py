"""Moving the main leads: by the mouse along the strips, by Ctrl and arrows from cell to cell."""

from __future__ import annotations

from PyQt6.QtCore import QObject, pyqtSignal

from lumvak.core.joints.joined_pack import moved_lead
from lumvak.core.joints.network import Flow
from lumvak.core.joints.take_off import Lead, stepped_lead
from lumvak.core.joints.variants import nearest_lead, variant_of
from lumvak.ui.session import Session
from lumvak.ui.speech import worded
from lumvak.ui.stages.joints.take_off import set_leads


class LeadTool(QObject):
    """Holds the lead in hand, and what flows while one is dragged.

    ``dragged`` tells the variant under the mouse; ``dropped`` that a drag ended without a change.
    """

    told = pyqtSignal(str)
    dragged = pyqtSignal(object)
    dropped = pyqtSignal()

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.lead: int | None = None
        self.live: tuple[tuple[Lead, ...], Flow] | None = None

    def let_go(self) -> None:
        """Forget a drag: the pack is shown as it was evaluated."""
        self.live = None

    def take(self, pole: str) -> None:
        """Take the next lead of a pole in hand, to be moved by Ctrl and the arrows."""
        leads = self.session.evaluation.laid_out.joined_pack.leads
        own = [place for place, lead in enumerate(leads) if lead.pole == pole]
        if own:
            after = [place for place in own if self.lead is not None and place > self.lead]
            self.lead = after[0] if after else own[0]
            self.told.emit(worded("lead {} chosen: Ctrl and the arrows move it", pole))

    def step(self, across: float, down: float) -> None:
        """Move the lead in hand by one cell of its end group."""
        joined_pack = self.session.evaluation.laid_out.joined_pack
        if self.lead is None or self.lead >= len(joined_pack.leads):
            return
        moved = stepped_lead(joined_pack.layout, joined_pack.leads[self.lead], (across, down))
        if moved is not None:
            leads = list(joined_pack.leads)
            leads[self.lead] = moved
            set_leads(self.session, leads)

    def drag(self, place: int, x_mm: float, y_mm: float, done: bool) -> None:
        """While dragged only the network is solved anew; where it is let go, all follows."""
        joined_pack = self.session.evaluation.laid_out.joined_pack
        lead = nearest_lead(joined_pack, joined_pack.leads[place].pole, x_mm, y_mm)
        leads = list(joined_pack.leads)
        leads[place] = lead
        if done:
            self.live = None
            if not set_leads(self.session, leads):
                self.dropped.emit()
            return
        solved = moved_lead(joined_pack, place, lead)
        if solved is not None:
            variant = variant_of(joined_pack, solved, "while dragged")
            self.live = (tuple(leads), variant.flow)
            self.dragged.emit(variant)
