"""A radio's body, as far as it decides whether one wants it: loudspeaker, what it bears, gauge, head, hands, antenna."""

from typing import Literal

from umbra_awl.core.radio.ways_in import MenuPart


class RadioBuild(MenuPart, frozen=True):
    """How a radio is built, as its sheet says or as it was tried; what is empty, 0 or None is not known.

    `speaker_mw` is how loud it gets, in milliwatts; `sturdy` what it bears; `gauge` whether the battery's is “honest” or tells it
    “late”; `antenna` its connector with which of the two it is (“SMA socket”), “fixed” where it cannot be taken off.
    """

    speaker_mw: int = 0
    sturdy: Literal["", "indoors", "splashes", "drops", "drops and splashes"] = ""
    gauge: Literal["", "honest", "late"] = ""
    head_apart: bool | None = None
    hands_free: bool | None = None
    antenna: str = ""
