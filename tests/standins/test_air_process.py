"""Texts and pictures over a real byte channel between two simulated radios; a sender that dies leaves nobody keyed."""

import os
import random
import signal
import subprocess
import sys
import time
from pathlib import Path

import pytest

from umbra_awl.core.messages.blocks import IncomingPicture, Outgoing, make_offer
from umbra_awl.core.messages.errors import AirError, BrokenOffError, NotTakenError
from umbra_awl.core.messages.frames import AirKind, Text, read_text
from umbra_awl.core.messages.sending import AirPort, KeyingPace, Watched, send_picture, send_text
from umbra_awl.core.transfer.errors import CancelledError
from umbra_awl.core.transfer.frames import Frame
from umbra_awl.core.transfer.serial_line import SerialLine
from umbra_awl.standins.launch import AirProcess

QUICK = KeyingPace(60.0, 0.35)
PICTURE = random.Random(7).randbytes(9_000)


@pytest.fixture
def air(tmp_path):
    with AirProcess(tmp_path / "air.port", tmp_path / "far", speed=60.0, watchdog_s=0.5) as process:
        yield process


@pytest.fixture
def port(air):
    line = SerialLine(str(air.port), 9_600)
    heard = []
    made = AirPort(line, lambda: "", QUICK, heard.append)
    made.heard = heard
    yield made
    line.close()


def outgoing(data=PICTURE):
    return Outgoing(data, make_offer(data, "Q4WRN", "Q3AMB", (320, 240), "even"))


def test_a_text_goes_out_and_an_answer_comes_back(air, port):
    send_text(port, Text("Q4WRN", "Where are you?", "Q3AMB", "HN46"))
    assert air.wait_for("text")["position"] == "HN46"
    until = time.monotonic() + 60
    while not port.heard and time.monotonic() < until:
        port.listen(0.1)
    assert read_text(port.heard[0].payload) == Text("Q3AMB", "Copied: Where are you?", "Q4WRN")


def test_with_a_fifth_lost_and_a_break_in_the_middle_it_arrives_equal(air, port):
    air.order("loss", share=0.2)
    air.order("break_at", blocks=40)
    sent, told = outgoing(), []
    with pytest.raises(BrokenOffError):
        send_picture(port, sent, Watched(lambda *now: told.append(now)))
    assert air.wait_for("away")
    assert len(sent.have) < sent.offer.blocks
    assert air.call == "Q3AMB"
    air.order("away", on=False)
    before = len(sent.have)
    sent.again()
    assert len(sent.have) == before, "what has arrived is not sent anew"
    send_picture(port, sent, Watched(lambda *now: told.append(now)))
    assert Path(air.wait_for("picture")["file"]).read_bytes() == PICTURE
    assert told[-1][0] == sent.offer.blocks


def test_a_far_side_without_a_card_refuses_and_takes_it_when_it_is_in(air, port):
    air.order("card", on=False)
    sent = outgoing(PICTURE[:500])
    with pytest.raises(NotTakenError, match="no memory card"):
        send_picture(port, sent)
    air.order("card", on=True)
    sent.again()
    send_picture(port, sent)
    assert air.wait_for("picture")["bytes"] == 500


def test_stopping_lets_go_of_the_key(air, port):
    seen = []
    with pytest.raises(CancelledError):
        send_picture(port, outgoing(), Watched(lambda *now: seen.append(now), lambda: len(seen) >= 2))
    port.listen(0.2)
    states = [air.wait_for("keyed") for _ in range(4)]
    assert states[-1]["on"] is False
    assert states[-1]["by"] == "computer"


def test_a_radio_that_does_not_key_is_told(air, port):
    air.order("inhibit", why="receive-only channel")
    with pytest.raises(AirError, match="does not key: receive-only"):
        send_text(port, Text("Q4WRN", "hello"))


def test_a_picture_comes_in(air, port, tmp_path):
    (tmp_path / "theirs.jpg").write_bytes(PICTURE[:2_000])
    incoming = IncomingPicture("Q4WRN", lambda: "")
    air.order("show", file=str(tmp_path / "theirs.jpg"), to="Q4WRN")
    until = time.monotonic() + 60
    while not incoming.arrived and time.monotonic() < until:
        port.listen(0.1)
        answers = [answer for frame in port.heard for answer in incoming.hear(frame)]
        port.heard.clear()
        if answers:
            port.send_turn(answers)
    assert incoming.arrived[0].data == PICTURE[:2_000]


SENDER = """
import sys
from umbra_awl.core.messages.sending import AirPort
from umbra_awl.core.messages.frames import AirKind
from umbra_awl.core.transfer.frames import Frame
from umbra_awl.core.transfer.serial_line import SerialLine
port = AirPort(SerialLine(sys.argv[1], 9600), lambda: "")
print("sending", flush=True)
port.send_turn([Frame(AirKind.BLOCK, 1, bytes(200))] * 100_000)
"""


def test_a_sender_that_is_killed_leaves_the_radio_unkeyed_by_its_own_watchdog(air):
    sender = subprocess.Popen([sys.executable, "-c", SENDER, str(air.port)], stdout=subprocess.PIPE, text=True)
    assert sender.stdout.readline() == "sending\n"
    assert air.wait_for("keyed")["on"] is True
    time.sleep(0.2)
    os.kill(sender.pid, signal.SIGKILL)
    sender.wait()
    sender.stdout.close()
    let_go = air.wait_for("keyed")
    assert (let_go["on"], let_go["by"]) == (False, "watchdog")


def test_what_is_sent_without_keying_goes_nowhere(air, port):
    port._put(Frame(AirKind.TEXT, 1, b"{}"))
    port.listen(0.3)
    assert port.heard == []
