"""What the operator keeps to where practitioners disagree; empty: nothing was chosen, and nothing is said."""

from typing import Literal

from umbra_awl.core.plan.air import Value


class Habits(Value, frozen=True):
    """One choice a question of `facts/habits.toml`."""

    time_out: Literal["", "set", "off"] = ""
    settings: Literal["", "all", "alone"] = ""
    updates: Literal["", "first", "needed"] = ""
    texts: Literal["", "beside", "alone"] = ""
