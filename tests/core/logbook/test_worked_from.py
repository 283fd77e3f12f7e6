from umbra_awl.core.facts.earth import parse_locator
from umbra_awl.core.logbook.model import Entry
from umbra_awl.core.logbook.worked_from import worked_from


def at(key: str, locator: str, spot: str = "", grade="echo", **more) -> Entry:
    return Entry(key, f"2026-11-0{key}T10:00:00Z", grade, my_locator=locator, spot=spot, **more)


def test_spots_are_told_by_their_place_with_what_came_of_them():
    entries = (
        at("1", "HN46kl", "balcony, HN46kl", "answered"),
        at("2", "hn46KL", "roof, HN46kl", "failed"),
        at("3", "HN46", grade="heard-it"),
        at("4", "nowhere", "x"),
        at("5", "HN46aa", by="simulation"),
        at("6", "", "only on the balcony"),
    )
    roof, square = worked_from(entries)
    assert (roof.name, roof.overs, roof.best) == ("roof, HN46kl", 2, "answered")
    assert roof.position == parse_locator("HN46kl")
    assert square.words == "HN46: 1 entry, best: heard the repeater"
    assert worked_from(()) == ()
