"""Which steps of the way over a card have been taken: told by what is found on the card and on the shelf, never by a click."""

from typing import Literal, NamedTuple

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.radio.ways_in import Card
from umbra_awl.core.transfer.card.look import CardView, OnCard
from umbra_awl.core.transfer.card.mark import CardMark
from umbra_awl.core.transfer.shelf import Unfinished

Hands = Literal["radio", "you", "here"]
Word = Literal["read", "compare", "write", "prove"]
Stage = Literal[
    "away",
    "empty",
    "wrong",
    "part",
    "older",
    "ready",
    "taken",
    "unsent",
    "sent",
    "lost",
    "in radio",
    "unread",
    "half",
    "new",
]


class CardStep(NamedTuple):
    """A step: which of the four words it belongs to, whose hands do it, what is done, and how in a sentence."""

    word: Word
    hands: Hands
    title: str
    how: str


class CardSights(NamedTuple):
    """How far it has come: the stage, how many steps are done, what was found, what to do now.

    `file` is the radio's newest, `sent` the name of what lies ready for it.
    """

    stage: Stage
    done: int
    text: str
    todo: str
    file: OnCard | None = None
    sent: str = ""

    @property
    def amiss(self) -> bool:
        """Whether it went otherwise than it should."""
        return self.stage in {"wrong", "part", "older", "unsent", "lost", "unread", "half"}


class Past(NamedTuple):
    """What is known from before: which single radio was read last, its mark, a write not proven, the body compared now."""

    unit: str = ""
    mark: CardMark = CardMark()
    unfinished: Unfinished | None = None
    compared: str = ""


def steps_of(profile: Profile, sent: str = "") -> tuple[CardStep, ...]:
    """The steps for a radio, in order; `sent` is the name of the file on the card that it is to take."""
    card = profile.card
    if card is None:
        return ()
    yes = "" if card.yes == 1 else f" It asks {_times(card.yes)}: yes each time."
    after = "It restarts by itself." if card.restarts else "It does not restart: that is no sign."
    out, into, name = _menus(card.write_out), _menus(card.read_in), sent or "the file that begins with PLAN"
    return (
        CardStep("read", "radio", "Write out everything", f"{out}. Wait for “{card.done}”."),
        CardStep("read", "you", "Radio off, card out", "Off first. Then push the card out and put it in here."),
        CardStep("read", "here", "Read and keep", "The radio's file is read, and a copy goes on the shelf."),
        CardStep("compare", "here", "Compare", "Line by line: what would be added, changed, removed."),
        CardStep(
            "write", "here", "Send to the card", "A file beside the radio's own. A copy on the shelf is not sent."
        ),
        CardStep("write", "you", "Card back, radio on", "Push it in while the radio is off."),
        CardStep("write", "radio", "Read in everything", f"{into}, {name}.{yes} {after}"),
        CardStep("prove", "radio", "Write out once more", f"{out}. Then off, card out, and in here."),
        CardStep("prove", "here", "Prove", "What the radio wrote out is compared with what was sent."),
        CardStep("prove", "you", "Turn to it and key", "The display must show what is said beside this."),
    )


def _menus(words: tuple[str, ...]) -> str:
    return " › ".join(words)


def _times(count: int) -> str:
    return {2: "twice", 3: "three times"}.get(count, f"{count} times")


LEAST_FREE = 400_000
"""Bytes: less than the largest of these radios' memories and a little."""
READ, COMPARED, SENT, BACK, PROVEN = 3, 4, 5, 6, 9
"""How many steps are done when it has been read, compared, sent, is away with what was sent, is proven."""


def chosen_of(view: CardView, unit: str) -> OnCard | None:
    """The radio's newest file: of the radio that was read last where it has one here, else of whichever wrote last."""
    found = view.memories("radio")
    own = [item for item in found if unit and item.unit in {unit, ""}]
    return next(iter(own if any(item.unit == unit for item in own) else found), None)


def found_out(view: CardView, profile: Profile, past: Past) -> CardSights:
    """How far the way over a card has come, by what is found."""
    card = profile.card
    if card is None:
        return CardSights("wrong", 0, f"Nothing is known of how {profile.name} writes its card.", "")
    sent = past.mark.sent if past.unfinished is not None else ""
    if not view.present:
        return _away(card, past)._replace(sent=sent)
    newest = chosen_of(view, past.unit)
    if newest is None:
        return _nothing(view, profile, card)
    told = _after_sending(newest, view, card, past) if past.unfinished is not None else _before(newest, card, past)
    beside = _beside(view, newest, told)
    return told._replace(file=newest, sent=sent, text=f"{told.text} {beside}".strip())


def _beside(view: CardView, newest: OnCard, told: CardSights) -> str:
    """What else is worth knowing of a card: other radios on it, that it cannot be written or has no room."""
    said: list[str] = []
    units = {item.unit for item in view.memories("radio") if item.unit}
    if len(units) > 1:
        said.append(
            f"{counted(len(units), 'radio')} of this kind wrote here; “{newest.name}” is of the one that is taken."
        )
    if view.others:
        said.append(f"A folder of a {view.others[0]} lies beside it and is left alone.")
    if told.stage in {"ready", "taken"} and view.locked:
        said.append("The card cannot be written: slide its small lock back before you send.")
    elif told.stage in {"ready", "taken"} and view.free < LEAST_FREE:
        said.append(f"The card is nearly full, {view.free // 1000:,} KB are left: free some room before you send.")
    return " ".join(said)


def _away(card: Card, past: Past) -> CardSights:
    if past.unfinished is not None:
        return CardSights(
            "in radio",
            BACK,
            f"What was sent went away with the card ({past.mark.sent})." if past.mark.sent else "The card is away.",
            f"In the radio: {_menus(card.read_in)}. Then {_menus(card.write_out)}, off, and bring the card back here.",
        )
    if past.compared:
        return CardSights(
            "unsent",
            READ,
            "The card is away and nothing was sent to it: a copy on the shelf is not on the card.",
            "Bring the card back and send it, or the radio goes on with what it had.",
        )
    return CardSights(
        "away",
        0,
        "No card is here.",
        f"On the radio: {_menus(card.write_out)}, and wait for “{card.done}”. Radio off, card out, and in here.",
    )


def _nothing(view: CardView, profile: Profile, card: Card) -> CardSights:
    spoiled = next((item for item in view.files if item.fault), None)
    todo = f"On the radio: {_menus(card.write_out)}. Wait for “{card.done}”, then off and out."
    if view.fault:
        return CardSights("wrong", 0, view.fault, todo)
    if spoiled is not None:
        return CardSights("wrong", 0, f"“{spoiled.name}” cannot be used: {spoiled.fault}.", todo)
    if view.others and not view.folder:
        text = f"This card has a folder of a {view.others[0]} and none of a {profile.name}."
        return CardSights("wrong", 0, text, f"Is it another radio's card? {todo}")
    return CardSights("empty", 0, f"{profile.name} has written nothing onto this card yet.", todo)


def _before(newest: OnCard, card: Card, past: Past) -> CardSights:
    number = _number(newest)
    if (part := _part(newest, card)) is not None:
        return part
    if newest.digest == past.compared:
        return CardSights("taken", COMPARED, f"Save {number} is read and compared.", "Send it to the card.")
    if number < past.mark.number and newest.unit == past.unit:
        return CardSights(
            "older",
            1,
            f"“{newest.name}” is save {number}; save {past.mark.number} was read here already, so this one is older.",
            f"Let the radio write everything out once more: {_menus(card.write_out)}.",
        )
    if newest.digest == past.mark.digest:
        return CardSights(
            "ready", 2, f"“{newest.name}” is here, and was read before: save {number}, unchanged.", "Read it again."
        )
    return CardSights("ready", 2, f"“{newest.name}” is here: save {number} of the radio, all of it.", "Read it.")


def _part(newest: OnCard, card: Card) -> CardSights | None:
    header = newest.header
    if header is None or header.scope == "everything":
        return None
    text = f"“{newest.name}” holds only the radio's {header.scope}. From a part nothing can be proven."
    return CardSights("part", 0, text, f"Choose “{card.write_out[-1]}” on the radio: {_menus(card.write_out)}.")


def _after_sending(newest: OnCard, view: CardView, card: Card, past: Past) -> CardSights:
    mark, unfinished = past.mark, past.unfinished
    after, before = (unfinished.after, unfinished.before) if unfinished is not None else ("", "")
    if _number(newest) <= mark.number:
        if any(item.digest == after for item in view.memories("computer")):
            text = f"“{mark.sent}” lies on the card. The radio has not taken it yet."
            return CardSights("sent", SENT, text, "Card into the radio while it is off, then on.")
        text = "What was sent is not on this card."
        return CardSights("lost", COMPARED, text, "Read it and send it again, or put the other card in.")
    if (part := _part(newest, card)) is not None:
        return part._replace(done=SENT)
    into = f"{_menus(card.read_in)}, {mark.sent}"
    if newest.digest == after:
        return CardSights(
            "new", PROVEN - 1, "The radio wrote out what was sent, byte for byte.", "Read it: that proves it."
        )
    if newest.digest == before:
        text = "The radio wrote out what it held before: it has not taken what was sent."
        return CardSights("unread", BACK, text, f"Card back in, and on the radio: {into}. Then write out once more.")
    text = (
        "The radio wrote out neither the old memory nor the new one: only a part was read in, or it was changed since."
    )
    return CardSights("half", BACK, text, f"Read it to see what differs. Choose everything when it reads in: {into}.")


def _number(item: OnCard) -> int:
    return item.header.number if item.header is not None else 0
