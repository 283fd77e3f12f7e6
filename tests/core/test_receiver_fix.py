"""Positions of a receiver: sentences with their checksums, gpsd's reports, and far sides that never make progress."""

import contextlib
import os
import pty
import socket
import threading
import time

import pytest
from hypothesis import given
from hypothesis import strategies as st

from umbra_awl.core.directory.receiver_fix import FixError, fix_of_gpsd, fix_of_port, gpsd_fix, nmea_fix

GGA = "$GPGGA,101530.00,4628.2000,N,03106.6000,W,1,08,1.0,12.0,M,,M,,*{}"
RMC = "$GNRMC,101530.00,A,4628.2000,S,03106.6000,E,0.0,,011226,,,A*{}"


def summed(text):
    total = 0
    for char in text[1 : text.index("*")]:
        total ^= ord(char)
    return text.format(f"{total:02X}")


def test_both_sentences_tell_degrees_north_and_east():
    fix = nmea_fix(summed(GGA) + "\r\n")
    assert (fix.lat, fix.lon, fix.moment) == (pytest.approx(46.47), pytest.approx(-31.11), "101530.00")
    fix = nmea_fix(summed(RMC))
    assert (fix.lat, fix.lon) == (pytest.approx(-46.47), pytest.approx(31.11))


@pytest.mark.parametrize(
    "text",
    [
        "", "$GPGSV,1,1*00", summed(GGA)[:-2] + "00", summed(GGA.replace(",1,08", ",0,00")),
        summed(RMC.replace(",A,4628", ",V,4628")),
        summed(GGA.replace("4628.2000", "")), summed(GGA.replace(",N,", ",,")), summed(GGA.replace("4628.2000", "9928.2000")),
    ],
)  # fmt: skip
def test_what_is_no_fix_is_none(text):
    assert nmea_fix(text) is None


def test_gpsd_tells_a_fix_only_with_one():
    assert gpsd_fix('{"class":"TPV","mode":3,"lat":46.47,"lon":-31.11,"time":"2026-12-01T10:15:30Z"}').lat == 46.47
    for text in (
        '{"class":"TPV","mode":1,"lat":1,"lon":2}', '{"class":"SKY"}', "[]", "{", '{"class":"TPV","mode":3,"lat":"x","lon":2}',
        '{"class":"TPV","mode":3,"lat":true,"lon":2}', '{"class":"TPV","mode":3,"lat":91,"lon":2}', "[" * 5_000,
    ):  # fmt: skip
        assert gpsd_fix(text) is None


@given(st.text(max_size=200))
def test_noise_is_never_a_position_and_never_an_error(text):
    assert nmea_fix(text) is None
    assert gpsd_fix(text) is None


@pytest.fixture
def daemon():
    """A gpsd of a test: says what it is told to, or nothing."""
    server = socket.create_server(("127.0.0.1", 0))
    server.settimeout(0.2)  # closing a socket does not wake who waits at it
    said, over = [], threading.Event()

    def serve():
        while not over.is_set():
            try:
                line, _where = server.accept()
            except TimeoutError:
                continue
            with line, contextlib.suppress(OSError):  # the other side may have had enough
                assert b"WATCH" in line.recv(200)
                for text in said:
                    line.sendall(text)
                over.wait(3)

    thread = threading.Thread(target=serve)
    thread.start()
    yield server.getsockname(), said
    over.set()
    thread.join()
    server.close()


def test_the_first_fix_of_gpsd_is_taken(daemon):
    address, said = daemon
    said += [b'{"class":"VERSION"}\n{"class":"TPV","mode":1}\n{"cla', b'ss":"TPV","mode":2,"lat":46.5,"lon":-31.0}\n']
    assert fix_of_gpsd(5.0, address)[:2] == (46.5, -31.0)


def test_a_gpsd_that_says_nothing_or_is_not_there_is_told_in_time(daemon):
    address, said = daemon
    said += [b"{" * 20_000]
    begun = time.monotonic()
    with pytest.raises(FixError, match="free view of the sky"):
        fix_of_gpsd(0.8, address)
    assert time.monotonic() - begun < 5
    with pytest.raises(FixError, match="does not answer"):
        fix_of_gpsd(0.5, ("127.0.0.1", 1))


def test_a_receiver_on_a_port_is_read_and_one_that_is_none_is_told():
    ours, theirs = pty.openpty()
    name, over = os.ttyname(theirs), threading.Event()

    def talk():
        while not over.wait(0.1):
            os.write(ours, (summed(GGA.replace(",1,08", ",0,00")) + "\r\n" + summed(GGA) + "\r\n").encode())

    talker = threading.Thread(target=talk)
    talker.start()
    try:
        assert fix_of_port(name, 8.0).lat == pytest.approx(46.47)
    finally:
        over.set()
        talker.join()
    with pytest.raises(FixError, match="free view"):
        fix_of_port(name, 0.8)
    with pytest.raises(FixError, match="cannot be read"):
        fix_of_port("/dev/no-such-port", 0.4)
    os.close(ours)
    os.close(theirs)


def test_it_ends_when_it_is_called_off(daemon):
    address, _said = daemon
    with pytest.raises(FixError):
        fix_of_gpsd(30.0, address, cancelled=lambda: True)
