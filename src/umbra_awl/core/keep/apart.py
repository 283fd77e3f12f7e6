"""Work on what others made, in a process of its own: it can be stopped whatever it does, and its memory is bounded.

A thread cannot be stopped, and a decoder that takes a gigabyte takes it from everything else. What comes back may only be
made of plain values and of this application's own values: a decoder that hostile bytes have turned can hand over nothing else.
"""

import io
import os
import pickle
import signal
import sys
from collections.abc import Callable
from enum import Enum
from pathlib import Path
from typing import Any, NamedTuple, TypeVar

import msgspec

from umbra_awl.core.keep.limits import MB

Result = TypeVar("Result")
_PLAIN = {
    "builtins": "set frozenset bytearray complex range OSError ValueError FileNotFoundError IsADirectoryError NotADirectoryError "
    "PermissionError UnicodeDecodeError",
    "datetime": "date datetime time timedelta timezone",
    "pathlib": "Path PosixPath PurePosixPath",
    "zoneinfo": "ZoneInfo._unpickle",
    "msgspec._core": "UNSET",
}
_TAKEN = {(module, name) for module, names in _PLAIN.items() for name in names.split()}
_OWN = "umbra_awl."
_VALUES = (msgspec.Struct, tuple, Enum, Exception)
_ERRORS = (MemoryError, RecursionError)


class ApartError(OSError):
    """It took too long or too much memory, or its process ended; the message is a sentence without the file's name."""

    def __init__(self, sentence: str) -> None:
        super().__init__(sentence)
        self.strerror = sentence


class Bounds(NamedTuple):
    """Seconds by the clock, and megabytes of address space beside what the interpreter itself takes."""

    seconds: float = 60.0
    megabytes: int = 1_000


USUAL = Bounds()


def apart(work: "Callable[..., Result]", *given: Any, bounds: Bounds = USUAL) -> Result:
    """What a function of a module makes of some values, in a process of its own.

    Raises ApartError where the bounds are passed or the process ends, and whatever of our own errors the function raises.
    """
    import subprocess

    asked = pickle.dumps((work, given, bounds), pickle.HIGHEST_PROTOCOL)
    command = [sys.executable, "-P", "-c", "from umbra_awl.core.keep.apart import serve; serve()"]
    try:
        done = subprocess.run(
            command, input=asked, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, timeout=bounds.seconds, check=False,
            env=_surroundings(),
        )  # fmt: skip
    except subprocess.TimeoutExpired:
        raise ApartError(f"it was not read within {bounds.seconds:.0f} seconds, and was given up") from None
    if done.returncode or not done.stdout:
        raise ApartError(_ended(done.returncode, bounds))
    fine, value = _Reader(io.BytesIO(done.stdout)).load()
    if not fine:
        raise value
    result: Result = value
    return result


def _surroundings() -> dict[str, str]:
    """The environment with the places this process imports from."""
    places = os.pathsep.join(place for place in sys.path if place)
    return {**os.environ, "PYTHONPATH": places, "OPENBLAS_NUM_THREADS": "1"}


def _ended(code: int, bounds: Bounds) -> str:
    if code in {-signal.SIGKILL, -signal.SIGXCPU}:
        return "reading it was stopped"
    if code == _TOO_LARGE:
        return f"reading it takes more than {bounds.megabytes} MB of memory"
    return "its reader ended without a word"


_TOO_LARGE = 77


class _Reader(pickle.Unpickler):
    """Takes plain values and our own values: not functions, not what a module of ours imported, not classes that do something."""

    def find_class(self, module: str, name: str) -> Any:
        if (module, name) in _TAKEN:
            return super().find_class(module, name)
        if module.startswith(_OWN):
            found = super().find_class(module, name)
            if isinstance(found, type) and issubclass(found, _VALUES) and found.__module__.startswith(_OWN):
                return found
        raise pickle.UnpicklingError(f"{module}.{name} is not taken from a reader")


def serve() -> None:
    """Do what the other process asks for on the standard input, and answer on the standard output."""
    out = os.fdopen(os.dup(1), "wb")
    os.dup2(2, 1)  # whatever a library prints is no answer
    try:
        work, given, bounds = pickle.loads(sys.stdin.buffer.read())  # noqa: S301  (from the process that started this one)
        _bound(bounds)
        answer = _answer(work, given)
        out.write(answer)
        out.flush()
    except MemoryError:
        os._exit(_TOO_LARGE)


def _bound(bounds: Bounds) -> None:
    import resource

    taken = _address_space()
    most = taken + bounds.megabytes * MB
    resource.setrlimit(resource.RLIMIT_AS, (most, most))
    seconds = int(bounds.seconds) + 1
    resource.setrlimit(resource.RLIMIT_CPU, (seconds, seconds))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))


def _address_space() -> int:
    """Bytes of address space that this process takes now."""
    return int(Path("/proc/self/statm").read_text("ascii").split()[0]) * os.sysconf("SC_PAGE_SIZE")


def _answer(work: Callable[..., Any], given: tuple[Any, ...]) -> bytes:
    try:
        return pickle.dumps((True, work(*given)), pickle.HIGHEST_PROTOCOL)
    except _ERRORS as error:
        if isinstance(error, MemoryError):
            raise
        return pickle.dumps((False, ApartError("it is nested too deeply")))
    except Exception as error:  # noqa: BLE001  (whatever it is, the other side is to hear of it)
        return _failure(error)


def _failure(error: Exception) -> bytes:
    """An error as it is where it can be carried over, else as its words."""
    error.__cause__ = error.__context__ = None
    try:
        told = pickle.dumps((False, error))
        _Reader(io.BytesIO(told)).load()
    except Exception:  # noqa: BLE001  (errors with arguments of their own, or of a library)
        return pickle.dumps((False, ApartError(f"{type(error).__name__}: {error}"[:300])))
    return told
