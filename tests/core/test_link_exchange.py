"""The link against a scripted radio and a clock of the test: the window, repeats, silence, refusals, progress."""

import struct
import zlib

import pytest

from umbra_awl.core.transfer import frames
from umbra_awl.core.transfer import link as link_module
from umbra_awl.core.transfer.errors import CancelledError, RadioError, RadioFullError, SilentError, WriteLockedError
from umbra_awl.core.transfer.frames import (
    Decoder,
    Frame,
    FrameKind,
    LinkRefusal,
    encode,
    pack_identity,
    unpack_identity,
)
from umbra_awl.core.transfer.link import MOST_TRIES, WINDOW, Link, Request, refusal
from umbra_awl.core.transfer.protocols import RadioIdentity, Watch

QUIET_S = 1.0


class Clock:
    def __init__(self):
        self.now = 0.0

    def monotonic(self):
        return self.now


class Scripted:
    """A radio that is told how to answer the frame number so many; each look that finds nothing takes a while."""

    def __init__(self, clock, answers=lambda _at, frame: [Frame(frame.kind | 0x80, frame.sequence, frame.payload)]):
        self.clock, self.answers = clock, answers
        self.sent, self.looks, self.waits = [], [], []
        self._out, self._decoder = [], Decoder()

    def write(self, data):
        for frame in self._decoder.feed(data):
            self.sent.append(frame)
            self._out.append(b"".join(map(encode, self.answers(len(self.sent) - 1, frame))))

    def read(self, timeout_s):
        self.waits.append(timeout_s)
        self.looks.append(len(self.sent))
        found, self._out = b"".join(self._out[:1]), self._out[1:]
        if not found:
            self.clock.now += 0.25
        return found

    def close(self):
        pass


@pytest.fixture
def clock(monkeypatch):
    made = Clock()
    monkeypatch.setattr(link_module, "time", made)
    return made


def requests(count):
    return [Request(FrameKind.READ, bytes([at])) for at in range(count)]


def payloads(count):
    return [bytes([at]) for at in range(count)]


def test_the_application_waits_a_second_and_a_bit_for_a_radio():
    assert 1.0 <= link_module.QUIET_SECONDS <= 2.0
    assert (WINDOW, MOST_TRIES) == (4, 6)


def test_answers_come_back_in_the_order_asked_and_four_are_under_way(clock):
    radio = Scripted(clock)
    assert Link(radio, quiet_s=QUIET_S).exchange(requests(7)) == payloads(7)
    assert radio.looks[0] == WINDOW
    assert all(sent - at <= WINDOW for at, sent in enumerate(radio.looks))
    assert [frame.sequence for frame in radio.sent] == [1, 2, 3, 4, 5, 6, 7]
    assert all(0 < wait <= 0.1 for wait in radio.waits), "stopping must be noticed soon"


def test_nothing_to_ask_touches_nothing(clock):
    radio = Scripted(clock)
    assert Link(radio, quiet_s=QUIET_S).exchange([]) == []
    assert (radio.sent, radio.looks) == ([], [])


def test_sequence_numbers_go_round_through_nought(clock):
    radio = Scripted(clock)
    assert len(Link(radio, quiet_s=QUIET_S).exchange([Request(FrameKind.READ)] * 300)) == 300
    assert [frame.sequence for frame in radio.sent] == [at % 256 for at in range(1, 301)]


def test_progress_counts_answers(clock):
    told = []
    Link(Scripted(clock), quiet_s=QUIET_S).exchange(requests(3), Watch(lambda *step: told.append(step)))
    assert told == [(1, 3), (2, 3), (3, 3)]


def test_a_lost_answer_is_asked_for_again_as_soon_as_a_later_one_comes(clock):
    radio = Scripted(clock, lambda at, frame: [Frame(0x82, frame.sequence, frame.payload)] if at != 1 else [])
    link = Link(radio, quiet_s=QUIET_S)
    assert link.exchange(requests(4)) == payloads(4)
    assert [frame.sequence for frame in radio.sent] == [1, 2, 3, 4, 2]
    assert (link.repeats, clock.now) == (1, 0.25)


def test_an_answer_out_of_order_repeats_only_the_earlier_ones_and_once(clock):
    """The answer to the third comes first, then the fourth's: the first two are repeated once, not twice."""
    radio = Scripted(clock, lambda at, frame: [Frame(0x82, frame.sequence, frame.payload)] if at > 1 else [])
    link = Link(radio, quiet_s=QUIET_S)
    assert link.exchange(requests(4)) == payloads(4)
    assert [frame.sequence for frame in radio.sent] == [1, 2, 3, 4, 1, 2]
    assert link.repeats == 2


def test_silence_is_repeated_after_a_while_and_ends_in_a_sentence(clock):
    radio = Scripted(clock, lambda _at, _frame: [])
    link = Link(radio, quiet_s=QUIET_S)
    with pytest.raises(SilentError, match="switched on"):
        link.exchange([Request(FrameKind.READ, b"a")])
    assert len(radio.sent) == MOST_TRIES
    assert {(frame.kind, frame.sequence, frame.payload) for frame in radio.sent} == {(FrameKind.READ, 1, b"a")}
    assert link.repeats == MOST_TRIES - 1
    assert MOST_TRIES * QUIET_S < clock.now <= MOST_TRIES * (QUIET_S + 0.25)


def test_the_last_try_may_still_succeed(clock):
    radio = Scripted(clock, lambda at, frame: [Frame(0x82, frame.sequence, b"late")] if at == MOST_TRIES - 1 else [])
    assert Link(radio, quiet_s=QUIET_S).exchange([Request(FrameKind.READ)]) == [b"late"]


def test_a_port_that_talks_without_answering_is_silent_too(clock):
    class Talking(Scripted):
        def read(self, timeout_s):
            super().read(timeout_s)
            return encode(Frame(0x82, 200, b"not asked for")) + b"noise"

    with pytest.raises(SilentError):
        Link(Talking(clock, lambda _at, _frame: []), quiet_s=QUIET_S).exchange([Request(FrameKind.READ)])


def test_every_answer_starts_the_waiting_anew(clock):
    """Answers that come one by one, each just inside the limit, repeat nothing."""

    class Slow(Scripted):
        def read(self, timeout_s):
            clock.now += 0.9
            return super().read(timeout_s)

    link = Link(Slow(clock), quiet_s=QUIET_S)
    assert link.exchange(requests(6)) == payloads(6)
    assert link.repeats == 0


def test_a_repeat_starts_the_waiting_anew(clock):
    radio = Scripted(clock, lambda at, frame: [Frame(0x82, frame.sequence, b"x")] if at == 2 else [])
    Link(radio, quiet_s=QUIET_S).exchange([Request(FrameKind.READ)])
    assert 2 * QUIET_S < clock.now < 3 * QUIET_S


def test_an_answer_of_another_kind_or_number_is_none(clock):
    odd = [
        Frame(FrameKind.WRITTEN, 1, b"wrong kind"),
        Frame(FrameKind.BLOCK, 9, b"wrong number"),
        Frame(FrameKind.BLOCK, 1, b"right"),
    ]
    radio = Scripted(clock, lambda _at, _frame: odd)
    link = Link(radio, quiet_s=QUIET_S)
    assert link.exchange([Request(FrameKind.READ)]) == [b"right"]
    assert link.repeats == 0


def test_an_answer_that_comes_twice_counts_once(clock):
    def answers(at, frame):
        return [Frame(0x82, frame.sequence, frame.payload)] * (2 if at == 0 else 1)

    told = []
    link = Link(Scripted(clock, answers), quiet_s=QUIET_S)
    assert link.exchange(requests(3), Watch(lambda *step: told.append(step))) == payloads(3)
    assert told[-1] == (3, 3)


def test_stopping_is_asked_before_every_look(clock):
    radio = Scripted(clock)
    with pytest.raises(CancelledError, match="was stopped"):
        Link(radio, quiet_s=QUIET_S).exchange(requests(9), Watch(cancelled=lambda: len(radio.looks) == 2))
    assert len(radio.looks) == 2


@pytest.mark.parametrize(
    ("payload", "kind", "words"),
    [
        (bytes([LinkRefusal.WRITE_LOCKED]), WriteLockedError, "locked against writing. Unlock it"),
        (bytes([LinkRefusal.FULL]) + b"ignored", RadioFullError, "memory is full"),
        (bytes([LinkRefusal.BAD_ADDRESS]) + "no such pläce".encode(), RadioError, "refused: no such pläce. Switch"),
        (b"", RadioError, "The radio refused. Switch it off and on"),
        (b"\x09\xff", RadioError, "refused: \ufffd. Switch"),
    ],
)
def test_a_refusal_is_said_in_its_own_words(clock, payload, kind, words):
    assert type(refusal(payload)) is kind
    radio = Scripted(clock, lambda _at, frame: [Frame(FrameKind.REFUSED, frame.sequence, payload)])
    with pytest.raises(kind, match=words):
        Link(radio, quiet_s=QUIET_S).exchange([Request(FrameKind.WRITE)])


def test_a_refusal_of_something_else_is_not_ours(clock):
    others = [Frame(FrameKind.REFUSED, 77, bytes([LinkRefusal.FULL])), Frame(FrameKind.BLOCK, 1, b"ours")]
    assert Link(Scripted(clock, lambda _at, _frame: others), quiet_s=QUIET_S).exchange([Request(FrameKind.READ)]) == [
        b"ours"
    ]


def test_who_the_radio_is_or_that_it_is_garbled(clock):
    told = RadioIdentity("tarn16", "1.4", 65_536, 512, "A7")
    radio = Scripted(clock, lambda _at, frame: [Frame(FrameKind.IDENTITY, frame.sequence, pack_identity(told))])
    assert Link(radio, quiet_s=QUIET_S).identify() == told
    garbled = Scripted(clock, lambda _at, frame: [Frame(FrameKind.IDENTITY, frame.sequence, b"12345")])
    with pytest.raises(RadioError, match="garbled"):
        Link(garbled, quiet_s=QUIET_S).identify()


def test_a_frame_is_laid_out_as_described():
    body = struct.pack("<HBB", 3, 0x02, 0x07) + b"abc"
    assert encode(Frame(2, 7, b"abc")) == b"\xa5\x5a" + body + struct.pack("<I", zlib.crc32(body))
    assert encode(Frame(2, 7 + 256, b"abc")) == encode(Frame(2, 7, b"abc"))
    assert len(encode(Frame(0, 0))) == frames.OVERHEAD


def test_kinds_and_refusals_have_the_numbers_described():
    requests = list(range(1, 14))
    assert [kind.value for kind in FrameKind] == [*requests, *(number | 0x80 for number in requests), 0xFF]
    assert [code.value for code in LinkRefusal] == [0, 1, 2, 3, 4, 5, 6]


def test_the_decoder_keeps_no_more_than_it_must_and_counts_what_it_drops():
    decoder = Decoder()
    assert decoder.feed(b"x" * 10_000) == []
    assert len(decoder._buffer) == 1
    assert decoder.spoiled == 0
    good = encode(Frame(1, 2, b"payload"))
    assert decoder.feed(b"noise\xa5" + good) == [Frame(1, 2, b"payload")]
    assert len(decoder._buffer) == 0
    assert decoder.spoiled == 0
    assert decoder.feed(good[:-1] + bytes([good[-1] ^ 1]) + good) == [Frame(1, 2, b"payload")]
    assert decoder.spoiled == 1


def test_a_mark_cut_in_two_is_found():
    decoder, good = Decoder(), encode(Frame(1, 2))
    assert decoder.feed(b"zz" + good[:1]) == []
    assert decoder.feed(good[1:]) == [Frame(1, 2)]


def test_the_longest_payload_passes_and_a_longer_one_is_passed_over_at_once():
    longest = Frame(2, 1, bytes(frames.MOST_PAYLOAD))
    assert Decoder().feed(encode(longest)) == [longest]
    after = encode(Frame(1, 2))
    decoder = Decoder()
    assert decoder.feed(encode(Frame(2, 1, bytes(frames.MOST_PAYLOAD + 1)))[:9] + after) == [Frame(1, 2)]
    assert decoder.spoiled == 1


def test_frames_come_as_soon_as_they_are_whole():
    for length in (0, 1, 9):
        decoder, good = Decoder(), encode(Frame(1, 2, bytes(length)))
        assert [len(decoder.feed(good[at : at + 1])) for at in range(len(good))] == [0] * (len(good) - 1) + [1]


def test_an_identity_with_and_without_a_serial_number():
    assert pack_identity(RadioIdentity("a", "b", 7, 8)) == struct.pack("<IH", 7, 8) + b"a\0b"
    assert unpack_identity(struct.pack("<IH", 7, 8)) == RadioIdentity("", "", 7, 8)
    assert unpack_identity(struct.pack("<IH", 7, 8) + b"a\0b\0c\0d") == RadioIdentity("a", "b", 7, 8, "c")
    assert len(unpack_identity(pack_identity(RadioIdentity("a", "b", 7, 8, "s" * 90))).serial) == 64
    with pytest.raises(ValueError, match="six bytes"):
        unpack_identity(bytes(5))


def test_addresses_are_laid_out_as_described():
    assert frames.read_payload(0x01020304, 0x0506) == b"\x04\x03\x02\x01\x06\x05"
    assert frames.unpack_read(frames.read_payload(70_000, 512)) == (70_000, 512)
    assert frames.block_payload(0x01020304, b"zz") == b"\x04\x03\x02\x01zz"
    assert frames.unpack_block(frames.block_payload(70_000, b"zz")) == (70_000, b"zz")
