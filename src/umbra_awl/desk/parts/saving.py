"""Writing a file the operator asked for: done, or said why not."""

from collections.abc import Callable
from pathlib import Path

from umbra_awl.core.plan.files import write_atomic
from umbra_awl.desk.workbench import Workbench


def save_later(bench: Workbench, path: Path, make: Callable[[], bytes], said: str) -> None:
    """Make and write a file in the background, for what takes longer than a moment; done or refused, it is said."""

    def work() -> OSError | None:
        try:
            write_atomic(path, make())
        except OSError as error:
            return error
        return None

    def tell(error: OSError | None) -> None:
        if error is None:
            bench.say(said)
        else:
            bench.say(_refusal(path, error), "stop")

    bench.jobs.latest(f"save {path}", work, tell)


def _refusal(path: Path, error: OSError) -> str:
    return f"“{path.name}” cannot be written: {error.strerror or error}. Choose another place."


def save_file(bench: Workbench, path: Path, make: Callable[[], bytes], said: str = "") -> bool:
    """Write what `make` gives; a refusal of the disk is said. True when written. What `make` raises is not caught."""
    data = make()
    try:
        write_atomic(path, data)
    except OSError as error:
        bench.say(_refusal(path, error), "stop")
        return False
    bench.say(said or f"Saved as {path.name}.")
    return True
