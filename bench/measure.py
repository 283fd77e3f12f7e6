"""Measuring: medians of several rounds, a thing and its limit in turn, so that a drifting machine does not matter."""

import gc
import statistics
import time
from collections.abc import Callable
from typing import NamedTuple


class Result(NamedTuple):
    """A line of the table: times in seconds, their ratio, and the bar it should stay under."""

    name: str
    seconds: float
    limit_name: str
    limit_seconds: float
    bar: float

    @property
    def ratio(self) -> float:
        """How many times the limit it takes."""
        return self.seconds / self.limit_seconds


def timed(work: Callable[[], object]) -> float:
    """Seconds of one call."""
    gc.collect()
    start = time.perf_counter()
    work()
    return time.perf_counter() - start


def against(
    name: str, work: Callable[[], object], limit_name: str, limit: Callable[[], object], bar: float, rounds: int = 7
) -> Result:
    """Measure work and its limit in turn; medians."""
    work()
    limit()
    pairs = [(timed(work), timed(limit)) for _round in range(rounds)]
    return Result(name, statistics.median(a for a, _ in pairs), limit_name, statistics.median(b for _, b in pairs), bar)


def repeated(work: Callable[[], object], times: int) -> Callable[[], None]:
    """The work done several times, for what is too short to time once."""

    def run() -> None:
        for _ in range(times):
            work()

    return run


def print_table(results: list[Result]) -> None:
    """Print the results, one a line."""
    print(f"{'what':<44} {'median':>10}  {'limit':>10}  {'ratio':>8}  {'bar':>7}   limit is")
    for item in results:
        mark = "ok" if item.ratio <= item.bar else "OVER"
        print(
            f"{item.name:<44} {item.seconds * 1000:>8.2f}ms  {item.limit_seconds * 1000:>8.2f}ms  {item.ratio:>7.2f}x  "
            f"{item.bar:>6.2f}x   {mark:<5} {item.limit_name}"
        )
