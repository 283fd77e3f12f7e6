"""What opens each repeater of a list, by all the columns that speak of it; and what keeps one from being taken as live."""

import pytest

from tests.core.test_reading_lists import read
from umbra_awl.core.facts.tone_kinds import TonesTold, in_force, read_code, tone_kind, tone_kind_of, with_sense
from umbra_awl.core.facts.tones import ToneError

HEAD = "Call,Frequency,Duplex,Offset,Tone Mode,Tone,DCS,DCS Polarity,Mode"
ROWS = (
    "Q0BLK,145.7125,-,0.6,Tone,103.5,023,N,FM",
    "Q0HAR,439.2500,-,7.6,none,88.5,023,N,FM",
    "Q0OSS,439.5500,-,7.6,DCS,88.5,131,R,FM",
    "Q0TRN,439.1250,-,7.6,TSQL,94.8,023,N,FM",
    "Q0MRL,438.7000,-,7.6,,88.5,023,N,FM",
    "Q0ABC,438.9000,-,7.6,Sideways,88.5,023,N,FM",
)


def taken(tmp_path, head, *rows):
    return read(tmp_path, "\n".join((head, *rows)) + "\n")


def airs(found):
    return {access.call: access.services[0].air for access in found[0]}


def test_a_tone_is_sent_only_where_the_column_beside_it_says_so(tmp_path):
    found = taken(tmp_path, HEAD, *ROWS)
    opened = {call: (air.tone_tx, air.tone_rx) for call, air in airs(found).items()}
    assert opened == {
        "Q0BLK": ("103.5", ""), "Q0HAR": ("", ""), "Q0OSS": ("D131I", "D131I"), "Q0TRN": ("94.8", "94.8"),
        "Q0MRL": ("", ""), "Q0ABC": ("", ""),
    }  # fmt: skip
    assert [text for text in found[1] if "tone is in force" in text] == [
        "“Sideways” does not say which tone is in force; none is taken"
    ]


def test_a_direction_beside_a_size_is_the_direction_whatever_it_is_called(tmp_path):
    services = [access.services[0] for access in taken(tmp_path, HEAD, *ROWS)[0]]
    assert [item.rx_hz - item.tx_hz for item in services] == [600_000, *[7_600_000] * 5]


@pytest.mark.parametrize(("opener", "mode", "value"), [
    ("CC6", "dmr", ("color_code", 6)),
    ("Color code 3", "dmr", ("color_code", 3)),
    ("Port B", "dstar", ("module", "B")),
    ("DG-ID 12", "fusion", ("dgid_tx", 12)),
    ("103.5", "fm", ("tone_tx", "103.5")),
])  # fmt: skip
def test_the_mode_is_what_the_opener_says_where_no_column_tells_it(tmp_path, opener, mode, value):
    found = taken(tmp_path, "Call,Output,Input,Access", f"Q0BLK,439.25,431.65,{opener}", "Q0HAR,145.7,145.1,88.5")
    air = airs(found)["Q0BLK"]
    assert mode in type(air).__name__.lower()
    assert getattr(air, value[0]) == value[1]


def test_a_color_code_in_a_tone_of_fm_is_told(tmp_path):
    found = taken(tmp_path, "Call,Output,Input,Tone,Mode", "Q0BLK,439.25,431.65,CC6,FM", "Q0HAR,145.7,145.1,88.5,FM")
    assert airs(found)["Q0BLK"].tone_tx == ""
    assert any("color code, and FM has none" in text for text in found[1])


@pytest.mark.parametrize(("mode", "field", "value"), [
    ("D-Star C", "module", "C"), ("DV-B", "module", "B"), ("D-STAR port A", "module", "A"), ("D-Star", "module", ""),
    ("C4FM DG-ID 10", "dgid_tx", 10), ("C4FM", "dgid_tx", 0),
])  # fmt: skip
def test_what_stands_behind_the_mode_opens_it(tmp_path, mode, field, value):
    found = taken(tmp_path, "Call,Output,Input,Mode", f"Q0BLK,439.25,431.65,{mode}")
    assert getattr(airs(found)["Q0BLK"], field) == value


@pytest.mark.parametrize(("head", "dead", "live"), [
    ("operational", "0", "1"), ("Status", "ausser Betrieb", "in Betrieb"), ("X", "QRT", "QRV"), ("On air", "false", "true"),
])  # fmt: skip
def test_what_is_off_the_air_is_not_taken(tmp_path, head, dead, live):
    rows = (f"Q0BLK,439.25,431.65,FM,{dead}", f"Q0HAR,145.7,145.1,FM,{live}")
    assert set(airs(taken(tmp_path, f"Call,Output,Input,Mode,{head}", *rows))) == {"Q0HAR"}


def test_a_note_that_says_so_is_told_and_a_plain_one_is_not(tmp_path):
    rows = ("Q0BLK,439.25,431.65,FM,off air since May", "Q0HAR,145.7,145.1,FM,no noise down there")
    found = taken(tmp_path, "Call,Output,Input,Mode,Note", *rows)
    assert len([text for text in found[1] if "its note says “off air" in text]) == 1
    assert len([text for text in found[1] if "its note says" in text]) == 1


def test_units_behind_a_heading_do_not_hide_it(tmp_path):
    rows = ("Q0BLK,145.7,145.1,FM,46.52,N,31.05,W", "Q0HAR,439.25,431.65,FM,46.47,N,31.12,W")
    found = taken(tmp_path, "Call,Output,Input,Mode,Lat deg,Lat N/S,Lon deg,Lon E/W", *rows)
    assert {(access.lat, access.lon) for access in found[0]} == {
        (46.52, -31.05), (46.47, -31.12),
    }  # fmt: skip


@pytest.mark.parametrize(("word", "kind"), [
    ("Tone", "sent"), ("tsql", "both"), ("DCS", "code"), ("", "none"), ("Off", "none"), ("CTCSS", "tones"), ("keine", "none"),
    ("T SQL", "both"), ("Decode", "awaited"), ("sideways", None),
])  # fmt: skip
def test_words_for_the_kind_of_tone(word, kind):
    assert tone_kind_of(word) == kind


@pytest.mark.parametrize(("kind", "pair"), [
    ("none", ("", "")), ("sent", ("88.5", "")), ("both", ("88.5", "94.8")), ("tones", ("88.5", "94.8")),
    ("awaited", ("", "94.8")), ("code", ("D023N", "D025N")), ("code sent", ("D023N", "")),
])  # fmt: skip
def test_what_is_in_force(kind, pair):
    assert in_force(kind, TonesTold("88.5", "94.8", "D023N", "D025N")) == pair
    if kind not in {"none", "tones", "awaited"}:
        alone = in_force(kind, TonesTold(tone="88.5"))
        assert alone == ("88.5", "88.5" if kind in {"both", "code"} else "")


@pytest.mark.parametrize("pair", [
    ("", ""), ("88.5", ""), ("88.5", "94.8"), ("", "94.8"), ("D023N", "D023N"), ("D023N", ""),
])  # fmt: skip
def test_the_kind_of_a_channel_gives_its_tones_again(pair):
    kind = tone_kind(*pair)
    told = TonesTold(
        *("" if tone.startswith("D") else tone for tone in pair), *(t if t.startswith("D") else "" for t in pair)
    )
    assert in_force(kind, told) == pair


def test_a_tone_one_way_and_a_code_the_other_have_no_kind():
    assert tone_kind("88.5", "D023N") is None
    assert tone_kind("D023N", "88.5") is None


@pytest.mark.parametrize(
    ("text", "code"), [("23", "D023N"), ("131", "D131N"), ("D754I", "D754I"), ("", ""), ("none", "")]
)
def test_a_column_of_codes_reads_numbers_as_codes(text, code):
    assert read_code(text) == code


def test_what_is_no_code_is_refused():
    for text in ("88.5", "999", "abc"):
        with pytest.raises(ToneError):
            read_code(text)
    with pytest.raises(ToneError):
        with_sense("D023N", "sideways")


@pytest.mark.parametrize(("sense", "sent", "awaited"), [
    ("N", "D023N", "D023N"), ("R", "D023I", "D023I"), ("NR", "D023N", "D023I"), ("RN", "D023I", "D023N"),
    ("inverted", "D023I", "D023I"), ("", "D023N", "D023N"), ("normal / inverted", "D023N", "D023I"),
])  # fmt: skip
def test_senses_of_a_code(sense, sent, awaited):
    assert (with_sense("D023N", sense), with_sense("D023N", sense, 1)) == (sent, awaited)
