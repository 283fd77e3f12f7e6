"""The picture in hand: opened, cropped, sized; what would arrive of it is made in the background."""

from collections.abc import Callable
from pathlib import Path
from typing import NamedTuple

from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtGui import QPixmap

from umbra_awl.core.keep.limits import read_within
from umbra_awl.core.messages.errors import PictureError
from umbra_awl.core.messages.legible import kept_detail, smallest_readable
from umbra_awl.core.messages.picture import (
    MOST_FILE_BYTES,
    SIZES,
    Crop,
    OpenedPicture,
    Quality,
    Small,
    SmallerPicture,
    make_small,
    open_picture,
    with_less,
)
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.onair.messages.images import pixmap_of

_LEAST = "picture least"
_Least = tuple[tuple[int, int], Quality, float] | None


class SeenPicture(NamedTuple):
    """What would go out, the share of the fine detail that stays, and what it would be with one thing less."""

    small: Small
    kept: float
    less: tuple[SmallerPicture, ...] = ()


class PictureInHand(QObject):
    """One picture at a time. `changed` tells of another picture, part, size, or of what arrives."""

    changed = pyqtSignal()
    opened_one = pyqtSignal()

    def __init__(self, bench: Workbench) -> None:
        super().__init__()
        self._bench = bench
        self.opened: OpenedPicture | None = None
        self.whole = QPixmap()
        self.arrives = QPixmap()
        self.crop = Crop()
        self.within: tuple[int, int] = SIZES[0]
        self.quality: Quality = "coarse"
        self.seen: SeenPicture | None = None

    def open(self, path: Path) -> None:
        """Open a picture's file."""
        self.take(lambda: read_within(path, MOST_FILE_BYTES))

    def take(self, read: Callable[[], bytes]) -> None:
        """Open a picture from its bytes, which are read or made in the background."""
        self._bench.jobs.latest("picture open", lambda: open_picture(read()), self._take_opened, self._failed)

    def _failed(self, error: Exception) -> None:
        known = isinstance(error, PictureError | OSError)
        self._bench.say(str(error) if known else f"The picture could not be used ({type(error).__name__}).", "stop")

    def _take_opened(self, opened: OpenedPicture) -> None:
        self.opened, self.crop, self.seen = opened, Crop(), None
        self.whole, self.arrives = pixmap_of(opened.image), QPixmap()
        self.opened_one.emit()
        self._see()
        self._propose()

    def take_crop(self, crop: Crop) -> None:
        """Send another part."""
        self.crop = crop
        self._see()

    def set_size(self, within: tuple[int, int]) -> None:
        """Send it in another size."""
        self._bench.jobs.forget(_LEAST)  # what is chosen by hand stands, whatever is still being looked for
        self.within = within
        self._see()

    def set_quality(self, quality: Quality) -> None:
        """Send it in another quality."""
        self._bench.jobs.forget(_LEAST)
        self.quality = quality
        self._see()

    def _see(self) -> None:
        opened, crop, within, quality = self.opened, self.crop, self.within, self.quality
        if opened is None:
            self.changed.emit()
            return

        def work() -> SeenPicture:
            small = make_small(opened, crop, within, quality)
            less = with_less(opened, crop, within, quality)
            return SeenPicture(small, kept_detail(opened, crop, small), less)

        self._bench.jobs.latest("picture small", work, self._take_seen, self._failed)

    def _take_seen(self, seen: SeenPicture) -> None:
        self.seen = seen
        self.arrives = QPixmap()
        self.arrives.loadFromData(seen.small.data)
        self.changed.emit()

    def _propose(self) -> None:
        """Begin with the smallest setting that stays readable; where none does, with the smallest there is."""
        self._look_for_least(self._take_proposal)

    def _look_for_least(self, done: Callable[[_Least], None]) -> None:
        opened, crop = self.opened, self.crop
        if opened is not None:
            self._bench.jobs.latest(_LEAST, lambda: smallest_readable(opened, crop), done, self._failed)

    def _take_proposal(self, found: _Least) -> None:
        self.within, self.quality = found[:2] if found is not None else (SIZES[0], "coarse")
        self._see()

    def find_least(self) -> None:
        """Set size and quality to the fewest bytes at which the print of the part stays readable."""
        self._look_for_least(self._take_least)

    def _take_least(self, found: _Least) -> None:
        if found is None:
            self._bench.say("No size keeps the fine print of this part readable. Crop closer to what matters.", "stop")
            return
        self.within, self.quality = found[0], found[1]
        self._see()
