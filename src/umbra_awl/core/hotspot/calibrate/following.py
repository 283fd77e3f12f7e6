"""The next offset to try: the one after which the centre is expected to be known best; and when to stop."""

from collections.abc import Sequence
from typing import TYPE_CHECKING, NamedTuple

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.hotspot.calibrate.model import (
    BITS_A_SECOND,
    ENOUGH_HZ,
    FURTHEST_HZ,
    PLACE_HZ,
    Estimate,
    centers,
    effective,
    estimate,
)
from umbra_awl.core.hotspot.calibrate.sampling import NOT_DECODED, NOT_DECODED_SPREAD, Form, drawn, rate
from umbra_awl.core.plan.model import Reading

if TYPE_CHECKING:
    import numpy as np
    import numpy.typing as npt

    Floats = npt.NDArray[np.float64]

TRY_STEP_HZ = 50
_DRAWS, _BINS = 260, 24
_FIRST = 0
_NEAR_HZ = 100
USUAL_BITS = 3 * BITS_A_SECOND
"""Three seconds of keying."""


class Advice(NamedTuple):
    """What to do next: an offset to try, or None when it is known well enough; `words` say why."""

    offset_hz: int | None
    words: str
    estimate: Estimate


def advise(readings: Sequence[Reading], bits: int = USUAL_BITS, most: int = FURTHEST_HZ) -> Advice:
    """What to try after some readings of one side, each keying bringing so many bits, within so many hertz."""
    used = [item for item in readings if not item.left_out]
    found = estimate(used)
    if not used:
        return Advice(_FIRST, "Begin at 0: read what the hotspot says while you key for three seconds.", found)
    center = round(found.center_hz)
    if found.enough:
        if not _read_near(used, center):
            known = f"Known: {center:+d} Hz, ± {max(1, round(found.half_hz))} Hz."
            return Advice(center, f"{known} Read once at {center:+d} Hz, to see what is left there.", found)
        return Advice(None, _done_words(found), found)
    if found.flat:
        between = f"It lies between {found.low_hz:+.0f} and {found.high_hz:+.0f} Hz"
        why = "the rate there is flat" if found.even else "further readings would tell little"
        return Advice(None, f"{between}; {why}: take the middle, {center:+d} Hz.", found)
    offset = _missing_flank(found, used, most) if found.half_hz <= ENOUGH_HZ else next_offset(used, bits, most)
    side = f"between {found.low_hz:+.0f} and {found.high_hz:+.0f} Hz"
    return Advice(offset, f"Try {offset:+d} Hz next. The centre lies {side}.", found)


def _read_near(readings: Sequence[Reading], center: int) -> bool:
    return any(item.bits and abs(item.offset_hz - center) <= _NEAR_HZ for item in readings)


def _done_words(found: Estimate) -> str:
    left = f"± {max(1, round(found.half_hz))} Hz"
    many = counted(found.readings, "reading")
    return (
        f"Known: {round(found.center_hz):+d} Hz, {left}, from {many}. Stop here. "
        f"Left is {100 * found.best_rate:.1f} %, which no offset takes away."
    )


def _missing_flank(found: Estimate, readings: Sequence[Reading], most: int) -> int:
    """Where the rate should have risen plainly on a side on which it was not read yet."""
    import numpy as np

    places = centers()
    above = found.flanks[0] and not found.flanks[1]
    beside = _not_silent(places[places > found.center_hz] if above else places[places < found.center_hz], readings)
    rates = np.interp(beside, places, found.curve)
    return int(np.clip(beside[int(np.abs(rates - FLANK_RATE).argmin())], -most, most))


FLANK_RATE = 0.05
"""The rate at which a flank tells most: far above any floor, and still decoded."""


def next_offset(readings: Sequence[Reading], bits: int = USUAL_BITS, most: int = FURTHEST_HZ) -> int:
    """The offset in hertz whose reading is expected to leave the least variance of the centre."""
    import numpy as np

    drawn_at, forms = _draws(readings)
    tried = np.arange(-most, most + 1, TRY_STEP_HZ, dtype=float)
    if not any(item.bits for item in readings):
        tried = _not_silent(tried, readings)
        return int(tried[int(np.argmax([_decoded(drawn_at, forms, item) for item in tried]))])
    low, high = np.quantile(drawn_at, [0.01, 0.99])
    tried = _not_silent(tried[(tried >= low - 1_200) & (tried <= high + 1_200)], readings)
    left = np.array([_left_over(drawn_at, forms, item, bits) for item in tried])
    return int(tried[int(left.argmin())])


def _not_silent(tried: "Floats", readings: Sequence[Reading]) -> "Floats":
    """The offsets at which it is not known already that nothing is decoded; all of them where that is everywhere."""
    import numpy as np

    silent = np.array([item.offset_hz for item in readings if not item.bits], dtype=float)
    if not len(silent):
        return tried
    left = tried[np.abs(tried[:, None] - silent[None, :]).min(axis=1) > PLACE_HZ]
    return left if len(left) else tried


def _decoded(drawn_at: "Floats", forms: "Floats", offset_hz: float) -> float:
    """How likely anything is decoded at an offset: what counts until something was."""
    import numpy as np

    rates = rate(offset_hz - drawn_at, Form(*forms))
    made: float = float((1 / (1 + np.exp((rates - NOT_DECODED) / NOT_DECODED_SPREAD))).mean())
    return made


def _draws(readings: Sequence[Reading]) -> "tuple[Floats, Floats]":
    """Some of what was drawn, evenly by its centre: centres, and forms as rows of width, floor, shape, lean, flat."""
    import numpy as np

    found = drawn(effective(readings))
    picks = np.argsort(found.centers, kind="stable")[:: max(1, len(found.centers) // _DRAWS)]
    return found.centers[picks], np.stack([axis[picks] for axis in found.forms])  # type: ignore[index]


def _left_over(drawn_at: "Floats", forms: "Floats", offset_hz: float, bits: int) -> float:
    """The variance of the centre that is expected to be left after a reading at one offset, in hertz squared."""
    import numpy as np

    rates = rate(offset_hz - drawn_at, Form(*forms))
    lost = 1 / (1 + np.exp(-(rates - NOT_DECODED) / NOT_DECODED_SPREAD))
    root = np.arcsin(np.sqrt(np.clip(rates, 0, 1)))
    spread = np.sqrt(0.25 / bits + (0.03 * np.tan(np.minimum(root, 1.0))) ** 2) + 1e-4
    marks = np.linspace(0, np.pi / 4, _BINS)
    seen = np.exp(-0.5 * ((marks[:, None] - root) / np.maximum(spread, marks[1] / 2)) ** 2)
    seen *= (1 - lost) / seen.sum(axis=0).clip(1e-12)
    all_seen = np.vstack([seen, lost])
    weight = all_seen.sum(axis=1).clip(1e-12)
    mean = all_seen @ drawn_at / weight
    square = all_seen @ drawn_at**2 / weight
    made: float = float((weight * (square - mean**2)).sum() / len(drawn_at))
    return made


def told(readings: Sequence[Reading], before_rate: float | None) -> str:
    """What came of it in one line: “from 1.2 % to 0.3 %, ± 60 Hz, six readings”."""
    used = [item for item in readings if not item.left_out]
    found = estimate(used)
    sound = [item for at, item in enumerate(used) if item.bits and at not in found.wrong]
    if not sound:
        return "nothing read yet"
    best = min(sound, key=lambda item: abs(item.offset_hz - found.center_hz))
    reached = best.errors / best.bits
    start = f"from {100 * before_rate:.1f} % to " if before_rate is not None else ""
    many = counted(len(used), "reading")
    return f"{start}{100 * reached:.1f} %, ± {max(1, round(found.half_hz))} Hz, {many}"
