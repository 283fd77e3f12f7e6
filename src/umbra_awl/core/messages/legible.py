"""How much of the fine print a small picture keeps: a figure to be looked at, which decides nothing.

The sent picture is blown up to the size of the part it was made of, and both are laid over each other in small squares. The
figure is the correlation of their brightness, weighted by how much there is to be seen in each square; only the busiest quarter
of the squares counts, because print is where there is most to be seen. 100 % is all of it.
"""

from typing import TYPE_CHECKING

from umbra_awl.core.messages.picture import (
    QUALITIES,
    SIZES,
    Crop,
    OpenedPicture,
    Quality,
    Small,
    cropped,
    make_small,
    reopened,
)

if TYPE_CHECKING:
    import numpy as np

READABLE = 0.72
"""From here on print is usually readable: letters some seven points high in the sent picture, measured on rows of print."""
_MOST_POINTS = 1_600
_SQUARE = 12
_LEAST_SQUARE = 8


def kept_detail(opened: OpenedPicture, crop: Crop, small: Small) -> float:
    """The share of fine detail that stays, from 0 to 1."""
    import numpy as np
    from PIL import Image

    part = cropped(opened, crop).convert("L")
    part.thumbnail((_MOST_POINTS, _MOST_POINTS), Image.Resampling.LANCZOS)
    back = reopened(small).convert("L").resize(part.size, Image.Resampling.BICUBIC)
    side = max(_LEAST_SQUARE, round(_SQUARE * part.size[0] / small.width))
    wanted, found = np.asarray(part, dtype=np.float64), np.asarray(back, dtype=np.float64)
    spread = _shared(wanted, wanted, side)
    busy = spread >= np.quantile(spread, 0.75)
    weight = float(spread[busy].sum())
    if weight <= 0:
        return 1.0
    both = _shared(wanted, found, side)[busy] * np.sqrt(spread[busy])
    alike = both / np.sqrt(np.maximum(_shared(found, found, side)[busy], 1e-9))
    return float(np.clip(alike.sum() / weight, 0.0, 1.0))


def _shared(one: "np.ndarray", other: "np.ndarray", side: int) -> "np.ndarray":
    """The covariance of two pictures in each square; shape (squares,)."""
    import numpy as np

    count = _sums(np.ones_like(one), side)
    covariance: np.ndarray = _sums(one * other, side) / count - _sums(one, side) * _sums(other, side) / count**2
    return covariance


def _sums(values: "np.ndarray", side: int) -> "np.ndarray":
    """The sums of the squares of so many points each way; shape (squares,)."""
    import numpy as np

    height, width = values.shape
    rows, columns = np.arange(0, height, side), np.arange(0, width, side)
    summed: np.ndarray = np.add.reduceat(np.add.reduceat(values, rows, axis=0), columns, axis=1).ravel()
    return summed


def smallest_readable(
    opened: OpenedPicture, crop: Crop, mark: float = READABLE
) -> tuple[tuple[int, int], Quality, float] | None:
    """Size, quality and kept detail of the setting with the fewest bytes that keeps the mark; None where none does."""
    tried: list[tuple[int, tuple[int, int], Quality, float]] = []
    for size in SIZES:
        for quality in QUALITIES:
            small = make_small(opened, crop, size, quality)
            kept = kept_detail(opened, crop, small)
            if kept >= mark:
                tried.append((len(small.data), size, quality, kept))
    best = min(tried, default=None)
    return (best[1], best[2], best[3]) if best is not None else None
