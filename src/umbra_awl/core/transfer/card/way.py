"""By memory card as a way into a radio: what the radio wrote out is read, what is meant for it is laid beside it.

Writing goes only as far as the card. Whether the radio has taken it tells the next file that it writes out: the same mark that a
cable leaves while a write is not proven stands until then.
"""

from datetime import datetime
from pathlib import Path
from typing import NamedTuple

from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.radio.ways_in import Card
from umbra_awl.core.transfer.card.form import CardFile, CardHeader
from umbra_awl.core.transfer.card.look import SUFFIX, CardView, Looker, OnCard, identity_of, read_file
from umbra_awl.core.transfer.card.mark import CardMark, CardMarks
from umbra_awl.core.transfer.card.send import card_error, put_file
from umbra_awl.core.transfer.card.steps import chosen_of
from umbra_awl.core.transfer.carry import Compared, Follow, HeldMemory, WrittenMemory, take_in
from umbra_awl.core.transfer.errors import (
    CancelledError,
    CardError,
    CardFileError,
    ChangedRadioError,
    NoCardError,
    OlderError,
    OtherUnitError,
    PartOnlyError,
    StaleError,
    WrongModelError,
)
from umbra_awl.core.transfer.shelf import Backup, Shelf, Unfinished, digest
from umbra_awl.core.transfer.unit import differ, with_own_unit

SENT_STEM = "PLAN"


class CardWay(NamedTuple):
    """By a card whose top folder is `root`; `older_ok` takes a save that is older than the one taken last.

    `models` are the other radios that have cards, to name the one whose card this is.
    """

    root: Path
    profile: Profile
    shelf: Shelf
    looker: Looker
    models: tuple[Profile, ...] = ()
    older_ok: bool = False

    def why_not(self) -> str:
        """Why no card can be used."""
        if not self.profile.by_card:
            return f"Nothing is known of how {self.profile.name} writes its card. Its memory goes out as files."
        return "" if str(self.root) not in {"", "."} else "No card is chosen. Put it in, or choose its folder."

    @property
    def _card(self) -> Card:
        card = self.profile.card
        if card is None:
            raise NoCardError(self.why_not())
        return card

    def view(self) -> CardView:
        """The card as it is now. Raises CardError where it cannot be used at all."""
        view = self.looker.look(self.root, self.profile, self.models)
        if not view.present:
            raise NoCardError(
                f"No card is at “{self.root}”. Switch the radio off, push the card out and put it in here."
            )
        if view.fault:
            raise CardFileError(view.fault)
        return view

    def read(self, now: datetime, follow: Follow) -> HeldMemory:
        """Read the newest file that the radio has written out whole, and keep it."""
        file, found = self._radio_file(self.view())
        self._require_newer(found)
        if follow.cancelled():
            raise CancelledError("The transfer was stopped.")
        held = take_in(identity_of(file), file.body, self.profile, self.shelf, now)
        follow.progress("read", len(file.body), len(file.body))
        mark = CardMarks(self.shelf).of(held.unit)
        sent = "" if self.shelf.unfinished(held.unit) is None else mark.sent
        CardMarks(self.shelf).keep(held.unit, CardMark(file.header.number, found.digest, sent))
        return held

    def _radio_file(self, view: CardView) -> tuple[CardFile, OnCard]:
        """The radio's newest file. Raises TransferError for one that is no whole memory of this kind of radio."""
        found = chosen_of(view, self.shelf.known_unit())
        if found is None:
            raise self._nothing(view)
        if found.header is not None and found.header.scope != "everything":
            raise PartOnlyError(
                f"“{found.name}” holds only the radio's {found.header.scope}. On the radio choose “{self._card.write_out[-1]}” "
                "and write it out once more."
            )
        try:
            return read_file(self.root, (view.folder, self._card.backup), found.name), found
        except OSError as error:
            raise card_error(error, self.root) from None
        except CardFileError as error:
            raise CardFileError(f"“{found.name}” cannot be used: {error}. Let the radio write it out anew.") from None

    def _nothing(self, view: CardView) -> CardError | WrongModelError:
        menus = " › ".join(self._card.write_out)
        spoiled = next((item for item in view.files if item.fault), None)
        if spoiled is not None:
            text = f"“{spoiled.name}” cannot be used: {spoiled.fault}. Let the {self.profile.name} write it out anew: {menus}."
            return WrongModelError(text) if spoiled.header is not None else CardFileError(text)
        if not view.folder and view.others:
            return WrongModelError(
                f"This card has a folder of a {view.others[0]} and none of a {self.profile.name}. Is it another radio's?"
            )
        return NoCardError(f"The radio has written nothing onto this card yet. On the radio: {menus}.")

    def _require_newer(self, found: OnCard) -> None:
        mark = CardMarks(self.shelf).of(found.unit)
        number = found.header.number if found.header is not None else 0
        if number < mark.number and found.digest != mark.digest and not self.older_ok:
            raise OlderError(
                f"“{found.name}” is the radio's save {number}, and its save {mark.number} was read here already: this card holds "
                "an older one. Let the radio write everything out once more. Nothing was changed."
            )

    def write(self, held: HeldMemory, compared: Compared, follow: Follow) -> WrittenMemory:
        """Send what was compared to the card and read it back from there; the radio has yet to take it."""
        if compared.of_image != digest(held.image):
            raise StaleError("What is to be sent was compared with an earlier reading. Read the card again.")
        self.shelf.load(held.backup)
        view = self.view()
        file, found = self._radio_file(view)
        if differ(found.unit, held.unit):
            raise OtherUnitError(
                f"The card now holds the file of another {self.profile.name}. Read the card again. Nothing was sent."
            )
        if file.body != held.image:
            raise ChangedRadioError(
                "The radio has written the card anew since it was read. Read the card again: what it holds now is kept first. "
                "Nothing was sent."
            )
        return self._send(view, file.header, compared.target, held, follow)

    def _send(self, view: CardView, base: CardHeader, target: bytes, held: HeldMemory, follow: Follow) -> WrittenMemory:
        name = f"{SENT_STEM}{base.number:04d}{SUFFIX}"
        of = digest(held.image)
        header = CardHeader(
            base.model, "memory", "computer", base.number, base.when, "everything", base.firmware, base.unit, of
        )
        before = self.shelf.load(held.backup).image
        self.shelf.begin(Unfinished(held.backup.path.name, digest(before), digest(target), held.unit))
        try:
            follow.progress("write", 0, len(target))
            sent = put_file(self.root, (view.folder, self._card.backup), name, CardFile(header, target))
        except CardError:
            if not self._lies_there(name, digest(target)):
                self.shelf.finish(held.unit)  # nothing that the radio could take lies on the card
            raise
        CardMarks(self.shelf).keep(held.unit, CardMark(base.number, of, name))
        follow.progress("prove", sent, sent)
        return WrittenMemory(sent, target, proven=False, name=name)

    def _lies_there(self, name: str, body: str) -> bool:
        found = self.looker.look(self.root, self.profile).files
        return any(item.name == name and item.digest == body for item in found)

    def restore(self, backup: Backup, now: datetime, follow: Follow, *, other_unit: bool = False) -> WrittenMemory:
        """Lay a backup onto the card for the radio to take; what the radio holds now is kept first."""
        stored = self.shelf.load(backup)
        view = self.view()
        file, found = self._radio_file(view)
        held = take_in(identity_of(file), file.body, self.profile, self.shelf, now)
        if differ(stored.unit, held.unit) and not other_unit:
            raise OtherUnitError(
                f"The backup of {backup.when} is of another {self.profile.name} than the one that wrote this card. What this one "
                f"holds is kept on the shelf ({held.backup.when}). Nothing was sent."
            )
        CardMarks(self.shelf).keep(held.unit, CardMark(file.header.number, found.digest))
        return self._send(view, file.header, with_own_unit(stored.image, file.body, self.profile), held, follow)
