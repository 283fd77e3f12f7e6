import pytest
from PyQt6.QtGui import QFontInfo

from umbra_awl.desk.theme.style import style_sheet
from umbra_awl.desk.theme.theme import MONO, WORDS, Theme
from umbra_awl.desk.theme.tokens import PAPER, TEXT_PAIRS, UMBRA, contrast


@pytest.mark.parametrize("tokens", [PAPER, UMBRA], ids=lambda item: item.name)
@pytest.mark.parametrize("pair", TEXT_PAIRS, ids="-".join)
def test_every_text_pair_reaches_four_and_a_half_to_one(tokens, pair):
    assert contrast(getattr(tokens, pair[0]), getattr(tokens, pair[1])) >= 4.5


def test_contrast_of_black_on_white_is_twenty_one():
    assert contrast("#000000", "#FFFFFF") == pytest.approx(21)
    assert contrast("#777777", "#777777") == pytest.approx(1)


def test_the_shipped_fonts_are_in_use(qapp):
    theme = Theme(qapp, "light")
    assert QFontInfo(theme.font()).family() == WORDS
    assert QFontInfo(theme.font(mono=True)).family() == MONO


def test_choosing_and_rescaling(qapp):
    theme = Theme(qapp, "light")
    assert theme.tokens is PAPER
    theme.toggle()
    assert theme.tokens is UMBRA
    theme.choose("light")
    theme.rescale(2)
    assert theme.font().pixelSize() == round(13 * 1.3)
    theme.rescale(-9)
    assert theme.scale == 0.9


def test_the_style_sheet_leaves_no_place_holder():
    assert "$" not in style_sheet(PAPER, 1.0, WORDS, MONO)
