"""Sending the list around to a card, and telling from the radio's own list whether it was taken."""

from datetime import date
from pathlib import Path
from typing import NamedTuple

from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.radio.ways_in import AroundList
from umbra_awl.core.transfer.card.form import CardFile, CardHeader, body_digest
from umbra_awl.core.transfer.card.look import SUFFIX, CardView, Looker
from umbra_awl.core.transfer.card.send import put_file
from umbra_awl.core.transfer.errors import NoCardError, RadioFullError

NAME = f"AROUND{SUFFIX}"


class AroundFound(NamedTuple):
    """What is found of the list on a card: whether ours lies there, of which day, with how many lines, and the radio's own."""

    sent: bool = False
    day: str = ""
    rows: int = 0
    own_rows: int = -1
    taken: bool = False


def send_around(root: Path, profile: Profile, looker: Looker, body: bytes, today: date) -> int:
    """Lay a list onto a card; the bytes written. Raises TransferError."""
    card, around = profile.card, _around(profile)
    view = looker.look(root, profile)
    if card is None or not view.present:
        raise NoCardError(f"No card is at “{root}”. Put it in here first.")
    rows = max(0, body.count(b"\n") - 1)
    if rows > around.records:
        raise RadioFullError(f"A {profile.name} holds {around.records} in its list around, and {rows} are chosen.")
    header = CardHeader(profile.key, "around", "computer", when=today.isoformat(), rows=rows)
    return put_file(root, (view.folder or card.folder, around.folder), NAME, CardFile(header, body))


def _around(profile: Profile) -> AroundList:
    around = profile.card.around if profile.card is not None else None
    if around is None:
        raise NoCardError(f"A {profile.name} keeps no list of access points around.")
    return around


def around_found(view: CardView, body: bytes = b"") -> AroundFound:
    """What a card tells of the list; `body` is what is meant now, to say whether the radio has it."""
    sent = next((item for item in view.lists if item.sound and item.name.upper() == NAME), None)
    own = next(
        (item for item in view.lists if item.sound and item.header is not None and item.header.by == "radio"), None
    )
    header = sent.header if sent is not None else None
    wanted = body_digest(body) if body else sent.digest if sent is not None else ""
    return AroundFound(
        header is not None and (not body or (sent is not None and sent.digest == wanted)),
        header.when if header is not None else "",
        header.rows if header is not None else 0,
        own.header.rows if own is not None and own.header is not None else -1,
        own is not None and bool(wanted) and own.digest == wanted,
    )
