"""Writing files so that a power cut leaves the old one or the new one, never half of either."""

import os
import tempfile
from pathlib import Path


def write_atomic(path: Path, data: bytes) -> None:
    """Write bytes durably: a new file beside, fsync, rename over, fsync of the folder. Raises OSError; `path` stays."""
    handle, name = tempfile.mkstemp(prefix=f".{path.name}.", suffix=".new", dir=path.parent)
    try:
        with os.fdopen(handle, "wb") as file:
            file.write(data)
            file.flush()
            os.fsync(file.fileno())
        Path(name).replace(path)
    except BaseException:
        Path(name).unlink(missing_ok=True)
        raise
    sync_folder(path.parent)


def sync_folder(folder: Path) -> None:
    """Make a rename in a folder durable. Raises OSError."""
    handle = os.open(folder, os.O_RDONLY | os.O_DIRECTORY)
    try:
        os.fsync(handle)
    finally:
        os.close(handle)
