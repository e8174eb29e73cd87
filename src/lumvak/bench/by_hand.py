"""A person beside real instruments, told in a terminal what only hands can do."""

from __future__ import annotations

import sys
import time

from lumvak.bench.moment import moment_now

ACTS = {
    "plug charger": "Plug in the charger of the pack.",
    "pull charger": "Pull the charger.",
    "wake": "Wake the BMS, if it sleeps: its button, or the charger for a moment.",
}


class AtTerminal:
    """Asks on the error stream and waits for Enter; time is that of the wall."""

    def move(self, place: str) -> None:
        """Put the probes of the meter on a place."""
        self._ask(f"Put the probes on: {place}.")

    def act(self, name: str) -> None:
        """Do what only hands can do."""
        self._ask(ACTS[name])

    def lamp(self) -> bool:
        """Whether the charger still shows that it charges."""
        return self._ask("Does the charger still charge? y or n:").lower() != "n"

    def wait(self, seconds: float) -> None:
        """Let time pass."""
        time.sleep(seconds)

    def now(self) -> float:
        """Seconds of the wall clock."""
        return time.monotonic()

    def moment(self) -> str:
        """The day and the time."""
        return moment_now()

    def _ask(self, words: str) -> str:
        print(f"{words} Then Enter.", file=sys.stderr, flush=True)
        return sys.stdin.readline().strip()
