"""Time zones as people type and read them."""

import pytest

from umbra_awl.core.agenda.trips import zone_typed, zone_words


@pytest.mark.parametrize(
    ("typed", "name", "words"),
    [("UTC-2", "Etc/GMT+2", "UTC−2"), ("gmt +10", "Etc/GMT-10", "UTC+10"), ("utc", "Etc/UTC", "UTC"),
     ("Atlantic/Azores", "Atlantic/Azores", "Atlantic/Azores"), ("UTC−0", "Etc/UTC", "UTC"), ("", "", "")],
)  # fmt: skip
def test_a_zone_is_typed_and_read_as_people_do(typed, name, words):
    assert zone_typed(typed) == name
    assert zone_words(name) == words
    assert zone_typed(words) == name
