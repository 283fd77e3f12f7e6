"""The ways into the chosen radio: its port or its card's folder, as this computer remembers them, and what is found on the card.

What few callers need is imported where it is used, so that the first window does not wait for it.
"""

from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.transfer.held import shelf_of
from umbra_awl.core.transfer.shelf import Shelf, Unfinished
from umbra_awl.core.transfer.way import Way, by_cable
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.settings import Settings

if TYPE_CHECKING:
    from umbra_awl.core.transfer.card.look import CardView, Looker
    from umbra_awl.core.transfer.card.steps import CardSights
    from umbra_awl.core.transfer.carry import HeldMemory
    from umbra_awl.standins.launch import CardRadioProcess, RadioProcess


class Ways:
    """How each radio of the plan is reached from here; `on_bench` (card) and `cabled` are simulated ones, by key."""

    def __init__(self, bench: Workbench, settings: Settings) -> None:
        self._bench, self._settings = bench, settings
        self._looker: Looker | None = None
        self.on_bench: dict[str, CardRadioProcess] = {}
        self.cabled: dict[str, RadioProcess] = {}

    @property
    def profile(self) -> Profile | None:
        """The chosen radio's profile."""
        radio = self._bench.radio
        return self._bench.profiles.get(radio.profile) if radio is not None else None

    @property
    def _key(self) -> str:
        return self._of(self._bench.radio_key)

    def _of(self, key: str) -> str:
        """What something of the open plan is remembered by."""
        document = self._bench.document
        return f"{document.path if document else ''}#{key}"

    @property
    def port(self) -> str:
        """The port of the chosen radio."""
        return self._settings.kept.ports.get(self._key, "")

    def set_port(self, port: str) -> None:
        """Remember the port of the chosen radio."""
        self._settings.keep(ports={**self._settings.kept.ports, self._key: port})

    @property
    def card(self) -> str:
        """The folder where the chosen radio's card appears."""
        return self._settings.kept.cards.get(self._key, "")

    def set_card(self, folder: str) -> None:
        """Remember where the chosen radio's card appears."""
        self._settings.keep(cards={**self._settings.kept.cards, self._key: folder})

    @property
    def phone(self) -> str:
        """The address of the phone beside the chosen radio."""
        return self._settings.kept.phones.get(self._key, "")

    def set_phone(self, address: str) -> None:
        """Remember the phone beside the chosen radio."""
        self._settings.keep(phones={**self._settings.kept.phones, self._key: address})

    def spot(self, hotspot: str) -> str:
        """The address at which a hotspot of the plan was last found."""
        return self._settings.kept.spots.get(self._of(hotspot), "")

    def set_spot(self, hotspot: str, address: str) -> None:
        """Remember where a hotspot of the plan is."""
        self._settings.keep(spots={**self._settings.kept.spots, self._of(hotspot): address})

    def unfinished(self) -> Unfinished | None:
        """A write to the chosen radio that was not proven."""
        shelf = self.shelf_of(self._bench.radio_key)
        return shelf.unfinished() if shelf is not None else None

    def shelf_of(self, key: str) -> Shelf | None:
        """The backups of a radio of the plan, beside the plan."""
        document = self._bench.document
        return shelf_of(document.real, key) if document is not None and key in self._bench.index.radios else None

    def way(self, *, older_ok: bool = False) -> Way | None:
        """The way into the chosen radio; None while there is no radio or nothing is known of its profile."""
        profile, shelf = self.profile, self.shelf_of(self._bench.radio_key)
        if profile is None or shelf is None:
            return None
        if not profile.by_card:
            return by_cable(self.port, profile, shelf)
        from umbra_awl.core.transfer.card.way import CardWay

        return CardWay(Path(self.card), profile, shelf, self.looker, self._models(profile), older_ok)

    @property
    def looker(self) -> "Looker":
        """Who looks at cards, and remembers what was read of them."""
        from umbra_awl.core.transfer.card.look import Looker

        self._looker = self._looker or Looker()
        return self._looker

    def _models(self, profile: Profile) -> tuple[Profile, ...]:
        return tuple(
            item for item in self._bench.profiles.values() if item.card is not None and item.key != profile.key
        )

    def to_find(self, held: "HeldMemory | None") -> "Callable[[], CardSights | None]":
        """What tells how far the way over the chosen radio's card has come; asked in the background, of what is chosen now."""
        profile, shelf, place = self.profile, self.shelf_of(self._bench.radio_key), self.card
        if profile is None or shelf is None or not profile.by_card:
            return lambda: None
        return partial(_found, self.looker, (profile, self._models(profile)), shelf, place, held)


def _found(
    looker: "Looker", kinds: tuple[Profile, tuple[Profile, ...]], shelf: Shelf, place: str, held: "HeldMemory | None"
) -> "CardSights":
    from umbra_awl.core.transfer.card.mark import CardMarks
    from umbra_awl.core.transfer.card.steps import Past, found_out
    from umbra_awl.core.transfer.shelf import digest

    profile, models = kinds
    view = looker.look(Path(place), profile, models) if place else _no_card()
    unit = shelf.known_unit()
    past = Past(unit, CardMarks(shelf).of(unit), shelf.unfinished(unit), digest(held.image) if held is not None else "")
    return found_out(view, profile, past)


def _no_card() -> "CardView":
    from umbra_awl.core.transfer.card.look import CardView

    return CardView(Path())
