"""What the lists of the arrangement say: of every proposal, barrier and balance lead."""

from __future__ import annotations

from lumvak.core.arrangement.findings import barrier_for
from lumvak.core.arrangement.layout import potential_v
from lumvak.core.figures.finding import TOUCH_SAFE_V
from lumvak.ui.speech import digits, round_figures, say, say_sides, spoken, worded
from lumvak.ui.widgets.rows import Column

COLUMNS = (
    Column(
        "path of the groups",
        text=lambda it: spoken(it[0].name),
        left=True,
        stretch=True,
        tip="How the groups follow one another through the room",
    ),
    Column(
        "least front",
        text=lambda it: worded("{} of {}", it[0].least_front, it[0].layout.parallel),
        tip="Fewest cells side by side between two neighbours in series",
    ),
    Column(
        "mean front",
        text=lambda it: round_figures(it[0].mean_front),
        tip="Of the cells in parallel",
    ),
    Column(
        "in line",
        text=lambda it: say(it[0].straight, "%"),
        tip="Share of the groups whose cells lie in one line",
    ),
    Column(
        "between cans",
        text=lambda it: say(potential_v(it[0].groups_apart, it[1]), "V"),
        tip="Most volts between cans side by side, full",
    ),
    Column(
        "wires", text=lambda it: str(it[0].wired), tip="Series connections that a wire has to make"
    ),
    Column(
        "size",
        text=lambda it: say_sides(it[0].layout.size_mm),
        tip="Length × width × height over all cells",
    ),
    Column(
        "rank",
        text=lambda it: digits(it[0].score, ".2f"),
        tip="How the weights of methods 18 add up",
    ),
)
BARRIERS = (
    Column(
        "cans side by side",
        text=lambda it: it[0],
        left=True,
        tip="Groups whose cells stand beside each other, though not next in series",
    ),
    Column(
        "between them",
        text=lambda it: say(it[1], "V"),
        mark=lambda it: "amber" if it[1] > TOUCH_SAFE_V else "",
        tip="Volts between the two cans, full",
    ),
    Column(
        "barrier",
        text=lambda it: barrier_for(it[1]),
        left=True,
        stretch=True,
        tip="What should lie between them",
    ),
)
TAPS = (
    Column("lead", left=True, tip="Number of the balance lead, from the negative end"),
    Column("at cell", left=True, tip="The cell at whose end it is joined"),
    Column("on", left=True, tip="Side of the pack"),
    Column("when full", tip="Running total to expect before the plug goes in"),
    Column("length", tip="As routed, with slack"),
)
