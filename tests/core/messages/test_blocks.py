"""Pictures block by block: whatever the air loses, doubles or spoils, what is handed on is whole, or nothing is."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from umbra_awl.core.messages.blocks import MOST_SILENT, IncomingPicture, Outgoing, make_offer
from umbra_awl.core.messages.frames import (
    AirFormError,
    AirKind,
    PictureOffer,
    Text,
    block_payload,
    have_payload,
    offer_payload,
    read_block,
    read_have,
    read_offer,
    read_text,
    text_payload,
)
from umbra_awl.core.transfer.frames import Frame

DATA = st.integers(1, 6_000).flatmap(lambda length: st.just(bytes(at * 7 % 251 for at in range(length))))


def offered(data, to=""):
    return Outgoing(data, make_offer(data, "Q4WRN", to, (160, 120), "coarse"))


def carry(outgoing, incoming, lost, turns=4_000):
    """Let the two speak; `lost` says of each frame whether the air loses it."""
    for _turn in range(turns):
        if not outgoing.under_way:
            return
        answers = [answer for frame in outgoing.turn() if not lost() for answer in incoming.hear(frame)]
        heard = [outgoing.hear(answer) for answer in answers if not lost()]
        if not any(heard):
            outgoing.silence()
            outgoing.again()  # the operator goes on


@given(DATA, st.randoms(use_true_random=False), st.floats(0, 0.6))
def test_with_any_loss_the_picture_arrives_once_and_equal(data, chance, share):
    outgoing, incoming = offered(data), IncomingPicture("Q3AMB", lambda: "")
    carry(outgoing, incoming, lambda: chance.random() < share)
    assert outgoing.state == "done"
    assert [item.data for item in incoming.arrived] == [data]
    assert incoming.parts == {}


@given(DATA, st.integers(0, 30), st.integers(0, 255))
def test_a_spoiled_block_never_makes_a_torn_picture(data, which, value):
    outgoing, incoming = offered(data), IncomingPicture("Q3AMB", lambda: "")
    spoiled = 0
    for _turn in range(400):
        if not outgoing.under_way:
            break
        for frame in outgoing.turn():
            hit = frame.kind == AirKind.BLOCK and spoiled == which
            spoiled += frame.kind == AirKind.BLOCK
            arriving = frame._replace(payload=frame.payload[:-1] + bytes([value])) if hit else frame
            for answer in incoming.hear(arriving):
                outgoing.hear(answer)
    assert [item.data for item in incoming.arrived] == [data]


def test_after_a_break_only_what_is_missing_is_sent():
    data = bytes(range(250)) * 40
    outgoing, incoming = offered(data), IncomingPicture("Q3AMB", lambda: "")
    for _ in range(3):
        for frame in outgoing.turn():
            for answer in incoming.hear(frame):
                outgoing.hear(answer)
    before = len(outgoing.have)
    assert 0 < before < outgoing.offer.blocks
    for _ in range(MOST_SILENT):
        outgoing.turn()
        outgoing.silence()
    assert outgoing.state == "broken"
    assert "goes on from here" in outgoing.reason
    fresh = offered(data)  # the program was started anew
    carry(fresh, incoming, lambda: False)
    assert fresh.state == "done"
    assert fresh.blocks_sent == fresh.offer.blocks - before
    assert incoming.arrived[0].data == data


def test_a_receiver_that_is_not_ready_says_why_and_takes_it_later():
    data, reasons = b"x" * 900, ["no card"]
    outgoing, incoming = offered(data), IncomingPicture("Q3AMB", lambda: reasons[0])
    carry(outgoing, incoming, lambda: False, turns=1)
    assert (outgoing.state, outgoing.reason) == ("refused", "no card")
    reasons[0] = ""
    outgoing.again()
    carry(outgoing, incoming, lambda: False)
    assert outgoing.state == "done"


def test_a_picture_for_somebody_else_is_passed_over():
    outgoing, incoming = offered(b"x" * 50, to="Q9ODL"), IncomingPicture("Q3AMB", lambda: "")
    assert incoming.hear(outgoing.turn()[0]) == []


def test_unfinished_pictures_are_kept_up_to_a_number():
    incoming = IncomingPicture("Q3AMB", lambda: "")
    for at in range(20):
        for frame in offered(bytes([at]) * 500).turn():
            incoming.hear(frame)
    assert len(incoming.parts) == 8


@given(st.binary(max_size=80), st.sampled_from([*AirKind, 0, 255]))
def test_hostile_frames_are_passed_over(payload, kind):
    incoming, outgoing = IncomingPicture("Q3AMB", lambda: ""), offered(b"abc" * 100)
    outgoing.turn()
    for answer in incoming.hear(Frame(kind, 1, payload)):
        assert isinstance(answer, Frame)
    outgoing.hear(Frame(kind, 1, payload))
    assert incoming.arrived == []
    for read in (read_offer, read_text, read_block, read_have):
        try:
            read(payload)
        except AirFormError as error:
            assert str(error).endswith(".")


@pytest.mark.parametrize(
    "fields",
    [
        {"length": 0}, {"length": 10**9}, {"blocks": 0}, {"blocks": 9}, {"block": 0}, {"sha256": "zz"}, {"sha256": "é" * 64},
        {"width": 0}, {"height": 9_999}, {"call": "Q" * 40},
    ],
)  # fmt: skip
def test_an_offer_that_cannot_be_is_refused(fields):
    from msgspec.structs import replace

    offer = make_offer(b"x" * 450, "Q4WRN", "", (160, 120), "coarse")
    with pytest.raises(AirFormError):
        read_offer(offer_payload(replace(offer, **fields)))


@pytest.mark.parametrize(
    "fields",
    [
        {"length": 600_000, "blocks": 3_000}, {"length": 4_000, "blocks": 1, "block": 4_000}, {"width": 4_096, "height": 4_096},
        {"length": 4_096, "blocks": 4_096, "block": 1}, {"width": 1, "height": 1}, {"call": "Q" * 16, "to": "Q" * 16},
    ],
)  # fmt: skip
def test_an_offer_at_the_edge_of_what_is_taken_is_taken(fields):
    from msgspec.structs import replace

    offer = replace(make_offer(b"x" * 450, "Q4WRN", "", (160, 120), "coarse"), **fields)
    assert read_offer(offer_payload(offer)) == offer


@pytest.mark.parametrize(
    "fields",
    [
        {"length": 600_001, "blocks": 3_001}, {"length": 4_001, "blocks": 1, "block": 4_001}, {"width": 4_097}, {"height": 4_097},
        {"length": 4_097, "blocks": 4_097, "block": 1}, {"height": 0}, {"call": "Q" * 17}, {"to": "Q" * 17},
    ],
)  # fmt: skip
def test_an_offer_beyond_the_edge_is_not(fields):
    from msgspec.structs import replace

    offer = replace(make_offer(b"x" * 450, "Q4WRN", "", (160, 120), "coarse"), **fields)
    with pytest.raises(AirFormError):
        read_offer(offer_payload(offer))


def test_texts_and_answers_are_taken_up_to_their_edge_and_no_further():
    assert read_text(text_payload(Text("Q" * 40, "x" * 2_000, "Q" * 40, "H" * 40))).text == "x" * 2_000
    for text in (Text("Q" * 41, "x"), Text("Q", "x" * 2_001), Text("Q", "x", "Q" * 41), Text("Q", "x", "", "H" * 41)):
        with pytest.raises(AirFormError):
            read_text(text_payload(text))
    assert read_have(have_payload(b"abcd", set(), 1)) == (b"abcd", set())
    assert read_have(b"abcd\0\0") == (b"abcd", set())
    with pytest.raises(AirFormError):
        read_have(b"abcd\0")


def test_the_numbers_of_the_frames_are_the_published_ones():
    assert {kind.name: int(kind) for kind in AirKind} == {
        "KEY": 0x21, "UNKEY": 0x22, "TEXT": 0x24, "OFFER": 0x25, "BLOCK": 0x26, "POLL": 0x27, "END": 0x28,
        "KEYED": 0xA1, "SENT": 0xA2, "READY": 0xA5, "HAVE": 0xA7, "DONE": 0xA8, "REFUSED": 0xFE,
    }  # fmt: skip


def sent_to(outgoing, incoming):
    return [answer for frame in outgoing.turn() for answer in incoming.hear(frame)]


def test_after_silence_it_asks_before_it_sends_again_and_gives_up_in_the_end():
    outgoing, incoming = offered(b"x" * 4_000), IncomingPicture("Q3AMB", lambda: "")
    (ready,) = sent_to(outgoing, incoming)
    assert outgoing.hear(ready)
    assert [frame.kind for frame in outgoing.turn()] == [AirKind.BLOCK] * 16 + [AirKind.POLL]
    outgoing.silence()
    assert [frame.kind for frame in outgoing.turn()] == [AirKind.POLL]
    assert outgoing.repeats == 0
    for _ in range(MOST_SILENT - 2):
        outgoing.silence()
    assert outgoing.state == "sending"
    outgoing.silence()
    assert outgoing.state == "broken"
    outgoing.again()
    assert outgoing.state == "offering"
    other = offered(b"y" * 300)
    other.turn()
    assert not other.hear(ready)  # an answer to another picture
    assert other.state == "offering"


def test_an_answer_is_taken_once_and_a_finished_picture_is_finished():
    outgoing, incoming = offered(b"x" * 300), IncomingPicture("Q3AMB", lambda: "")
    for _ in range(2):
        for answer in sent_to(outgoing, incoming):
            assert outgoing.hear(answer)
    assert outgoing.state == "ending"
    (done,) = sent_to(outgoing, incoming)
    assert done.kind == AirKind.DONE
    assert outgoing.hear(done)
    outgoing.again()
    assert outgoing.state == "done"
    assert outgoing.turn() == []
    assert incoming.hear(Frame(AirKind.POLL, 9, outgoing.offer.key)) == [Frame(AirKind.DONE, 9, outgoing.offer.key)]
    assert incoming.hear(Frame(AirKind.BLOCK, 9, block_payload(outgoing.offer.key, 0, b"x"))) == []


@pytest.mark.parametrize(("number", "data"), [(2, b"x" * 100), (0, b"x" * 199), (1, b"x" * 99), (9, b"")])
def test_a_block_that_cannot_be_of_the_picture_is_left(number, data):
    outgoing, incoming = offered(b"x" * 300), IncomingPicture("Q3AMB", lambda: "")
    sent_to(outgoing, incoming)
    incoming.hear(Frame(AirKind.BLOCK, 1, block_payload(outgoing.offer.key, number, data)))
    (have,) = incoming.hear(Frame(AirKind.POLL, 2, outgoing.offer.key))
    assert read_have(have.payload)[1] == set()


@given(st.sets(st.integers(0, 99)), st.binary(min_size=4, max_size=4))
def test_what_is_there_is_told_bit_by_bit(held, key):
    assert read_have(have_payload(key, held, 100)) == (key, held)


@given(st.binary(min_size=4, max_size=4), st.integers(0, 65_535), st.binary(max_size=200))
def test_a_block_says_which_it_is(key, number, data):
    assert read_block(block_payload(key, number, data)) == (key, number, data)


def test_a_text_comes_out_as_it_went_in():
    text = Text("Q4WRN", "Ünder way, 73 – see “you”", "Q3AMB", "HN46mm")
    assert read_text(text_payload(text)) == text
    with pytest.raises(AirFormError, match="longer"):
        read_text(text_payload(Text("Q4WRN", "x" * 3_000)))


def test_the_offer_names_the_picture_by_its_checksum():
    offer = make_offer(b"abc", "Q4WRN", "", (1, 1), "coarse")
    assert offer.key.hex() == offer.sha256[:8]
    assert isinstance(offer, PictureOffer)
