"""Nothing keys the radio past the gate, and no far side keeps it keyed: asked each time, bounded by what has arrived."""

import ast
import random

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.source import nodes_of_modules_with
from umbra_awl.core.messages.blocks import MOST_GIVEN_UP, MOST_REPEATS, IncomingPicture, Outgoing, make_offer
from umbra_awl.core.messages.errors import BrokenOffError, MayNotSendError
from umbra_awl.core.messages.frames import AirKind, Text, block_payload, have_payload, offer_payload
from umbra_awl.core.messages.sending import MOST_IDLE_TURNS, AirPort, KeyingPace, send_picture, send_text
from umbra_awl.core.transfer.frames import Decoder, Frame, encode

DATA = random.Random(3).randbytes(4_000)


class Radio:
    """A radio on a line that keys at once, and a far side that answers by a rule."""

    def __init__(self, answers=lambda _frames: []):
        self._decoder, self._out, self._turn = Decoder(), b"", []
        self._answers = answers
        self.keyed, self.sent = 0, []

    def write(self, data):
        for frame in self._decoder.feed(data):
            if frame.kind == AirKind.KEY:
                self.keyed += 1
                self._turn = []
                self._out += encode(Frame(AirKind.KEYED, 0))
            elif frame.kind == AirKind.UNKEY:
                self._out += b"".join(map(encode, self._answers(self._turn)))
            else:
                self._turn.append(frame)
                self.sent.append(frame)
                self._out += encode(Frame(AirKind.SENT, 0))

    def read(self, _timeout_s):
        out, self._out = self._out, b""
        return out

    def close(self):
        pass


def outgoing():
    return Outgoing(DATA, make_offer(DATA, "Q4WRN", "Q3AMB", (160, 120), "coarse"))


def quick(radio, gate=lambda: ""):
    return AirPort(radio, gate, KeyingPace(1.0, 0.01))


def test_the_gate_is_asked_before_every_turn_and_shut_means_not_keyed():
    radio, asked = Radio(), []
    port = quick(radio, lambda: asked.append(1) or "Receive-only until the licence is granted.")
    with pytest.raises(MayNotSendError, match="Receive-only"):
        send_text(port, Text("Q4WRN", "hello"))
    with pytest.raises(MayNotSendError):
        send_picture(port, outgoing())
    for kind in (AirKind.READY, AirKind.HAVE, AirKind.DONE, AirKind.REFUSED):
        with pytest.raises(MayNotSendError):
            port.send_turn([Frame(kind, 1)])
    assert (radio.keyed, radio.sent, len(asked)) == (0, [], 6)


def test_a_licence_that_ends_in_the_middle_ends_the_sending():
    picture, left = outgoing(), [3]

    def gate():
        left[0] -= 1
        return "" if left[0] > 0 else "The guard is on."

    radio = Radio(lambda _turn: [Frame(AirKind.HAVE, 0, have_payload(picture.offer.key, set(), picture.offer.blocks))])
    with pytest.raises(MayNotSendError, match="guard"):
        send_picture(quick(radio, gate), picture)
    assert radio.keyed == 2


def test_nothing_to_say_keys_nobody():
    radio = Radio()
    quick(radio).send_turn([])
    assert radio.keyed == 0


def test_a_far_side_that_always_has_nothing_is_given_up():
    picture = outgoing()
    radio = Radio(lambda _turn: [Frame(AirKind.HAVE, 0, have_payload(picture.offer.key, set(), picture.offer.blocks))])
    with pytest.raises(BrokenOffError):
        send_picture(quick(radio), picture)
    assert radio.keyed <= MOST_IDLE_TURNS + 1
    assert picture.blocks_sent <= MOST_REPEATS * picture.offer.blocks + 16


@given(st.integers(0, 2**32))
def test_whatever_the_far_side_answers_the_airtime_is_bounded(seed):
    picture, chance = outgoing(), random.Random(seed)
    everything = range(picture.offer.blocks)

    def answers(_turn):
        held = set(chance.sample(everything, chance.randint(0, picture.offer.blocks - 1)))
        kind = chance.choice([AirKind.HAVE, AirKind.READY])
        return [Frame(kind, 0, have_payload(picture.offer.key, held, picture.offer.blocks))] * chance.randint(1, 3)

    radio = Radio(answers)
    with pytest.raises(BrokenOffError):
        send_picture(quick(radio), picture)
    assert picture.blocks_sent <= MOST_REPEATS * picture.offer.blocks + 16
    assert radio.keyed <= 3 * MOST_IDLE_TURNS + picture.offer.blocks


def test_answers_by_themselves_end_where_nothing_new_comes():
    radio = Radio()
    port = quick(radio)
    for _ in range(MOST_IDLE_TURNS):
        port.send_turn([Frame(AirKind.READY, 1)])
    with pytest.raises(BrokenOffError, match="nothing new has arrived"):
        port.send_turn([Frame(AirKind.READY, 1)])
    assert radio.keyed == MOST_IDLE_TURNS
    port.progressed()
    port.send_turn([Frame(AirKind.READY, 1)])
    assert radio.keyed == MOST_IDLE_TURNS + 1


def test_offers_that_never_become_a_picture_are_not_answered_for_ever():
    incoming, answered = IncomingPicture("Q4WRN", lambda: ""), 0
    for at in range(200):
        offer = make_offer(DATA[at : at + 300], "Q3AMB", "Q4WRN", (160, 120), "coarse")
        answered += len(incoming.hear(Frame(AirKind.OFFER, 1, offer_payload(offer))))
    assert answered == MOST_GIVEN_UP
    incoming.anew()
    assert incoming.hear(Frame(AirKind.OFFER, 1, offer_payload(make_offer(b"x" * 300, "Q3AMB", "", (1, 1), "fine"))))


def test_a_picture_that_always_comes_whole_and_wrong_is_not_asked_for_for_ever():
    incoming, answered = IncomingPicture("Q4WRN", lambda: ""), 0
    offer = make_offer(DATA[:300], "Q3AMB", "Q4WRN", (160, 120), "coarse")
    wrong = bytes(300)
    turn = [
        Frame(AirKind.OFFER, 1, offer_payload(offer)),
        *(
            Frame(AirKind.BLOCK, 2, block_payload(offer.key, at, wrong[at * offer.block : (at + 1) * offer.block]))
            for at in range(offer.blocks)
        ),
        Frame(AirKind.END, 3, offer.key),
    ]
    for _ in range(200):
        answered += bool([answer for frame in turn for answer in incoming.hear(frame)])
    assert answered <= MOST_GIVEN_UP
    taken = incoming.taken
    for frame in turn:
        incoming.hear(frame)
    assert incoming.taken == taken, "nor does it count as progress"


def test_only_the_port_says_key():
    speakers = {
        str(path)
        for path, node in nodes_of_modules_with("AirKind")
        if path.parent.name != "air"
        and isinstance(node, ast.Attribute)
        and node.attr == "KEY"
        and getattr(node.value, "id", "") == "AirKind"
    }
    assert speakers == {"core/messages/sending.py"}
