"""A window on the demo and, beside it, what a screen reader would learn of it over AT-SPI; run in a D-Bus session of its own.

Prints one JSON object: for each page the things that can have the keyboard with role and name, and what the sheet says as
the cursor moves. Source of names and paths: the AT-SPI D-Bus protocol, version 2.
"""

import json
import os
import sys
import threading
import time
from pathlib import Path

from jeepney import DBusAddress, new_method_call
from jeepney.io.blocking import open_dbus_connection

_ITEM = "org.a11y.atspi.Accessible"
_ROOT = ("org.a11y.atspi.Registry", "/org/a11y/atspi/accessible/root")
_CHECKED, _FOCUSABLE, _SHOWING = 4, 11, 25
"""Places of states in the protocol's bit set."""
_CELLS = 60
"""Of long tables so many cells are looked at."""


class Reader:
    """Asks the accessibility bus, as a screen reader does."""

    def __init__(self):
        session = open_dbus_connection("SESSION")
        asked = new_method_call(DBusAddress("/org/a11y/bus", "org.a11y.Bus", "org.a11y.Bus"), "GetAddress")
        (address,) = session.send_and_get_reply(asked, timeout=20).body
        session.close()
        self.bus = open_dbus_connection(address)

    def ask(self, item, interface, name, form=None, body=()):
        message = new_method_call(DBusAddress(item[1], item[0], interface), name, form, body)
        return self.bus.send_and_get_reply(message, timeout=20).body

    def application(self):
        for _time in range(100):
            found = self.ask(_ROOT, _ITEM, "GetChildren")[0]
            if found:
                return found[0]
            time.sleep(0.1)
        raise TimeoutError("The application is not on the accessibility bus.")

    def name(self, item):
        return self.ask(item, "org.freedesktop.DBus.Properties", "Get", "ss", (_ITEM, "Name"))[0][1]

    def walk(self, item):
        """What is shown, each with role, name and states; of a table so many cells."""
        low, _high = self.ask(item, _ITEM, "GetState")[0]
        role = self.ask(item, _ITEM, "GetRoleName")[0]
        states = {at for at in (_CHECKED, _FOCUSABLE) if low >> at & 1}
        if low >> _SHOWING & 1 or role in {"application", "frame"}:
            yield role, self.name(item), states
            for child in self.ask(item, _ITEM, "GetChildren")[0][:_CELLS]:
                yield from self.walk(child)


def crossings(reader, me):
    return [name for _role, name, _has in reader.walk(me) if name.startswith("Punch sheet:")]


def read_all(window, pages, call):
    """Every page of every stage, then the course and the sheet under the cursor. `call` does something in the window's thread."""
    from PyQt6.QtCore import Qt
    from PyQt6.QtTest import QTest

    from umbra_awl.desk.held.selection import Selection

    reader = Reader()
    me = reader.application()
    told = {"pages": {}, "chosen": {}, "sheet": []}
    for stage, page in pages:
        call(lambda stage=stage, page=page: window.stages.open(stage, page))
        walked = list(reader.walk(me))
        told["pages"][f"{stage} {page}"] = [
            (role, name, sorted(has)) for role, name, has in walked if _FOCUSABLE in has
        ]
        told["frame"] = next(name for role, name, _has in walked if role == "frame")
        told["chosen"][f"{stage} {page}"] = [
            name for role, name, has in walked if role == "radio button" and _CHECKED in has
        ]
    sheet = window.stages["routes"].sheet
    call(lambda: (window.stages.open("routes", "sheet"), sheet.setFocus()))
    for key in (
        Qt.Key.Key_Home,
        Qt.Key.Key_Down,
        Qt.Key.Key_Right,
        Qt.Key.Key_Right,
        Qt.Key.Key_Down,
        Qt.Key.Key_Space,
    ):
        call(lambda key=key: QTest.keyClick(sheet, key))
        told["sheet"] += crossings(reader, me)
    call(lambda: window.bench.select(Selection("blackfell-fm", "isles-wide")))
    told["sheet"] += crossings(reader, me)
    return told


def main():
    os.environ["QT_LINUX_ACCESSIBILITY_ALWAYS_ON"] = "1"
    from PyQt6.QtCore import QObject, pyqtSignal

    from tests.days import TODAY
    from umbra_awl.demo.fresh import lay_out
    from umbra_awl.desk.app import application, build
    from umbra_awl.desk.settings import Settings
    from umbra_awl.desk.stages import STAGES

    class Hand(QObject):
        """Does things in the window's own thread for the reader's."""

        wanted = pyqtSignal(object)

    app = application()
    demo = lay_out(Path(sys.argv[1]), TODAY)
    window = build(app, Settings(), synchronous=True, directory=demo.directory)
    window.show()
    window.plans.open(demo.plan)
    hand = Hand()
    hand.wanted.connect(lambda job: job())
    pages = [(stage, page) for stage, entry in STAGES.items() for page in entry.pages]

    def call(does):
        done = threading.Event()
        hand.wanted.emit(lambda: (does(), done.set()))
        done.wait(60)

    def read():
        try:
            sys.stdout.write(json.dumps(read_all(window, pages, call)) + "\n")
            sys.stdout.flush()
        finally:
            hand.wanted.emit(lambda: os._exit(0))

    threading.Thread(target=read, daemon=True).start()
    app.exec()


if __name__ == "__main__":
    main()
