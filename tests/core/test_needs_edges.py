"""What is asked for of a radio, held against its profile at the edges: a hertz more, a coin more, one person more."""

import pytest
from msgspec.structs import replace

from tests.core.test_choosing import PROFILES
from umbra_awl.core.fit.compare import compare
from umbra_awl.core.fit.needs import MUST, USUAL_WEIGHT, ComparedPoint, RadioNeeds, need_points, unknown
from umbra_awl.core.fit.needs import point as made_point
from umbra_awl.core.radio.profile import App

TARN = PROFILES["tarn16"]
SPAN = TARN.transmit[0]
LOW, HIGH = SPAN.low_hz / 1e6, SPAN.high_hz / 1e6


def only(profile, needs):
    (told,) = need_points(profile, needs)
    return told


@pytest.mark.parametrize(("low", "high", "share"), [
    (LOW, HIGH, 1.0), (LOW + 0.1, HIGH - 0.1, 1.0), (LOW - 0.000001, HIGH, 0.0), (LOW, HIGH + 0.000001, 0.0),
])  # fmt: skip
def test_a_band_is_sent_on_up_to_its_edges(low, high, share):
    narrow = replace(TARN, transmit=(SPAN,), receive=(SPAN,))
    told = only(narrow, RadioNeeds(bands_mhz=((low, high),)))
    assert told.share == share
    assert told.why == ("It sends and hears there." if share else "It does not cover it.")


def test_what_is_only_heard_counts_half():
    wider = replace(SPAN, low_hz=SPAN.low_hz - 1_000_000, high_hz=SPAN.high_hz + 1_000_000)
    hears = replace(TARN, transmit=(SPAN,), receive=(wider,))
    for low, high in ((LOW - 1, HIGH), (LOW, HIGH + 1), (LOW - 1, HIGH + 1)):
        told = only(hears, RadioNeeds(bands_mhz=((low, high),)))
        assert (told.share, told.why) == (0.5, "It hears all of it and does not send on all of it.")
    assert only(hears, RadioNeeds(bands_mhz=((LOW - 1.1, HIGH),))).share == 0.0
    assert only(hears, RadioNeeds(bands_mhz=((LOW, HIGH + 1.1),))).share == 0.0


@pytest.mark.parametrize(("price", "share", "why"), [
    (89.0, 1.0, "89 is within 100."), (100.0, 1.0, "100 is within 100."), (150.0, 0.5, "150 is 50 over 100."),
    (200.0, 0.0, "200 is 100 over 100."), (500.0, 0.0, "500 is 400 over 100."),
])  # fmt: skip
def test_a_price_is_within_or_so_much_over(price, share, why):
    told = only(TARN, RadioNeeds(most=100.0, price={"tarn16": price}))
    assert (told.share, told.why) == (pytest.approx(share), why)


def test_a_price_that_nobody_gave_does_not_count():
    told = only(TARN, RadioNeeds(most=100.0))
    assert (told.weight, "does not count" in told.why) == (0, True)


@pytest.mark.parametrize(("wanted", "share"), [(1, 1.0), (TARN.limits.channels, 1.0), (TARN.limits.channels * 2, 0.5)])
def test_channels_count_by_their_share(wanted, share):
    assert only(TARN, RadioNeeds(channels=wanted)).share == pytest.approx(share)


@pytest.mark.parametrize(("weight", "share", "known", "stand", "out"), [
    (MUST, 1.0, True, "met", False), (MUST, 0.99, True, "partly", True), (MUST, 0.0, True, "missing", True),
    (MUST, 0.0, False, "unknown", False), (MUST - 1, 0.0, True, "missing", False), (MUST + 1, 0.5, True, "partly", True),
])  # fmt: skip
def test_how_a_point_stands_and_whether_it_excludes(weight, share, known, stand, out):
    told = ComparedPoint("x", share, weight, "why", known)
    assert (told.stand, told.excludes) == (stand, out)


def test_weights_are_those_given_or_the_usual_ones():
    given = RadioNeeds(weight={"x": 3})
    assert (made_point(given, "x", 1.0, "").weight, made_point(given, "y", 1.0, "").weight) == (3, USUAL_WEIGHT)
    assert made_point(given, "y", 1.0, "", 1).weight == 1
    assert (unknown(given, "x", "").weight, unknown(given, "y", "").weight) == (3, USUAL_WEIGHT)
    assert (unknown(given, "x", "").share, unknown(given, "x", "").known) == (0.0, False)
    assert (MUST, USUAL_WEIGHT) == (4, 2)


def test_an_app_is_there_wants_something_or_is_for_other_phones():
    class Like:
        """Just enough of an app."""

        def __init__(self, platform, needs=""):
            self.platform, self.needs = platform, needs

    assert App

    def told(*apps):
        profile = type("P", (), {"apps": apps, "modes": ()})()
        return only(profile, RadioNeeds(platform="Linnet"))

    assert told(Like("Linnet")).share == 1.0
    half = told(Like("Linnet", "a dongle"))
    assert (half.share, half.why) == (0.5, "A phone app works on Linnet phones with a dongle.")
    other = told(Like("Plover"), Like("Dunlin"))
    assert (other.share, other.why) == (0.0, "No phone app works with it on Linnet phones; on Plover, Dunlin one does.")
    assert told().why == "No phone app works with it on Linnet phones."


def test_each_mode_asked_for_is_there_or_not():
    points = list(need_points(TARN, RadioNeeds(modes=("fm", "dstar"))))
    assert [(item.name, item.share) for item in points] == [("FM", 1.0), ("D-STAR", 0.0)]
    assert points[1].why == "It has no D-STAR."
    assert points[0].why == "It has FM."


def test_nothing_asked_for_is_no_point():
    assert list(need_points(TARN, RadioNeeds())) == []


def test_a_must_counts_as_much_as_the_heaviest_wish(index):
    def share(weight):
        needs = RadioNeeds(modes=("fm", "dstar"), weight={"D-STAR": weight})
        return next(item.share for item in compare(index, [TARN], needs, with_plan=False))

    assert share(MUST) == share(MUST - 1) == pytest.approx(2 / 5)
    assert share(0) == 1.0


def test_modes_of_the_plan_count_by_their_part_of_it(index):
    (made,) = compare(index, [TARN], RadioNeeds(), with_plan=True)
    total = len(index.plan.routes)
    for name, mode in (
        ("FM routes", "fm"),
        ("DMR routes", "dmr"),
        ("D-STAR routes", "dstar"),
        ("Fusion routes", "fusion"),
    ):
        count = sum(index.services[route.service][1].mode == mode for route in index.plan.routes)
        told = next(item for item in made.points if item.name == name)
        assert told.weight == (3 if count / total >= 1 / 3 else 1 if count / total < 0.1 else 2)
        if mode in TARN.modes:
            assert told.why.startswith("It carries ")
            assert ("find no place" in told.why) == (told.share < 1)
        else:
            assert told.why.endswith("routes are lost.")
    names = next(item for item in made.points if item.name == "names in full")
    assert names.weight == 1
    assert 0 <= names.share <= 1
