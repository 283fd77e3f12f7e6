"""The log as it is given away: by the station's privacy, field by field."""

import pytest

from umbra_awl.core.logbook.adif import adif_text
from umbra_awl.core.logbook.giving import given_away
from umbra_awl.core.logbook.model import Entry

OTHERS = dict.fromkeys(("NOTES", "comment_intl", "MY_STREET", "EMAIL", "ADDRESS", "APP_OTHER_DIARY"), "code 4711")
"""What other programs may keep, in whatever case a file has it."""
ENTRY = Entry(
    "k1",
    "2026-11-27T10:00:00Z",
    call="Q3AMB",
    my_locator="HN46kl12ab",
    spot="balcony, HN46kl12ab",
    here="Harrowquay",
    path="home hotspot",
    note="door code 4711",
    more={"MY_LAT": "N046 28.200", "MY_CITY": "Harrowquay", "RST_SENT": "59", **OTHERS},
)


@pytest.mark.parametrize(
    ("privacy", "locator", "here", "spot", "more"),
    [
        ("exact", "HN46kl12ab", "Harrowquay", "balcony, HN46kl12ab", {"MY_LAT", "MY_CITY", "RST_SENT"}),
        ("locator", "HN46kl", "Harrowquay", "", {"RST_SENT"}),
        ("none", "", "", "", {"RST_SENT"}),
    ],
)
def test_what_is_told_of_where_one_is(privacy, locator, here, spot, more):
    (told,) = given_away([ENTRY], privacy)
    assert (told.my_locator, told.here, told.spot, told.note) == (locator, here, spot, "")
    assert set(told.more) == more
    assert (told.key, told.utc, told.call) == (ENTRY.key, ENTRY.utc, ENTRY.call)
    assert "4711" not in adif_text([told])
    assert privacy == "exact" or "12ab" not in adif_text([told])
