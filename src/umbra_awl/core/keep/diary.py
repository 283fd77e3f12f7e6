"""The program's diary: what happened, by the standard library's logging, without IDs, positions or secrets.

It goes into a file that is turned over before it grows large, and the last of it is kept in memory for “Copy what happened”.

What few callers need is imported where it is used: it is slow to load, and most starts do without it.
"""

import logging
import re
from collections import deque
from contextlib import nullcontext
from functools import cache
from pathlib import Path
from traceback import extract_tb
from typing import Any

NAME = "umbra-awl.log"
MOST_BYTES = 400_000
OLDER = 3
MOST_LINES = 300
_FORM = "%(asctime)s %(levelname)s %(name)s: %(message)s"
_READY = "ready"


@cache
def _shapes() -> tuple[tuple[re.Pattern[str], str], ...]:
    """What is hidden, and what stands in its place; made when first needed, which is after the first window."""
    minutes, named = r"\d{1,2}(?:[.,]\d+)?\s*", r"(?i)(pass(?:word|phrase|wd)?|secret|token|key)"
    return (
        (re.compile(r"[+\-−]?\b\d{1,3}\.\d{5,}\b"), "··.··"),  # a position
        (re.compile(rf"(?<![\d.])\d{{1,3}}\s*°\s*{minutes}['′](?:\s*{minutes}[\"″])?"), "··.··"),  # in degrees
        (re.compile(r"[+\-−]\d{1,3}[.,]\d{2,4}\b"), "··.··"),  # a rounded position
        (re.compile(r"\b\d(?:[ \u00a0\u202f]?\d){5,8}\b"), "······"),  # an ID, with blanks too
        (re.compile(r"\b[A-R]{2}\d{2}[a-x]{2}(\d{2}([a-x]{2})?)?\b", re.IGNORECASE), "····"),  # a locator
        (re.compile(r"://[^/\s:@]+:[^/\s@]+@"), "://···@"),
        (re.compile(r"(?i)(authorization|cookie|x-[\w-]*key)(\s*[=:]\s*).+"), r"\1\2···"),  # a head of HTTP
        (re.compile(rf"{named}(\s*[=:]\s*)\S+"), r"\1\2···"),
        (re.compile(rf"{named}(\s+(?:is\s+)?[\"'“]?)(?=[^\s]*[\d_\-])[^\s]+"), r"\1\2···"),
    )


def hidden(text: str) -> str:
    """A text without what belongs to its owner: IDs, positions, secrets, the name of the home folder."""
    for shape, instead in _shapes():
        text = shape.sub(instead, text)
    home = str(Path.home())
    return text.replace(home, "~") if len(home) > 1 else text


class _Formatter(logging.Formatter):
    def format(self, record: logging.LogRecord) -> str:
        if hasattr(record, _READY):
            return str(record.msg)
        return hidden(super().format(record))

    def formatException(self, ei: Any) -> str:  # noqa: N802  (the base class's name)
        """Where an error came from and of which type it is, and never what it says: that may be somebody's."""
        kind, _error, trace = ei
        places = "".join(f'  File "{row.filename}", line {row.lineno}, in {row.name}\n' for row in extract_tb(trace))
        return f"Traceback (most recent call last):\n{places}{getattr(kind, '__name__', kind)}"


class Diary(logging.Handler):
    """Keeps the last lines in memory, and in a file where there is one."""

    def __init__(self, folder: Path | None) -> None:
        """`folder` is where the file goes; None, or a folder that cannot be written, keeps it in memory alone."""
        super().__init__()
        self._lines: deque[str] = deque(maxlen=MOST_LINES)
        self.setFormatter(_Formatter(_FORM))
        self._file: logging.Handler | None = None
        if folder is not None:
            self.write_into(folder)

    def write_into(self, folder: Path) -> None:
        """Go on in a file as well, beginning with what was kept so far; nothing the second time.

        A folder that cannot be written changes nothing.
        """
        if self._file is not None:
            return
        made = _file_in(folder)
        if made is None:
            return
        with self.lock or nullcontext():  # a line of another thread is neither missed nor written twice
            for line in self._lines:
                made.handle(logging.makeLogRecord({"msg": line, _READY: True}))
            self._file = made

    def emit(self, record: logging.LogRecord) -> None:
        """Keep one record."""
        self._lines.append(self.format(record))
        if self._file is not None:
            self._file.handle(record)

    def text(self) -> str:
        """What happened lately, with what is needed to understand it: versions and the system."""
        import platform

        head = f"Umbra Awl, Python {platform.python_version()}, {platform.system()} {platform.release()}"
        return "\n".join([head, *self._lines]) + "\n"

    def close(self) -> None:
        """Let go of the file."""
        if self._file is not None:
            self._file.close()
        super().close()


def _file_in(folder: Path) -> logging.Handler | None:
    from logging.handlers import RotatingFileHandler

    try:
        folder.mkdir(mode=0o700, parents=True, exist_ok=True)
        path = folder / NAME
        path.touch(mode=0o600, exist_ok=True)
        made = RotatingFileHandler(path, maxBytes=MOST_BYTES, backupCount=OLDER, encoding="utf-8")
    except OSError:
        return None
    made.setFormatter(_Formatter(_FORM))
    return made


def begin(folder: Path | None) -> Diary:
    """Begin to keep the diary of this process."""
    diary = Diary(folder)
    top = logging.getLogger("umbra_awl")
    top.addHandler(diary)
    top.setLevel(logging.INFO)
    return diary


def end(diary: Diary) -> None:
    """Stop keeping it."""
    logging.getLogger("umbra_awl").removeHandler(diary)
    diary.close()
