"""Logs in ten habits of writing, three of each: what is wrong in them and who spoke, in words that no rule was written for."""

from datetime import date
from typing import NamedTuple

import pytest
from hypothesis import given
from hypothesis import strategies as st

from umbra_awl.core.hotspot.logs.reading import own_overs, read_log
from umbra_awl.core.hotspot.logs.rules import WORDED, pattern_of, shipped_rules, shipped_wordings

TODAY = date(2026, 12, 2)


class Habit(NamedTuple):
    """A log in somebody's habit: its text, the faults in it, and its calls as caller, whither, seconds, slot, BER, loss, way."""

    text: str
    faults: str
    calls: tuple[tuple[str, str, float, int, float | None, float | None, str], ...] = ()


HABITS = {
    "levelled, key=value": (
        Habit(
            "2026-11-30T20:14:05.123Z [info] dmr: voice start src=9994217(Q9ODL) dst=TG 99940 ts=2\n"
            "2026-11-30T20:14:17.501Z [info] dmr: voice end src=9994217(Q9ODL) dst=TG 99940 ts=2 dur=12.4s ber=0.3% lost=0%\n"
            "2026-11-30T20:15:05.123Z [warn] net: master rejected credentials\n",
            "login-password", (("Q9ODL", "99940", 12.4, 2, 0.3, 0.0, ""),),
        ),
        Habit("level=error msg='no route to host'\n"
            "level=error msg='getaddrinfo: name or service not known'\n", "no-network not-resolved"),
        Habit("level=info msg='modem opened'\nlevel=warn msg='firmware is outdated' level=warn\n", "firmware-old"),
    ),
    "German": (
        Habit(
            "30.11.2026 20:14:05 RX Q9ODL -> 99940 (Slot 2) 12,4 Sek. BER 0,3 % Verlust 0 %\n"
            "30.11.2026 20:15:05 Anmeldung am Master abgelehnt: falsches Kennwort\n"
            "30.11.2026 20:16:05 Verbindung zum Master verloren\n",
            "login-password link-lost", (("Q9ODL", "99940", 12.4, 2, 0.3, 0.0, ""),),
        ),
        Habit("Funkmodul antwortet nicht\nUhr geht nach, 812 s\n"
            "keine Betriebsart eingeschaltet\n", "wrong-modem clock-wrong no-mode"),
        Habit("Funk: Q4WRN an Gruppe 99900, 8 Sekunden, Bitfehler 2,1 %\nSchnittstelle belegt\n", "port-busy",
              (("Q4WRN", "99900", 8.0, 0, 2.1, None, "call-heard"),)),
    ),
    "journal of a service": (
        Habit(
            "Nov 30 20:14:05 bench-spot spotd[412]: RF header from Q9ODL to CQCQCQ via Q4WRN D\n"
            "Nov 30 20:14:17 bench-spot spotd[412]: RF end of transmission Q9ODL, 12.4 seconds, BER: 4.2%\n"
            "Nov 30 20:15:05 bench-spot spotd[412]: modem not responding, giving up\n"
            "Nov 30 20:16:05 bench-spot kernel: undervoltage detected\n",
            "wrong-modem power-low", (("Q9ODL", "CQCQCQ", 12.4, 0, 4.2, None, "call-heard"),),
        ),
        Habit("Nov 30 20:15:05 x spotd[4]: write failed: No space left on device\n"
            "Nov 30 20:15:06 x ntpd: ntp: no server reached\n",
              "disk-full clock-wrong"),
        Habit("Nov 30 20:15:05 x spotd[4]: tx frequency 435.500 MHz is outside the band\n", "frequency-refused"),
    ),
    "records a line": (
        Habit(
            '{"ts": 1796069645, "ev": "call", "from": "Q9ODL", "to": 99940, "slot": 2, "secs": 12.4, "ber": 0.3, "loss": 0}\n'
            '{"ts": 1796069705, "ev": "error", "msg": "could not resolve velmar.lattice.invalid"}\n'
            '{"ts": 1796069765, "ev": "error", "msg": "another client with the same id is logged in"}\n',
            "not-resolved login-twice", (("Q9ODL", "99940", 12.4, 2, 0.3, 0.0, ""),),
        ),
        Habit('{"time": "2026-11-30T20:14:05Z", "level": "warn", "text": "your account is inactive"}\n', "login-account"),
        Habit('{"when": "2026-11-30 20:14:05", "mode": "c4fm", "user": "Q4WRN", "room": 40001, "duration": "3 s", '
              '"side": "rf"}\n',
              "", (("Q4WRN", "40001", 3.0, 0, None, None, "call-heard"),)),
    ),
    "beginning and end apart": (
        Habit(
            "M: 2026-11-30 20:15:05.000 DMR slot 2 received network voice header from Q9ODL to TG 99940\n"
            "M: 2026-11-30 20:15:12.000 DMR slot 2 network end of voice, 7.0 s, 31% packet loss\n"
            "E: 2026-11-30 20:16:05.000 Cannot open serial port /dev/ttyAMA0: no such file\n",
            "wrong-modem", (("Q9ODL", "99940", 7.0, 2, None, 31.0, "call-network"),),
        ),
        Habit("call started by Q4WRN on slot 1 to group 99902\ncall started by Q9KRA on slot 2 to group 99903\n"
              "call ended on slot 1 after 9 s, BER 1.5 %\n", "", (("Q4WRN", "99902", 9.0, 1, 1.5, None, "call-heard"),)),
        Habit("transmission begins: Q9ODL, room 40001\ntransmission ends, 4.5 sec\n"
            "link to room 40001 lost (timeout)\n", "link-lost",
              (("Q9ODL", "40001", 4.5, 0, None, None, ""),)),
    ),
    "whole sentences": (
        Habit(
            "[20:14] Q9ODL talked 12 s on group 99940 (left slot), errors 0.3 %\n"
            "[20:15] radio signal is off by 480 Hz, bit errors 9 %\n"
            "[20:16] duplicate ID on the network, we were thrown out\n[20:17] temperature 84 C, throttled\n",
            "off-frequency login-twice too-hot", (("Q9ODL", "99940", 12.0, 0, 0.3, None, "call-heard"),),
        ),
        Habit("I heard Q4WRN over the air for 6 seconds on group 9.\nNo reply from the master in 30 s.\n", "link-lost",
              (("Q4WRN", "9", 6.0, 0, None, None, "call-heard"),)),
        Habit("The server says: no such user Q4WRN.\nThe ID 999421 is not registered.\n", "login-account login-id"),
    ),
    "seconds since 1970": (
        Habit(
            "1796069645.120 spot: C4FM Q9ODL DG-ID 10 -> room 40001 (13 sec)\n"
            "1796069705.220 spot: link to room 40001 lost (timeout)\n"
            "1796069735.220 spot: disk full, cannot write log\n",
            "link-lost disk-full", (("Q9ODL", "40001", 13.0, 0, None, None, ""),),
        ),
        Habit("1796069645 authentication failed\n1796069646 login to the master failed\n", "login-password login-refused"),
        Habit("1796069645 radio: Q4WRN to TG 99900 3.5 s loss 2 % BER 1.1 %\n", "",
              (("Q4WRN", "99900", 3.5, 0, 1.1, 2.0, "call-heard"),)),
    ),
    "French and Spanish": (
        Habit("30/11/2026 20:14:05 appel de Q9ODL vers groupe 99940, 12,4 secondes, pertes 3 %\n"
            "mot de passe refusé par le serveur\n",
              "login-password", (("Q9ODL", "99940", 12.4, 0, None, 3.0, ""),)),
        Habit("contraseña incorrecta\nservidor desconocido\nsin red\n", "login-password not-resolved no-network"),
        Habit("la carte ne répond pas\nfréquence interdite\naucun mode actif\n", "wrong-modem frequency-refused no-mode"),
    ),
    "capitals and arrows": (
        Habit("RX > Q9ODL => TG99940 TS1 5.0S BER=2.2%\nERR PASSWORD MISMATCH\n", "login-password",
              (("Q9ODL", "99940", 5.0, 1, 2.2, None, "call-heard"),)),
        Habit("ERR DHCP TIMED OUT\nERR DNS FAILED\n", "no-network not-resolved"),
        Habit("NET Q9KRA => TG99941 TS2 3.0S LOSS=22%\nWARN CLOCK SKEW 3600 S\n", "clock-wrong",
              (("Q9KRA", "99941", 3.0, 2, None, 22.0, "call-network"),)),
    ),
    "in the past tense, healthy": (
        Habit("login failed\nlogin ok\n", ""),
        Habit("wlan0: deauthenticated by access point\nwlan0: associated\nbad password\nregistered at the master\n", ""),
        Habit("modem timeout\nboard detected: single-70\nretry in 30 s\nQ4WRN: no call heard for 300 s\n", ""),
    ),
}  # fmt: skip
EACH = [(name, at) for name, logs in HABITS.items() for at in range(len(logs))]


@pytest.mark.parametrize(("name", "at"), EACH)
def test_thirty_logs_in_ten_habits(name, at):
    habit = HABITS[name][at]
    found = read_log(habit.text, today=TODAY)
    assert {item.rule.meant for item in found.faults} == set(habit.faults.split())
    said = [
        (item.call, item.to, item.seconds, item.slot, item.ber, item.loss, item.way) for item in reversed(found.calls)
    ]
    assert said == list(habit.calls)


def test_moments_in_their_habits():
    moments = {
        HABITS[name][0].text.splitlines()[-1][:12]: read_log(HABITS[name][0].text, today=TODAY).calls
        for name, at in EACH
        if not at
    }
    shown = {calls[0].when for calls in moments.values() if calls}
    assert {
        "2026-11-30 20:14:17+00:00",
        "2026-11-30 20:14:05",
        "2026-11-30 20:14:17",
        "20:14",
        "2026-11-30 20:14:05+00:00",
    } <= shown


def test_every_wording_reads_its_own_lines_and_means_its_rule():
    for item in shipped_wordings():
        for line in item.examples:
            assert pattern_of(item.pattern).search(line) is not None, line
            found = read_log(line)
            meant = [told.rule.meant for told in (*found.faults, *found.states)]
            assert meant == [item.of], line


def test_a_wording_is_of_a_rule_that_there_is_and_says_what_it_says():
    rules = {rule.key: rule for rule in shipped_rules().rule}
    for rule in shipped_rules().rule:
        if WORDED in rule.key:
            base = rules[rule.stands_for]
            assert (rule.means, rule.todo, rule.after, rule.cured) == (base.means, base.todo, base.after, base.cured)


@pytest.mark.parametrize("line", [
    "Q4WRN: no call heard for 300 s", "logged in as Q4WRN, retry in 30 s", "linked to 99900 by Q4WRN",
              "call to the master failed after 3 s",
    "voice 12 s on group 99900", "C4FM 12 s room 40001", "host Q4WRN up 3600 s",
])  # fmt: skip
def test_what_is_no_call_is_none(line):
    assert not read_log(line).calls


def test_who_is_passed_through_is_not_who_speaks_and_nothing_is_heard_by_guess():
    found = read_log("call via Q4WRN from Q9ODL to group 99900, 5 s\n2026-11-30 20:00:00 Q4WRN to TG 99900, 5 s\n")
    assert [item.call for item in found.calls] == ["Q4WRN", "Q9ODL"]
    assert not own_overs(found, ["Q4WRN"], [])


@given(
    st.lists(
        st.sampled_from([line for logs in HABITS.values() for habit in logs for line in habit.text.splitlines()]),
        max_size=12,
    )
)
def test_any_mixture_of_lines_is_read_and_counted(lines):
    found = read_log("\n".join(lines) + "\n", today=TODAY)
    assert found.lines == (len(lines) or found.lines)
    assert all(item.seconds > 0 and item.call for item in found.calls)
    assert {item.last for item in found.faults} <= set(range(1, len(lines) + 1))
