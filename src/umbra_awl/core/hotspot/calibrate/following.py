"""The next offset to try: the one after which the centre is expected to be known best; and when to stop."""

from collections.abc import Sequence
from typing import TYPE_CHECKING, NamedTuple

from umbra_awl.core.hotspot.calibrate.model import (
    BITS_A_SECOND,
    FURTHEST_HZ,
    NOT_DECODED,
    NOT_DECODED_SPREAD,
    Estimate,
    estimate,
    grid,
    posterior,
    rate,
)
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
    counted = [item for item in readings if not item.left_out]
    found = estimate(counted)
    if not counted:
        return Advice(_FIRST, "Begin at 0: read what the hotspot says while you key for three seconds.", found)
    if found.enough:
        center = round(found.center_hz)
        if not _read_near(counted, center):
            known = f"Known: {center:+d} Hz, ± {max(1, round(found.half_hz))} Hz."
            return Advice(center, f"{known} Read once at {center:+d} Hz, to see what is left there.", found)
        return Advice(None, _done_words(counted, found), found)
    offset = next_offset(counted, bits, most)
    side = f"between {found.low_hz:+.0f} and {found.high_hz:+.0f} Hz"
    return Advice(offset, f"Try {offset:+d} Hz next. The centre lies {side}.", found)


def _read_near(readings: Sequence[Reading], center: int) -> bool:
    return any(item.bits and abs(item.offset_hz - center) <= _NEAR_HZ for item in readings)


def _done_words(readings: Sequence[Reading], found: Estimate) -> str:
    left = f"± {max(1, round(found.half_hz))} Hz"
    center = round(found.center_hz)
    near = [item for item in readings if item.bits and abs(item.offset_hz - center) <= _NEAR_HZ]
    rate_ = sum(item.errors for item in near) / sum(item.bits for item in near)
    many = f"{found.readings} reading{'s' if found.readings > 1 else ''}"
    return (
        f"Known: {round(found.center_hz):+d} Hz, {left}, from {many}. Stop here. "
        f"Left is {100 * rate_:.1f} %, which no offset takes away."
    )


def next_offset(readings: Sequence[Reading], bits: int = USUAL_BITS, most: int = FURTHEST_HZ) -> int:
    """The offset in hertz whose reading is expected to leave the least variance of the centre."""
    import numpy as np

    centers, forms = _draws(readings)
    tried = np.arange(-most, most + 1, TRY_STEP_HZ, dtype=float)
    if not any(item.bits for item in readings):
        return int(tried[int(np.argmax([_decoded(centers, forms, item) for item in tried]))])
    low, high = np.quantile(centers, [0.01, 0.99])
    tried = tried[(tried >= low - 1_200) & (tried <= high + 1_200)]
    left = np.array([_left_over(centers, forms, item, bits) for item in tried])
    return int(tried[int(left.argmin())])


def _decoded(centers: "Floats", forms: "Floats", offset_hz: float) -> float:
    """How likely anything is decoded at an offset: what counts until something was."""
    import numpy as np

    rates = rate(offset_hz - centers, *forms)
    made: float = float((1 / (1 + np.exp((rates - NOT_DECODED) / NOT_DECODED_SPREAD))).mean())
    return made


def _draws(readings: Sequence[Reading]) -> "tuple[Floats, Floats]":
    """Points of the grid drawn evenly from the posterior: centres, and forms as rows of width, floor, shape."""
    import numpy as np

    total = posterior(tuple(readings))
    weight = np.exp(total - total.max()).ravel()
    steps = np.cumsum(weight)
    picks = np.searchsorted(steps, (np.arange(_DRAWS) + 0.5) / _DRAWS * steps[-1])
    rows, columns = np.unravel_index(picks, total.shape)
    points = grid()
    forms = np.stack([points.widths[columns], points.floors[columns], points.shapes[columns]])
    return points.centers[rows], forms


def _left_over(centers: "Floats", forms: "Floats", offset_hz: float, bits: int) -> float:
    """The variance of the centre that is expected to be left after a reading at one offset, in hertz squared."""
    import numpy as np

    rates = rate(offset_hz - centers, *forms)
    lost = 1 / (1 + np.exp(-(rates - NOT_DECODED) / NOT_DECODED_SPREAD))
    root = np.arcsin(np.sqrt(np.clip(rates, 0, 1)))
    spread = np.sqrt(0.25 / bits + (0.03 * np.tan(np.minimum(root, 1.0))) ** 2) + 1e-4
    marks = np.linspace(0, np.pi / 4, _BINS)
    seen = np.exp(-0.5 * ((marks[:, None] - root) / np.maximum(spread, marks[1] / 2)) ** 2)
    seen *= (1 - lost) / seen.sum(axis=0).clip(1e-12)
    all_seen = np.vstack([seen, lost])
    weight = all_seen.sum(axis=1).clip(1e-12)
    mean = all_seen @ centers / weight
    square = all_seen @ centers**2 / weight
    made: float = float((weight * (square - mean**2)).sum() / len(centers))
    return made


def told(readings: Sequence[Reading], before_rate: float | None) -> str:
    """What came of it in one line: “from 1.2 % to 0.3 %, ± 60 Hz, six readings”."""
    counted = [item for item in readings if not item.left_out]
    found = estimate(counted)
    sound = [item for at, item in enumerate(counted) if item.bits and at not in found.wrong]
    if not sound:
        return "nothing read yet"
    best = min(sound, key=lambda item: abs(item.offset_hz - found.center_hz))
    reached = best.errors / best.bits
    start = f"from {100 * before_rate:.1f} % to " if before_rate is not None else ""
    many = f"{len(counted)} reading{'s' if len(counted) > 1 else ''}"
    return f"{start}{100 * reached:.1f} %, ± {max(1, round(found.half_hz))} Hz, {many}"
