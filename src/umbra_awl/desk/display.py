"""Whether there is a display to open a window on. Asked before the window toolkit is started: without one it ends the program."""

import ctypes
import ctypes.util
import os
import socket
from importlib.util import find_spec
from pathlib import Path

_ADVICE = "Start it from a desktop session, or use the verbs that need no window (umbra-awl --help)."


def display_fault(environment: dict[str, str] | None = None) -> str:
    """Why no window can be opened, as a sentence; empty when one can."""
    given = dict(os.environ) if environment is None else environment
    wanted = given.get("QT_QPA_PLATFORM", "").split(";")[0].split(":")[0]
    if wanted:
        if wanted not in _platforms():
            return f"QT_QPA_PLATFORM asks for “{wanted}”, which is not there. Leave it unset. {_ADVICE}"
        if wanted not in {"xcb", "wayland", "wayland-egl"}:
            return ""
    wayland, x11 = _wayland_answers(given), _x11_answers(given)
    if (wayland and not wanted.startswith("xcb")) or (x11 and not wanted.startswith("wayland")):
        return ""
    if given.get("DISPLAY") or given.get("WAYLAND_DISPLAY"):
        return f"The display “{given.get('DISPLAY') or given.get('WAYLAND_DISPLAY')}” does not answer. {_ADVICE}"
    return f"There is no display to open a window on. {_ADVICE}"


def _platforms() -> set[str]:
    """The platforms that the window toolkit was installed with."""
    found = find_spec("PyQt6")
    places = (
        [Path(place) / "Qt6" / "plugins" / "platforms" for place in (found.submodule_search_locations or [])]
        if found
        else []
    )
    names = {path.stem.removeprefix("libq") for place in places for path in place.glob("libq*.so")}
    return names | {"wayland", "wayland-egl"} if any(name.startswith("wayland") for name in names) else names


def _wayland_answers(given: dict[str, str]) -> bool:
    name = given.get("WAYLAND_DISPLAY", "")
    if not name:
        return False
    path = name if name.startswith("/") else str(Path(given.get("XDG_RUNTIME_DIR", "/nowhere")) / name)
    with socket.socket(socket.AF_UNIX, socket.SOCK_STREAM) as line:
        line.settimeout(2)
        return line.connect_ex(path) == 0


def _x11_answers(given: dict[str, str]) -> bool:
    """Whether the X server lets us in; asked with the library that the toolkit itself uses."""
    name = given.get("DISPLAY", "")
    if not name:
        return False
    try:
        xcb = ctypes.CDLL("libxcb.so.1")
    except OSError:
        return True  # the toolkit will say what is missing
    xcb.xcb_connect.restype = ctypes.c_void_p
    connection = ctypes.c_void_p(xcb.xcb_connect(name.encode(), None))
    fault = xcb.xcb_connection_has_error(connection)
    xcb.xcb_disconnect(connection)
    return not fault
