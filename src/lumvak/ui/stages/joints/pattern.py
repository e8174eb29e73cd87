"""Joints, how it is laid: groups or strings, the pattern of each side, joining, links, wire."""

from __future__ import annotations

from PyQt6.QtWidgets import QVBoxLayout, QWidget

from lumvak.core.evaluation import Evaluation
from lumvak.core.joints.contacts import usual_thread
from lumvak.core.joints.piece_sections import joining_of
from lumvak.ui.session import Session
from lumvak.ui.speech import spoken, worded
from lumvak.ui.stages.part_box import PartBox
from lumvak.ui.widgets.flow import flowing, scrolled
from lumvak.ui.widgets.quantity_field import FieldChoice, small_field
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import side_by_side, soft

SCHEMES = (
    ("groups", "groups in series"),
    ("strings-ends", "strings, tied at the ends"),
    ("strings-levels", "strings, tied at every level"),
)
PATTERNS = (
    ("strips", "strips along"),
    ("crossed", "crossed"),
    ("sheet", "sheet"),
    ("tabs", "plate with bridges"),
    ("wire", "soldered wire"),
)
ACROSS = (("wire", "wires"), ("fold", "strips folded over the edge"))
JOININGS = (
    (None, "by the cell"),
    ("weld", "weld"),
    ("solder", "solder"),
    ("cap", "press caps"),
    ("screw", "screws"),
)

THREADS = ((None, "by the cell"), ("M4", "M4"), ("M5", "M5"), ("M6", "M6"), ("M8", "M8"))


class LaidHow(QWidget):
    """Choices and fields of the joints as a whole."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.scheme = FieldChoice(session, "joints.scheme", SCHEMES, "Groups or strings")
        self.sides = {
            side: FieldChoice(
                session, f"joints.side_{side}", PATTERNS, worded("Side {}", side.upper())
            )
            for side in "ab"
        }
        self.over_edge = FieldChoice(session, "joints.across", ACROSS, "Between layers")
        self.across = side_by_side(soft("between layers"), self.over_edge)
        self.joining = FieldChoice(session, "joints.joining", JOININGS, "Joined by")
        self.fields = {
            "weld_points": small_field(session, "joints.weld_points", "weld points per cell"),
            "contact_mohm": small_field(
                session, "joints.contact_mohm", "one joint on a cell", width=70
            ),
            "contact_limit_a": small_field(
                session, "joints.contact_limit_a", "a joint carries", width=70
            ),
            "link_a": small_field(session, "joints.link_a", "fusible link", width=70),
            "link_mohm": small_field(session, "joints.link_mohm", "of", width=70),
            "wire_mm2": small_field(session, "joints.wire_mm2", "wire between cells", width=80),
            "least_mm": small_field(session, "joints.least_mm", "bare metal apart by", width=58),
            "barrier_mm": small_field(
                session, "joints.barrier_mm", "barrier where pieces cross", width=58
            ),
            "window_mm": small_field(
                session, "joints.window_mm", "windows in the plates", width=58
            ),
            "slot_mm": small_field(session, "joints.slot_mm", "slots for growth", width=52),
        }
        self.post_thread = FieldChoice(session, "joints.thread", THREADS, "Thread of the posts")
        self.threads = side_by_side(soft("thread of the posts"), self.post_thread)
        self.bridge = PartBox(session, "joints.bridge", "Nickel bridges")
        self.bridges = side_by_side(soft("bridges of"), self.bridge)
        self.said = soft("", wrap=True)
        inner = QWidget()
        layout = QVBoxLayout(inner)
        layout.setContentsMargins(0, THEME.px(4), 0, 0)
        layout.setSpacing(THEME.px(6))
        layout.addWidget(self.scheme)
        for side, choice in self.sides.items():
            layout.addWidget(side_by_side(soft(worded("side {}", side.upper())), choice))
        layout.addWidget(self.across)
        layout.addWidget(side_by_side(soft("joined by"), self.joining))
        layout.addWidget(self.threads)
        layout.addWidget(self.bridges)
        layout.addWidget(flowing(*self.fields.values(), gap=18))
        layout.addWidget(self.said)
        layout.addStretch(1)
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.addWidget(scrolled(inner))

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Show how the joints of an evaluation are laid."""
        joints = evaluation.project.joints
        self.sides["a"].show_value(joints.side_a)
        self.sides["b"].show_value(joints.side_b)
        self.across.setVisible(int(evaluation.laid_out.joined_pack.layout.layer.max(initial=0)) > 0)
        method = joining_of(joints, evaluation.sized.choice.cell)
        usual = usual_thread(evaluation.sized.choice.cell)
        self.post_thread.offer([(None, worded("{}, by the cell", usual)), *THREADS[1:]])
        for widget in (self.threads, self.fields["slot_mm"]):
            widget.setVisible(method == "screw")
        self._show_bridges(evaluation)
        self.fields["weld_points"].setVisible(method == "weld")
        words = {
            "weld": "Spot welds: each point is counted, and the strip's own thickness decides "
            "what the welder joins.",
            "solder": "Solder: normal on tabs and pouch cells; on a round cell it heats what is "
            "inside.",
            "cap": "Press caps: quick to change, and their own rating is then the limit of a cell.",
            "screw": "Screwed posts: clean faces, the maker's torque, and a washer that keeps it.",
        }
        self.said.setText(words[method])

    def _show_bridges(self, evaluation: Evaluation) -> None:
        """What lies over the windows of plates, where there are any."""
        bridge, joints = evaluation.laid_out.made.bridge, evaluation.project.joints
        for widget in (self.bridges, self.fields["window_mm"]):
            widget.setVisible(bridge is not None)
        if bridge is None:
            return
        strips = [
            part
            for part in evaluation.sized.parts.conductors.values()
            if part.material == "nickel" and part.form == "strip"
        ]
        self.bridge.offer(
            [(spoken(part.said), part.id) for part in strips],
            joints.bridge,
            spoken(bridge.part.said),
        )
