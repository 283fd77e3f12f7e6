"""One truth at random: plans with one to three slips, every route of every radio keyed up; trace, findings and fit must agree.

`python -m bench truth 100000` goes on until so many key-ups were looked at, and prints each disagreement with its slips.
"""

import random
import sys
import time
from pathlib import Path

ROOT = Path(__file__).parent.parent
_MOST_TOLD = 20


def run(wanted: int, seed: int | None = None) -> None:
    """Look at so many key-ups; the seed is printed, so that a find can be repeated."""
    sys.path.insert(0, str(ROOT))
    from tests.core.test_one_truth import look
    from tests.slips import SLIPS, slipped

    seed = seed if seed is not None else random.SystemRandom().randrange(1_000_000)
    chance, keyed, plans, wrong = random.Random(seed), 0, 0, list[str]()
    begun = time.monotonic()
    while keyed < wanted:
        made = [
            (chance.randrange(len(SLIPS)), chance.randrange(200), chance.randrange(40))
            for _ in range(chance.randint(1, 3))
        ]
        plans += 1
        try:
            keyed += look(slipped(made))
        except AssertionError as error:
            keyed += 1
            wrong.append(f"{made}: {str(error).splitlines()[0]}")
    print(
        f"seed {seed}: {keyed:,} key-ups in {plans:,} plans, {time.monotonic() - begun:.0f} s; {len(wrong)} plans in which they "
        "do not agree"
    )
    for text in wrong[:_MOST_TOLD]:
        print(f"    {text}")
