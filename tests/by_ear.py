"""What a screen reader is told: python -m tests.by_ear, within a session bus and an X server.

The window runs in a process of its own and goes from view to view; what it tells over the
accessibility bus is printed as JSON, a line for each view. In the first a field holds what cannot
be read; after the last comes what is heard while the load becomes too much.
"""

from __future__ import annotations

import json
import os
import subprocess
import sys
import time
from collections.abc import Iterator
from pathlib import Path
from typing import Any

ACCESSIBLE = "org.a11y.atspi.Accessible"
ROOT = "/org/a11y/atspi/accessible/root"
# Places of states in the first word of the bits that are told.
CHECKED, FOCUSABLE, SHOWING = 4, 11, 25
HEARD_S = 1.5
WAIT_S = 20.0
# Their cells are many, and Qt's own.
WHOLE = ("table", "tree", "list")


def window(file: str) -> None:
    """Show the window, and one view after the other for each line that comes in."""
    from PyQt6.QtCore import QSocketNotifier

    from lumvak.ui.application import make_application, make_window
    from lumvak.ui.widgets.quantity_field import QuantityField
    from tests.sizes import views_of

    app = make_application()
    made = make_window(app, Path(file))
    made.show()
    asked = QSocketNotifier(sys.stdin.fileno(), QSocketNotifier.Type.Read)
    asked.activated.connect(lambda: (sys.stdin.readline(), app.exit()))
    for stage, view in views_of(made):
        if stage == "need":
            field = made.stages["need"].findChild(QuantityField, "need.rated_voltage_v")
            field.edit.setText("a lot")
            field.commit()
        for _ in range(5):
            app.processEvents()
        print(f"{stage}/{view}", flush=True)
        app.exec()
    made.open_stage("power")
    print("heard", flush=True)
    app.exec()
    made.session.edit(
        {"need.current_a": 70.0, "need.peak_current_a": 90.0, "power.fuse": "ember-40"}
    )
    made.session.tell("warn", "This was refused.")
    app.exec()
    made.session.refused.clear()
    made.session.undo_stack.setClean()
    made.close()


class Bus:
    """The accessibility bus of this session."""

    def __init__(self) -> None:
        from jeepney.io.blocking import open_dbus_connection

        session = open_dbus_connection(bus="SESSION")
        address = _called(session, "org.a11y.Bus", "/org/a11y/bus", "org.a11y.Bus", "GetAddress")
        os.environ["DBUS_SESSION_BUS_ADDRESS"] = address[0].partition(",guid")[0]
        self._connection = open_dbus_connection(bus="SESSION")

    def call(self, at: tuple[str, str], name: str) -> Any:
        """What a thing answers to a call without arguments."""
        return _called(self._connection, at[0], at[1], ACCESSIBLE, name)[0]

    def told(self, at: tuple[str, str], name: str) -> Any:
        """A property of a thing."""
        properties = "org.freedesktop.DBus.Properties"
        body = (ACCESSIBLE, name)
        return _called(self._connection, at[0], at[1], properties, "Get", "ss", body)[0][1]

    def application(self) -> tuple[str, str]:
        """The one application there is; waits for it."""
        end = time.monotonic() + WAIT_S
        while time.monotonic() < end:
            if found := self.call(("org.a11y.atspi.Registry", ROOT), "GetChildren"):
                return found[0][0], found[0][1]
            time.sleep(0.1)
        raise TimeoutError("no application on the accessibility bus")

    def focusable(self, at: tuple[str, str]) -> Iterator[dict[str, str]]:
        """Role, name and description of everything shown that takes the focus."""
        role = str(self.call(at, "GetRoleName"))
        states = int(self.call(at, "GetState")[0])
        if states >> FOCUSABLE & 1 and states >> SHOWING & 1:
            yield {
                "role": role,
                "name": str(self.told(at, "Name")),
                "description": str(self.told(at, "Description")),
                "state": "checked" if states >> CHECKED & 1 else "",
            }
        # What is not shown has nothing in it that is.
        if role not in WHOLE and (states >> SHOWING & 1 or role == "application"):
            for inner in self.call(at, "GetChildren"):
                yield from self.focusable((inner[0], inner[1]))

    def listen(self) -> None:
        """Have what is announced come in from now on."""
        from jeepney import MatchRule

        registry = ("org.a11y.atspi.Registry", "/org/a11y/atspi/registry")
        _called(
            self._connection,
            *registry,
            "org.a11y.atspi.Registry",
            "RegisterEvent",
            "s",
            ("object:property-change",),
        )
        rule = MatchRule(type="signal", interface="org.a11y.atspi.Event.Object")
        bus = "org.freedesktop.DBus"
        _called(
            self._connection,
            bus,
            "/org/freedesktop/DBus",
            bus,
            "AddMatch",
            "s",
            (rule.serialise(),),
        )

    def heard(self) -> list[dict[str, str]]:
        """Names that changed since, until it is quiet."""
        found = []
        try:
            while True:
                message = self._connection.receive(timeout=HEARD_S)
                kind, _, _, value, *_ = (*message.body, "", "", "", "")
                if kind == "accessible-name":
                    found.append({"role": "", "name": str(value[1])})
        except TimeoutError:
            return found


def _called(
    connection: Any,
    bus: str,
    path: str,
    interface: str,
    name: str,
    signature: str | None = None,
    body: tuple[Any, ...] = (),
) -> Any:
    from jeepney import DBusAddress, new_method_call

    address = DBusAddress(path, bus_name=bus, interface=interface)
    message = new_method_call(address, name, signature, body)
    return connection.send_and_get_reply(message, timeout=WAIT_S).body


def main(file: str) -> None:
    """Go through the views and print what each tells."""
    child = subprocess.Popen(
        [sys.executable, "-m", "tests.by_ear", "window", file],
        stdin=subprocess.PIPE,
        stdout=subprocess.PIPE,
        text=True,
        env={**os.environ, "QT_LINUX_ACCESSIBILITY_ALWAYS_ON": "1", "QT_QPA_PLATFORM": "xcb"},
    )
    assert child.stdin is not None
    assert child.stdout is not None
    bus, application = Bus(), None
    while view := child.stdout.readline().strip():
        application = application or bus.application()
        if view == "heard":
            bus.listen()
            time.sleep(0.3)
            _go_on(child)
            print(json.dumps({"view": view, "told": bus.heard()}), flush=True)
            _go_on(child)
            break
        print(json.dumps({"view": view, "told": list(bus.focusable(application))}), flush=True)
        _go_on(child)
    child.wait(WAIT_S)


def _go_on(child: subprocess.Popen[str]) -> None:
    assert child.stdin is not None
    child.stdin.write("\n")
    child.stdin.flush()


if __name__ == "__main__":
    if sys.argv[1] == "window":
        window(sys.argv[2])
    else:
        main(sys.argv[1])
