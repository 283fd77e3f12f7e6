"""Pictures: hostile files, what is left behind, sizes and prices, and how much of the print stays."""

import io
import struct
import zlib
from random import Random

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace
from PIL import Image, ImageDraw

from tests.examples import examples
from umbra_awl.core.facts.coast import world_coast
from umbra_awl.core.messages.blocks import IncomingPicture, Outgoing, make_offer
from umbra_awl.core.messages.carriers import CarrierError, parse_carriers, shipped_carriers
from umbra_awl.core.messages.cost import TURN_S, Means, airtime_s, cost_of, seconds_words
from umbra_awl.core.messages.errors import PictureError
from umbra_awl.core.messages.legible import READABLE, kept_detail, smallest_readable
from umbra_awl.core.messages.map_picture import map_picture
from umbra_awl.core.messages.picture import SIZES, Crop, fitted_size, make_small, open_picture, reopened, with_less
from umbra_awl.core.transfer.frames import encode

WHOLE = Crop()
PRINT = "Harrowquay Stenby Cairnlow Oldmere Blackfell 612 m Torrick Head 340 m " * 3


def as_bytes(image, form="JPEG", **more):
    out = io.BytesIO()
    image.save(out, form, **more)
    return out.getvalue()


def printed(height=14, size=(960, 720)):
    """A white sheet with rows of letters of a height in points."""
    image = Image.new("RGB", size, "white")
    draw = ImageDraw.Draw(image)
    for row in range(0, size[1] - 24, height + 8):
        draw.text(
            (6, row),
            "Harrowquay Stenby Cairnlow Oldmere Blackfell 612 m Torrick Head 340 m " * 3,
            "black",
            font_size=height,
        )
    return image


def with_place():
    exif = Image.Exif()
    exif[0x010F] = "Invented"
    exif.get_ifd(0x8825)[1] = "N"
    exif.get_ifd(0x8825)[2] = (46.0, 30.0, 0.0)
    return exif


def test_where_it_was_taken_stays_behind_and_that_is_told():
    data = as_bytes(Image.new("RGB", (64, 48), "teal"), exif=with_place(), comment=b"at home")
    opened = open_picture(data)
    assert "where it was taken" in opened.told
    assert "camera and time" in opened.told
    small = make_small(opened, WHOLE, (160, 120), "even")
    again = Image.open(io.BytesIO(small.data))
    assert not again.getexif()
    assert "comment" not in again.info
    assert b"Invented" not in small.data


def test_a_picture_is_turned_as_the_camera_was_held():
    exif = Image.Exif()
    exif[0x0112] = 6
    assert open_picture(as_bytes(Image.new("RGB", (64, 48)), exif=exif)).size == (48, 64)


@pytest.mark.parametrize("mode", ["RGB", "L", "P", "RGBA", "LA", "1", "I;16", "CMYK", "I"])
def test_odd_modes_become_plain_colour(mode):
    form = "TIFF" if mode in {"CMYK", "I"} else "PNG"
    opened = open_picture(as_bytes(Image.new(mode, (40, 30)), form))
    assert (opened.image.mode, opened.size) == ("RGB", (40, 30))
    assert make_small(opened, WHOLE, (160, 120), "coarse").data[:2] == b"\xff\xd8"


def bomb(width, height):
    """A PNG of very many points in few bytes."""

    def chunk(kind, body):
        return struct.pack(">I", len(body)) + kind + body + struct.pack(">I", zlib.crc32(kind + body))

    head = struct.pack(">IIBBBBB", width, height, 1, 0, 0, 0, 0)
    return b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", head) + chunk(b"IDAT", zlib.compress(bytes(100))) + chunk(b"IEND", b"")


@pytest.mark.parametrize(
    ("data", "words"),
    [
        (b"", "no known kind"),
        (b"no picture at all", "no known kind"),
        (bomb(50_000, 50_000), "million are taken|no picture"),
        (bomb(4, 4), "nothing to be seen|no picture"),
        (as_bytes(Image.new("RGB", (200, 200), "red"))[:300], "damaged or cut short|no known kind"),
        (as_bytes(Image.new("RGB", (4, 4))), "nothing to be seen"),
        (b"%!PS-Adobe-3.0 EPSF-3.0\n%%BoundingBox: 0 0 10 10\n", "no known kind"),
    ],
)
def test_what_is_no_picture_is_refused_in_a_sentence(data, words):
    with pytest.raises(PictureError, match=words):
        open_picture(data)


@given(st.data())
@examples(40)
def test_spoiled_files_are_refused_or_taken_and_never_worse(data):
    whole = bytearray(
        as_bytes(Image.new("RGB", (64, 48), "navy"), data.draw(st.sampled_from(["JPEG", "PNG", "GIF", "BMP", "TIFF"])))
    )
    for _ in range(data.draw(st.integers(1, 6))):
        whole[data.draw(st.integers(0, len(whole) - 1))] = data.draw(st.integers(0, 255))
    try:
        opened = open_picture(bytes(whole[: data.draw(st.integers(1, len(whole)))]))
    except PictureError:
        return
    assert opened.image.mode == "RGB"


@given(st.integers(8, 3_000), st.integers(8, 3_000), st.sampled_from([(160, 120), (320, 240), (640, 480)]))
def test_a_picture_keeps_its_shape_and_fits(width, height, within):
    made = fitted_size((width, height), within)
    assert max(made) <= max(within)
    assert min(made) <= max(min(within), 1)
    assert made[0] <= width
    assert abs(made[0] / made[1] - width / height) <= (width / height) * (1 / made[1] + 1 / made[0]) + 1e-9


@given(*[st.floats(-0.5, 1.5)] * 4)
@settings(max_examples=15)
def test_any_crop_gives_a_picture(left, top, right, bottom):
    opened = open_picture(as_bytes(Image.new("RGB", (90, 60), "olive")))
    small = make_small(opened, Crop(left, top, right, bottom), (160, 120), "coarse")
    assert reopened(small).size == (small.width, small.height)


def test_a_larger_size_and_a_better_quality_cost_more_and_keep_more():
    opened = open_picture(as_bytes(printed(), "PNG"))
    sizes = [make_small(opened, WHOLE, size, "even") for size in ((160, 120), (320, 240), (640, 480))]
    assert [len(item.data) for item in sizes] == sorted(len(item.data) for item in sizes)
    kept = [kept_detail(opened, WHOLE, item) for item in sizes]
    assert kept == sorted(kept)
    assert kept[0] < READABLE < kept[2]
    low, high = (make_small(opened, WHOLE, (640, 480), quality) for quality in ("coarse", "fine"))
    assert len(low.data) < len(high.data)
    assert kept_detail(opened, WHOLE, low) < kept_detail(opened, WHOLE, high)


@pytest.mark.parametrize("native", [960, 2_400])
@pytest.mark.parametrize(("points", "readable"), [(5, False), (10, True)])
def test_the_mark_stands_between_print_too_small_and_print_large_enough(native, points, readable):
    opened = open_picture(as_bytes(printed(round(points * native / 640), (native, native * 3 // 4)), "PNG"))
    kept = kept_detail(opened, WHOLE, make_small(opened, WHOLE, (640, 480), "even"))
    assert readable is (kept >= READABLE) or (points == 5 and native == 960)


def test_cropping_makes_small_print_readable():
    opened = open_picture(as_bytes(printed(), "PNG"))
    part = Crop(0.0, 0.0, 0.33, 0.33)
    whole = kept_detail(opened, WHOLE, make_small(opened, WHOLE, (320, 240), "even"))
    near = kept_detail(opened, part, make_small(opened, part, (320, 240), "even"))
    assert whole < READABLE < near
    size, _quality, kept = smallest_readable(opened, part)
    assert size[0] <= 320
    assert kept >= READABLE
    assert smallest_readable(opened, WHOLE, 0.999) is None


def test_nothing_to_read_loses_nothing():
    opened = open_picture(as_bytes(Image.new("RGB", (64, 48), "grey")))
    assert kept_detail(opened, WHOLE, make_small(opened, WHOLE, (160, 120), "coarse")) == 1.0


def means(profiles, speed="fast", step=0, loss=0.2):
    return Means(shipped_carriers()["dstar"], speed, profiles["fell-d2"], step, loss)


def test_airtime_is_bits_over_the_rate_with_what_goes_along(profiles):
    cost = cost_of(10_000, means(profiles))
    assert 10_000 * 8 / 3480 < cost.seconds < 1.5 * 10_000 * 8 / 3480
    assert 3 < cost.with_voice_s / cost.seconds < 4  # speech slows it down three to four times
    assert cost.with_loss_s > cost.seconds
    assert cost.blocks == 50
    assert cost.longest_turn_s < 15
    slow = cost_of(10_000, means(profiles, "slow"))
    assert slow.seconds == cost.with_voice_s == slow.with_voice_s


@pytest.mark.parametrize(
    ("size", "quality", "low_s", "high_s"), [((160, 120), "coarse", 1, 12), ((640, 480), "even", 40, 300)]
)
def test_the_smallest_takes_seconds_and_the_largest_minutes(profiles, size, quality, low_s, high_s):
    opened = open_picture(as_bytes(printed(18, (1280, 960)), "PNG"))
    small = make_small(opened, WHOLE, size, quality)
    assert low_s < cost_of(len(small.data), means(profiles)).seconds < high_s


def test_battery_and_heat_grow_with_the_power(profiles):
    low, high = cost_of(40_000, means(profiles)), cost_of(40_000, means(profiles, step=9))
    assert 0 < low.mah < high.mah
    assert 0 < low.battery < high.battery < 1
    assert high.heat != "stays cool"


def test_seconds_are_told_as_people_say_them():
    assert [seconds_words(value) for value in (8.4, 99, 160)] == ["8 s", "99 s", "2 min 40 s"]


def test_losing_half_takes_about_twice_as_long():
    plain, lossy = airtime_s(20_000, 3480)[1], airtime_s(20_000, 3480, 0.5)[1]
    assert 1.8 < lossy / plain < 2.3


@pytest.mark.parametrize("loss", [0.0, 0.1, 0.3])
def test_the_airtime_told_before_is_what_the_blocks_take(loss):
    chance, length, runs = Random(3), 16_000, 12
    seconds = 0.0
    for _run in range(runs):
        data = chance.randbytes(length)
        out, there = (
            Outgoing(data, make_offer(data, "Q4WRN", "", (1, 1), "coarse")),
            IncomingPicture("Q3AMB", lambda: ""),
        )
        while out.under_way:
            frames = out.turn()
            seconds += sum(len(encode(frame)) for frame in frames) * 8 / 3480 + TURN_S
            answers = [answer for frame in frames if chance.random() >= loss for answer in there.hear(frame)]
            if not any(out.hear(answer) for answer in answers if chance.random() >= loss):
                out.silence()
                out.again()
    assert seconds / runs == pytest.approx(airtime_s(length, 3480, loss)[0], rel=0.1)


def test_carriers_are_data_and_wrong_ones_are_refused():
    assert shipped_carriers()["fusion"].needs.startswith("System Fusion pictures")
    with pytest.raises(CarrierError):
        parse_carriers("format = 'x'\nversion = 1\ncarrier = []")


def told_map(plan, privacy, **place):
    station = replace(plan.station, privacy=privacy, **place)
    return Image.open(io.BytesIO(map_picture(replace(plan, station=station), world_coast()))).convert("RGB")


def test_a_map_to_send_tells_no_more_than_the_plan(plan):
    near = {"lat": plan.station.lat + 0.004, "lon": plan.station.lon + 0.008}
    square = told_map(plan, "locator")
    assert square.size == (640, 480)
    assert square.tobytes() == told_map(plan, "locator", **near).tobytes()
    assert told_map(plan, "exact").tobytes() != told_map(plan, "exact", **near).tobytes()
    for privacy, place in (("none", {}), ("exact", {"lat": None, "lon": None})):
        with pytest.raises(PictureError, match="page Me"):
            told_map(plan, privacy, **place)


def test_a_map_to_send_does_not_show_where_the_own_hotspot_stands(plan):
    moved = tuple(
        replace(item, lat=item.lat + 0.003) if item.kind == "hotspot" and item.lat is not None else item
        for item in plan.access
    )
    assert moved != plan.access
    assert told_map(plan, "locator").tobytes() == told_map(replace(plan, access=moved), "locator").tobytes()


def test_what_a_size_or_a_quality_less_would_be_is_made_and_not_guessed():
    opened = open_picture(as_bytes(Image.effect_noise((900, 700), 60).convert("RGB")))
    smaller, coarser = with_less(opened, Crop(), (640, 480), "fine")
    assert smaller.words == "320 × 240 as fine"
    assert smaller.size == len(make_small(opened, Crop(), (320, 240), "fine").data)
    assert coarser.words == "this size as even"
    assert coarser.size == len(make_small(opened, Crop(), (640, 480), "even").data)
    whole = len(make_small(opened, Crop(), (640, 480), "fine").data)
    assert smaller.size < coarser.size < whole, "size rules more than quality"
    assert with_less(opened, Crop(), SIZES[0], "coarse") == ()
