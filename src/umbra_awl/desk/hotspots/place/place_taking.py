"""A frequency of the ruler taken for a hotspot."""

from typing import TYPE_CHECKING

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.hotspot.place.after import take_place, touched

if TYPE_CHECKING:
    from umbra_awl.desk.hotspots.place.place_page import FrequencyPage


class PlaceTaking:
    """Takes for a page."""

    def __init__(self, owner: "FrequencyPage") -> None:
        self._page = owner

    def change_words(self) -> str:
        """Which radios would change; counted anew only when plan or fits are others."""
        bench, access = self._page.spot.bench, self._page.spot.access
        of = (bench.plan, bench.worked.results, access)
        if access is None:
            return ""
        if (
            any(one is not other for one, other in zip(of, self._page.counted_of, strict=False))
            or not self._page.counted_of
        ):
            self._page.counted_of = of
            found = touched(bench.plan, access, {key: fit.memory for key, fit in bench.worked.results.fits.items()})
            told = ", ".join(f"{item.name} ({counted(item.channels, 'channel')})" for item in found)
            self._page.counted = (
                f"Would change: {told}; to be written again." if told else "No radio has a channel through it yet."
            )
        return self._page.counted

    def take_it(self) -> None:
        """Move the hotspot, its services and every radio to the channel in hand."""
        spot, access = self._page.spot, self._page.spot.access
        if self._page.found is None or access is None:
            return
        place, told = self._page.found.ruler.place(self._page.picture.at), self.change_words()
        bench = spot.bench
        try:
            edit = take_place(bench.index, access, place)
        except ValueError as error:
            bench.say(str(error), "stop")
            return
        self._page.to_tell = ""
        if bench.do(edit):
            self._page.to_tell = f"{edit.sentence}. {told.replace('Would change', 'Changed')}"
            self.tell()

    def tell(self) -> None:
        """Once the plan was worked out anew: what was taken, and whether a key-up arrives now."""
        bench = self._page.spot.bench
        if self._page.to_tell and bench.worked.fresh and bench.radio_key in bench.worked.results.fits:
            told, self._page.to_tell = self._page.to_tell, ""
            bench.say(f"{told} {self._page.trace_words()}".strip())
