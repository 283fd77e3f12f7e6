import pytest
from hypothesis import given
from hypothesis import strategies as st

from umbra_awl.core.facts import bands, dmr, tones
from umbra_awl.core.facts.callsign import call_sign_fault, call_suffix, tidy_call_sign
from umbra_awl.core.facts.frequency import FrequencyError, format_mhz, format_offset, parse_hz, parse_offset_hz
from umbra_awl.core.facts.tones import ToneError, is_burst, parse_tone
from umbra_awl.core.facts.width import on_raster, width_word


@pytest.mark.parametrize(
    "text",
    [
        "145.7125",
        "145,7125 MHz",
        "145712500 Hz",
        "145712.5 kHz",
        "145.71250",
        " 145.712500",
        "0,1457125 GHz",
        "145.7125m",
    ],
)
def test_one_frequency_in_many_notations(text):
    assert parse_hz(text) == 145_712_500


@pytest.mark.parametrize(
    ("text", "reason"),
    [
        ("14x.5", "is not a frequency"),
        ("", "is not a frequency"),
        ("145.7.5", "is not a frequency"),
        ("145 volts", "not a unit"),
        ("99999", "outside 0.1 to 4000"),
        ("0", "outside 0.1 to 4000"),
        ("-145.7125", "outside 0.1 to 4000"),
        ("145.71250001", "finer than one hertz"),
    ],
)
def test_nonsense_is_refused_with_a_reason(text, reason):
    with pytest.raises(FrequencyError, match=reason):
        parse_hz(text)


@given(st.integers(100_000, 4_000_000_000))
def test_a_printed_frequency_reads_back(hz):
    assert parse_hz(format_mhz(hz)) == hz


@given(st.text(max_size=20))
def test_any_text_parses_or_is_refused(text):
    try:
        hz = parse_hz(text)
    except FrequencyError as error:
        assert str(error)
    else:
        assert isinstance(hz, int)


def test_frequencies_are_printed_with_four_decimals_and_more_where_needed():
    assert format_mhz(145_712_500) == "145.7125"
    assert format_mhz(438_787_500) == "438.7875"
    assert format_mhz(431_193_750) == "431.19375"
    assert format_mhz(145_712_501) == "145.712501"


@pytest.mark.parametrize(("text", "hz"), [("-7.6", -7_600_000), ("+600 kHz", 600_000), ("−0,6", -600_000), ("0", 0)])
def test_offsets_carry_their_sign(text, hz):
    assert parse_offset_hz(text) == hz


def test_offsets_are_printed_with_a_true_minus():
    assert format_offset(-7_600_000) == "−7.6000"
    assert format_offset(0) == "0.0000"


def test_an_absurd_offset_is_refused():
    with pytest.raises(FrequencyError, match="more than 100 MHz"):
        parse_offset_hz("-431.1875")


def test_fifty_ctcss_tones_from_67_to_254():
    assert len(set(tones.CTCSS)) == 50
    assert (tones.CTCSS[0], tones.CTCSS[-1]) == ("67.0", "254.1")
    assert list(tones.CTCSS) == sorted(tones.CTCSS, key=float)


def test_dcs_codes_are_octal_and_unique():
    assert len(set(tones.DCS_CODES)) == len(tones.DCS_CODES) == 104
    assert all(set(code) <= set("01234567") for code in tones.DCS_CODES)


@pytest.mark.parametrize(
    ("text", "tone"),
    [
        ("103.5", "103.5"),
        ("103,5 Hz", "103.5"),
        ("d23", "D023N"),
        ("DCS 754I", "D754I"),
        ("-", ""),
        ("", ""),
        ("100", "100.0"),
    ],
)
def test_tones_as_people_type_them(text, tone):
    assert tones.parse_tone(text) == tone


@pytest.mark.parametrize(
    ("text", "hint"), [("103.4", "nearest is 103.5"), ("D999", "Type a tone"), ("loud", "Type a tone")]
)
def test_a_wrong_tone_is_refused_with_a_hint(text, hint):
    with pytest.raises(tones.ToneError, match=hint):
        tones.parse_tone(text)


def test_every_tone_has_a_place_and_the_empty_one_is_zero():
    assert tones.tone_index("") == 0
    assert [tones.TONES[tones.tone_index(tone)] for tone in tones.TONES] == list(tones.TONES)
    with pytest.raises(tones.ToneError):
        tones.tone_index("103.4")


@pytest.mark.parametrize(
    "call", ["Q4WRN", "Q0BLK", "Q9ODL", "2Q0ABC", "QA1B", "Q1VRC", "3QA0VRC", "Q100VELMAR", "Q4WRN/P", "Q9/Q4WRN/M"]
)
def test_call_signs(call):
    assert call_sign_fault(call) == ""


@pytest.mark.parametrize("text", ["", "q4wrn", "QWRN", "Q4", "Q4 WRN", "444", "Q4WRN9", "Q4WR9"])
def test_what_is_no_call_sign_is_told(text):
    assert call_sign_fault(text)


def test_call_signs_are_tidied_and_cut_to_their_suffix():
    assert tidy_call_sign(" q4 wrn") == "Q4WRN"
    assert call_suffix("Q0BLK") == "BLK"
    assert call_suffix("odd") == "ODD"


@pytest.mark.parametrize(
    ("number", "sound"), [(9994217, True), (999421, False), (99942170, False), (None, False), (-1, False)]
)
def test_a_person_has_seven_digits(number, sound):
    assert (dmr.radio_id_fault(number) == "") is sound


def test_a_fault_on_an_id_does_not_tell_the_id():
    assert "421799" not in dmr.radio_id_fault(99942179)


def test_ids_are_masked_but_for_the_country():
    assert dmr.mask_id(9994217) == "999••••"
    assert dmr.mask_id(None) == "–"


@pytest.mark.parametrize(
    ("number", "word"), [(0, "outside"), (16_777_215, "all-call"), (16_776_416, "outside"), (None, "No number")]
)
def test_what_is_no_talk_group(number, word):
    assert word in dmr.talk_group_fault(number)


def test_bands_of_the_regions():
    assert bands.band_at(bands.bands_for(1), 145_000_000).name == "2 m"
    assert bands.band_at(bands.bands_for(1), 446_387_500) is None
    assert bands.band_at(bands.bands_for(2), 446_387_500).name == "70 cm"
    assert bands.nearest_band(bands.bands_for(1), 446_387_500).name == "70 cm"
    assert all(band.source for region in (1, 2, 3) for band in bands.bands_for(region))


def test_own_band_edges_win():
    own = (bands.Band("70 cm", 430_000_000, 432_000_000),)
    assert bands.bands_for(1, own) == own


def test_raster_and_width_words():
    assert on_raster(438_787_500)
    assert on_raster(145_005_000)
    assert not on_raster(438_787_600)
    assert (width_word(12_500), width_word(25_000)) == ("narrow", "wide")


@pytest.mark.parametrize(
    ("text", "tone"),
    [
        ("103,5 Hz", "103.5"),
        ("TSQL 88.5", "88.5"),
        ("CTCSS: 67.0", "67.0"),
        ("pl 100", "100.0"),
        ("023", "D023N"),
        ("023I", "D023I"),
        ("DCS 023", "D023N"),
        ("DPL 23", "D023N"),
        ("D023R", "D023I"),
        ("dtcs 754 i", "D754I"),
        ("0.0", ""),
        ("off", ""),
    ],
)
def test_tones_as_people_write_them(text, tone):
    assert parse_tone(text) == tone


def test_a_burst_is_none_of_the_tones():
    assert all(map(is_burst, ("1750", "1750 Hz", "1750.0", "Tone burst 1750", "1750 burst")))
    assert not any(map(is_burst, ("103.5", "", "17.50", "D023N", "175")))
    with pytest.raises(ToneError):
        parse_tone("1750")


@pytest.mark.parametrize(
    ("hz", "on"),
    [
        (118_008_333, True),
        (118_016_670, True),
        (118_005_000, True),
        (118_011_000, False),
        (145_708_333, False),
        (145_712_500, True),
    ],
)
def test_channels_of_a_third_of_25_khz_are_on_their_raster_where_aircraft_are_heard(hz, on):
    assert on_raster(hz) == on
