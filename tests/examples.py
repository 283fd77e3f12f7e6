"""How many random examples and cuts the costly tests take: a quarter by day, all by night and where new ones are explored."""

import os
from typing import Any

from hypothesis import settings

ALL = os.environ.get("EXAMPLES", "usual") != "usual"


def share(number: int) -> int:
    """So many of a number as are done now, never less than five of five or more."""
    return number if ALL else max(min(number, 5), number // 4)


def examples(number: int, **more: Any) -> settings:
    """Settings of a test that draws so many examples by night."""
    return settings(max_examples=share(number), **more)
