"""What radios hold and what is said of it, as reviewed in tests/data/fits.txt."""

from tests.core.golden_fits import PLACE, fits_text


def test_fits_hold_and_say_what_was_reviewed():
    found, kept = fits_text().splitlines(), PLACE.read_text("utf-8").splitlines()
    assert found == kept, "run python -m tests.core.golden_fits and read what changed"
