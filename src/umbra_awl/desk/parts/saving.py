"""Writing a file the operator asked for: done, or said why not."""

from collections.abc import Callable
from pathlib import Path

from umbra_awl.core.plan.files import write_atomic
from umbra_awl.desk.workbench import Workbench


def save_file(bench: Workbench, path: Path, make: Callable[[], bytes], said: str = "") -> bool:
    """Write what `make` gives; a refusal of the disk is said. True when written. What `make` raises is not caught."""
    data = make()
    try:
        write_atomic(path, data)
    except OSError as error:
        bench.say(f"“{path.name}” cannot be written: {error.strerror or error}. Choose another place.", "stop")
        return False
    bench.say(said or f"Saved as {path.name}.")
    return True
