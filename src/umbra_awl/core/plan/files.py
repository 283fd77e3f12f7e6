"""Writing files so that a power cut leaves the old one or the new one, never half of either."""

import os
from pathlib import Path


def write_atomic(path: Path, data: bytes) -> None:
    """Write bytes durably: a new file beside, fsync, rename over, fsync of the folder. Raises OSError; `path` stays."""
    name = path.with_name(f".{path.name}.{os.getpid()}.new")
    name.unlink(missing_ok=True)
    handle = os.open(name, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o644)
    try:
        with os.fdopen(handle, "wb") as file:
            file.write(data)
            file.flush()
            os.fsync(file.fileno())
        name.replace(path)
    except BaseException:
        name.unlink(missing_ok=True)
        raise
    sync_folder(path.parent)


def sync_folder(folder: Path) -> None:
    """Make a rename in a folder durable. Raises OSError."""
    handle = os.open(folder, os.O_RDONLY | os.O_DIRECTORY)
    try:
        os.fsync(handle)
    finally:
        os.close(handle)
