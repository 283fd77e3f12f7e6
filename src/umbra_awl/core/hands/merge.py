"""Two plans made one, as far as another's hand may reach: the one way by which anything of a foreign plan comes into mine.

What is mine alone (`plan/authority.py`) stays as it is, whatever the other side has; what is asked is asked even where only they
changed it; the rest comes by itself where only one side changed it. Without an ancestor things are known again by what they are.
"""

from umbra_awl.core.hands.alike import aligned
from umbra_awl.core.hands.offered import offered_by, with_doubts
from umbra_awl.core.hands.threeway import (
    GONE,
    ORDER,
    Answers,
    KeptSide,
    Merged,
    MergeTaken,
    Path,
    Question,
    Side,
    joined,
)
from umbra_awl.core.plan.authority import ASKED_ROWS
from umbra_awl.core.plan.model import Plan

__all__ = [
    "GONE",
    "ORDER",
    "Answers",
    "KeptSide",
    "MergeTaken",
    "Merged",
    "Path",
    "Question",
    "Side",
    "brought_back",
    "merge",
]


def merge(base: Plan | None, mine: Plan, theirs: Plan, answers: Answers | None = None) -> Merged:
    """The plan that both sides make. `base` is their common ancestor, None for none; `answers` settle questions by their path."""
    other = offered_by(mine, theirs if base is not None else aligned(mine, theirs))
    under = offered_by(mine, base).plan if base is not None else None
    found = joined(with_doubts(under, mine, other.plan), mine, other.plan, answers, ASKED_ROWS)
    return found._replace(kept=other.kept)


def brought_back(present: Plan, older: Plan) -> Plan:
    """An earlier state of my own plan, with what only my own hand changes as it is at present.

    People who were taken out since come back without a licence.
    """
    return offered_by(present, older).plan
