"""Prices and weights of a comparison of radios."""

from collections.abc import Iterator
from functools import partial
from typing import TYPE_CHECKING

from umbra_awl.core.fit.needs import MUST
from umbra_awl.desk.parts.cards.fields import Choice, Commit, Field

if TYPE_CHECKING:
    from umbra_awl.desk.radios.compare_page import ComparePage


_WEIGHTS = {0: "does not count", 1: "counts a little", 2: "counts", 3: "counts most", MUST: "must be"}


class CompareWeights:
    """Asks for them on a page."""

    def __init__(self, owner: "ComparePage") -> None:
        self._page = owner

    def number(self, label: str, field: str, now: float) -> Field:
        def commit(text: str) -> str:
            plain = text.replace(" ", "").replace(",", "")
            if plain and not plain.isdecimal():
                return f"“{text}” is not a number. Type digits, or nothing where it does not matter."
            self._page.set(**{field: int(plain or 0)})
            return ""

        return Field(label, f"{now:,g}" if now else "no matter", True, commit=commit, text=f"{now:g}" if now else "")

    def price_text(self) -> str:
        names = {key: profile.name for key, profile in self._page.bench.profiles.items()}
        return ", ".join(f"{names.get(key, key)}={price:g}" for key, price in self._page.needs.price.items())

    @property
    def prices(self) -> Commit:
        def commit(text: str) -> str:
            keys = {profile.name.casefold(): key for key, profile in self._page.bench.profiles.items()}
            found: dict[str, float] = {}
            for part in filter(None, map(str.strip, text.split(","))):
                name, _sign, price = (piece.strip() for piece in part.partition("="))
                if name.casefold() not in keys or not price.replace(".", "", 1).isdecimal():
                    return f"“{part}” is not a price. Write the radio's name and a number: Tarn 16=89."
                found[keys[name.casefold()]] = float(price)
            self._page.set(price=found)
            return ""

        return commit

    def weight_choices(self) -> Iterator[Choice]:
        for name, now in self.weighed().items():
            weight = {**self._page.needs.weight, name: (now + 1) % (MUST + 1)}
            yield Choice(f"{name}: {_WEIGHTS[now]}", partial(self._page.set, weight=weight), now > 0)

    def weighed(self) -> dict[str, int]:
        """Each point with how much it counts."""
        candidates = self._page.sheet.candidates
        return {point.name: point.weight for point in (candidates[0].points if candidates else ())}

    def weigh(self, name: str, weight: int) -> None:
        """Let a point count so much: 0 to 3, or `MUST`."""
        self._page.set(weight={**self._page.needs.weight, name: weight})
