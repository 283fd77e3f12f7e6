"""The data port word for word: what is keyed, in which order, what is waited for, and what each end of a picture says."""

import random
import time

import pytest

from umbra_awl.core.messages.blocks import Outgoing, make_offer
from umbra_awl.core.messages.errors import AirError, BrokenOffError, NotTakenError
from umbra_awl.core.messages.frames import AirKind, Text, have_payload
from umbra_awl.core.messages.sending import AirPort, KeyingPace, Watched, send_picture, send_text
from umbra_awl.core.transfer.errors import CancelledError, TransferError
from umbra_awl.core.transfer.frames import Decoder, Frame, encode

DATA = random.Random(3).randbytes(4_000)


class Line:
    """A radio on a line that writes down what it is told; `says` gives the answer to each frame, `far` that to each turn."""

    def __init__(self, says=None, far=list):
        self.heard, self.read_as, self._decoder, self._out = [], [], Decoder(), b""
        self._says, self._far = says or usual, far

    def write(self, data):
        for frame in self._decoder.feed(data):
            self.heard.append(frame)
            self._out += b"".join(map(encode, self._says(frame)))
            if frame.kind == AirKind.UNKEY:
                self._out += b"".join(map(encode, self._far()))

    def read(self, timeout_s):
        self.read_as.append(timeout_s)
        out, self._out = self._out, b""
        return out

    def kinds(self):
        return [AirKind(frame.kind).name for frame in self.heard]


def usual(frame):
    if frame.kind == AirKind.KEY:
        return [Frame(AirKind.KEYED, 0)]
    return [] if frame.kind == AirKind.UNKEY else [Frame(AirKind.SENT, 0)]


def port(line, overheard=lambda _frame: None, pace=KeyingPace(0.2, 0.05)):  # noqa: B008
    return AirPort(line, lambda: "", pace, overheard)


def picture(size=4_000):
    return Outgoing(DATA[:size], make_offer(DATA[:size], "Q4WRN", "Q3AMB", (160, 120), "coarse"))


def test_a_text_is_keyed_sent_and_let_go_of():
    line = Line()
    send_text(port(line), Text("Q4WRN", "hello"))
    assert line.kinds() == ["KEY", "TEXT", "UNKEY"]
    assert [frame.sequence for frame in line.heard] == [0, 1, 0]


@pytest.mark.parametrize("how", ["no answer to KEY", "refuses", "does not send", "dies"])
def test_a_radio_that_fails_is_told_and_never_left_keyed(how):
    def says(frame):
        if how == "no answer to KEY":
            return []
        if how == "refuses" and frame.kind == AirKind.KEY:
            return [Frame(AirKind.KEYED, 0, b"the channel is busy")]
        if how == "does not send" and frame.kind == AirKind.TEXT:
            return []
        if how == "dies" and frame.kind == AirKind.TEXT:
            raise TransferError("The cable was pulled.")
        return usual(frame)

    line = Line(says)
    begun = time.monotonic()
    with pytest.raises(AirError) as told:
        send_text(port(line), Text("Q4WRN", "hello"))
    words = {
        "no answer to KEY": "does not answer on its data port",
        "refuses": "does not key: the channel is busy",
        "does not send": "does not answer on its data port",
        "dies": "cable was pulled",
    }
    assert words[how] in str(told.value)
    assert time.monotonic() - begun < 5
    assert ("TEXT" in line.kinds()) == (how in {"does not send", "dies"})
    assert line.kinds()[-1] == ("UNKEY" if how in {"does not send", "dies"} else "KEY")


def test_a_line_that_cannot_be_read_is_the_airs_error():
    class Broken(Line):
        def read(self, _timeout_s):
            raise TransferError("The cable was pulled.")

    with pytest.raises(AirError, match="pulled"):
        port(Broken()).listen()


def test_what_comes_between_is_heard_later_once_and_in_order():
    stray = [Frame(AirKind.TEXT, at, b"x") for at in range(4)]

    def says(frame):
        if frame.kind == AirKind.KEY:
            return [stray[0], Frame(AirKind.KEYED, 0), stray[1]]
        return [Frame(AirKind.SENT, 0), stray[2]] if frame.kind == AirKind.TEXT else []

    heard = []
    line = Line(says, lambda: [stray[3]])
    air = port(line, heard.append)
    send_text(air, Text("Q4WRN", "hello"))
    assert not heard
    air.listen()
    assert heard == stray
    air.listen()
    assert heard == stray


def test_the_far_sides_answer_ends_the_wait_and_what_follows_it_is_kept():
    sent, after, heard = picture(), Frame(AirKind.TEXT, 9, b"y"), []
    have = Frame(AirKind.HAVE, 0, have_payload(sent.offer.key, set(), sent.offer.blocks))
    before = Frame(AirKind.TEXT, 8, b"y")
    line = Line(far=lambda: [before, have, after])
    air = port(line, heard.append, KeyingPace(0.2, 5.0))
    air.send_turn(sent.turn())
    begun = time.monotonic()
    air.answer(sent, lambda: False)
    assert time.monotonic() - begun < 2
    assert sent.state == "sending"
    assert heard == [before]
    air.listen()
    assert heard == [before, after]


def test_silence_and_a_stop_end_the_wait():
    sent = picture()
    air = port(Line(), pace=KeyingPace(0.2, 0.05))
    air.send_turn(sent.turn())
    silent = []
    sent.silence = lambda: silent.append(1)
    begun = time.monotonic()
    air.answer(sent, lambda: False)
    waited = time.monotonic() - begun
    assert silent == [1]
    assert 0.04 < waited < 2
    slow = port(Line(), pace=KeyingPace(0.2, 60.0))
    slow.send_turn(sent.turn())
    begun = time.monotonic()
    slow.answer(sent, lambda: True)
    assert time.monotonic() - begun < 5


def far_side(sent, *, refuses=False, loses=0):
    """A far side that holds what arrives; the first `loses` blocks of a turn are lost to it."""
    held = set()

    def answer(line):
        blocks = [frame for frame in line.heard if frame.kind == AirKind.BLOCK]
        if refuses:
            return [Frame(AirKind.REFUSED, 0, sent.offer.key + b"no room")]
        held.update(range(max(0, len(blocks) - loses)))
        if line.heard[-2].kind == AirKind.END:
            return [Frame(AirKind.DONE, 0, sent.offer.key)]
        return [
            Frame(
                AirKind.HAVE, 0, have_payload(sent.offer.key, held & set(range(sent.offer.blocks)), sent.offer.blocks)
            )
        ]

    return answer


def test_a_picture_goes_over_whole_and_its_progress_is_told():
    sent, told = picture(), []
    line = Line()
    line._far = lambda: far_side(sent)(line)
    send_picture(port(line), sent, Watched(lambda *figures: told.append(figures)))
    assert sent.state == "done"
    assert line.kinds().count("BLOCK") == sent.offer.blocks == 20
    assert told[0] == (0, 20, 0)
    assert told[-1] == (20, 20, 20)
    assert [have for have, _all, _sent in told] == sorted(have for have, _all, _sent in told)
    assert line.kinds().count("KEY") == line.kinds().count("UNKEY") == len(told)


def test_a_picture_that_is_stopped_keys_no_more():
    sent, line = picture(), Line()
    line._far = lambda: far_side(sent)(line)
    stop = []
    with pytest.raises(CancelledError, match="goes on from here"):
        send_picture(port(line), sent, Watched(lambda *_figures: stop.append(1), lambda: bool(stop)))
    assert line.kinds().count("KEY") == 1


def test_a_picture_that_is_not_taken_says_so_and_one_that_is_never_answered_too():
    sent, line = picture(), Line()
    line._far = lambda: [Frame(AirKind.REFUSED, 0, sent.offer.key + b"no room")]
    with pytest.raises(NotTakenError, match=r"does not take it: .*room"):
        send_picture(port(line), sent)
    assert line.kinds().count("KEY") == 1
    silent = picture()
    with pytest.raises(BrokenOffError) as told:
        send_picture(port(Line(), pace=KeyingPace(0.2, 0.01)), silent)
    assert str(told.value) == silent.reason


def test_a_picture_that_arrives_block_by_block_is_never_given_up():
    """The budget of idle turns is whole again with every block that is new at the far side."""
    sent, line, held = picture(), Line(), set()

    def far():
        if line.heard[-2].kind == AirKind.END:
            return [Frame(AirKind.DONE, 0, sent.offer.key)]
        missing = [at for at in range(sent.offer.blocks) if at not in held]
        turns = line.kinds().count("KEY")
        if missing and turns % 3 == 0:
            held.add(missing[0])
        return [Frame(AirKind.HAVE, 0, have_payload(sent.offer.key, held, sent.offer.blocks))]

    line._far = far
    sent.silence = lambda: None
    air = port(line)
    air.send_turn([Frame(AirKind.READY, 1)])
    whole = []
    original = air.progressed
    air.progressed = lambda: (whole.append(1), original())
    with pytest.raises(BrokenOffError, match="again and again"):  # the other bound: blocks were said too often
        send_picture(air, sent)
    assert len(held) > 2
    assert len(whole) == 2 + len(held)
