"""What there is to notice about the need itself: its window, its kind, its rails."""

from __future__ import annotations

from collections.abc import Iterator

from lumvak.core.document.need import Need
from lumvak.core.figures.finding import Finding
from lumvak.core.need.rails import RailLoad
from lumvak.core.need.window import NICKEL_RATED_V, VoltageWindow
from lumvak.core.said import listed, phrase, say


def window_findings(need: Need, window: VoltageWindow) -> Iterator[Finding]:
    """What was assumed of the voltage window, and whether a nickel count fits it."""
    guessed = [item for item in (window.highest, window.stop) if item.origin == "assumed"]
    if guessed:
        yield Finding(
            "window-assumed",
            "note",
            text="Part of the voltage window is assumed",
            why=phrase(
                "{}.",
                listed(
                    (
                        phrase("{} {}: {}", item.label, say(item.value, "V"), item.rule)
                        for item in guessed
                    ),
                    "; ",
                ),
            ),
            do="Read it off the equipment or its controller and enter it.",
            stage="need",
            figure=guessed[0].key,
        )
    if window.read_otherwise_v is not None:
        yield Finding(
            "window-class",
            "note",
            text=phrase(
                "“{}” is read as {} when full; made for lead cells it would take {}",
                say(need.rated_voltage_v, "V"),
                say(window.highest.value, "V"),
                say(window.read_otherwise_v, "V"),
            ),
            why="Lead and lithium use one name for two voltages; the lower is the safe one.",
            do="Read the maximum voltage off the controller and enter it.",
            stage="need",
            figure=window.highest.key,
        )
    if need.kind == "tool" and need.nickel_cells is not None:
        implied = need.nickel_cells * NICKEL_RATED_V
        if abs(implied - need.rated_voltage_v) > NICKEL_RATED_V:
            yield Finding(
                "nickel-count",
                "warn",
                text=phrase(
                    "{} nickel cells make {}, not {}",
                    need.nickel_cells,
                    say(implied, "V"),
                    say(need.rated_voltage_v, "V"),
                ),
                why="A nickel cell is rated at about 1.2 V.",
                do="Count the cells of the old pack again, or correct the rated voltage.",
                stage="need",
                figure="need.nickel_cells",
            )


def supply_findings(need: Need, rails: tuple[RailLoad, ...]) -> Iterator[Finding]:
    """Rails that are asked for too much, peaks that are estimates, mains from an inverter."""
    for place, load in enumerate(rails):
        if load.overloaded:
            yield Finding(
                "rail-over",
                "stop",
                text=phrase(
                    "Rail {} is asked for {}, it gives {}",
                    load.rail.name,
                    say(load.given_w.value, "W"),
                    say(load.rail.limit_w, "W"),
                ),
                why="All of its appliances are counted as on at once.",
                do="Take a larger converter, or move an appliance to another rail.",
                stage="need",
                figure=f"rails.{place}.given_w",
            )
    if need.peak_current_a is not None and need.peak_given == "estimated":
        yield Finding(
            "peak-estimated",
            "note",
            text=phrase("The peak of {} is an estimate", say(need.peak_current_a, "A")),
            why="A surge that is a little over the trip of the BMS stops the equipment.",
            do="Measure it with a clamp meter that holds the highest reading.",
            stage="need",
            figure="need.peak_current_a",
        )
    if any(load.rail.kind == "inverter" for load in rails):
        yield Finding(
            "inverter-mains",
            "warn",
            "An inverter makes mains voltage",
            "Its output can kill, however small the pack.",
            "Buy a finished one, and leave fixed wiring to licensed practice and local codes.",
            "need",
        )
