"""Field cards and key sheets on paper: complete, masked, within their pages."""

import pytest
from fpdf import FPDF
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.days import TODAY
from tests.strategies import plans
from umbra_awl.core.fit.compare import tried
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.paper.field_card import CODE_BYTES, field_card
from umbra_awl.core.paper.field_card_pdf import card_pdf
from umbra_awl.core.paper.keysheet import key_sheet
from umbra_awl.core.paper.keysheet_pdf import keysheet_pdf
from umbra_awl.core.paper.pages import card_html, keysheet_html
from umbra_awl.core.paper.taps import runs
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import OwnedRadio
from umbra_awl.core.radio.profile_file import shipped_profiles

PROFILES = shipped_profiles()
DAY = "2026-11-25"


def card_of(plan, key="tarn"):
    index = PlanIndex(plan, TODAY)
    radio = index.radios[key]
    profile = PROFILES[radio.profile]
    return field_card(index, radio, profile, fit(index, radio, profile), DAY)


@pytest.mark.parametrize("key", ["tarn", "moor", "fell", "crag"])
def test_a_card_of_the_demo_takes_two_pages_at_most_in_large_letters(plan, key):
    card = card_of(plan, key)
    printed = card_pdf(card)
    assert printed.data.startswith(b"%PDF")
    assert printed.pages <= 2
    assert printed.size >= 14


def test_every_knob_position_is_on_the_card_with_what_opens_it(plan):
    card = card_of(plan)
    first = card.zones[0].rows[1]
    assert (first.place, first.name, first.mhz, first.opens, first.calls) == (
        2,
        "BLK LOCAL",
        "438.6125",
        "−7.6 cc6 s1",
        "8",
    )
    assert [len(zone.rows) for zone in card.zones] == [8, 4, 9, 4, 5]
    assert any("only listen" in line for line in card.cautions)
    assert any("driving" in line for line in card.cautions)


def test_nobodys_id_and_no_hotspot_is_on_a_card_or_in_its_code(plan):
    number = str(plan.station.identities[0].ids[0].number)
    for key in ("tarn", "fell"):
        card = card_of(plan, key)
        page = card_html(card)
        assert number not in page
        assert number not in card.code
        assert "434.6125" not in card.code, "where one's own hotspot listens stays off the code"
    assert "999••••" in card_of(plan).owner


def test_the_radios_own_way_of_linking_is_told(plan):
    told = dict(card_of(plan, "fell").how_to)["D-STAR: link, talk, unlink"]
    assert told[1] == "Link: turn to SIG B +VLR001 A, key for a second, let go. A voice or the display says linked."
    assert told[2].startswith("Talk: turn to SIG B VLR001 A (CQCQCQ). Others answer")
    assert told[4] == "When done, key SIG B Unlink. A voice says that nothing is linked."
    assert "call-sign memories" in told[-1]
    assert "40010" in " ".join(dict(card_of(plan, "crag").how_to)["System Fusion: rooms"])


def test_dialling_is_explained_by_the_names_on_the_display_with_what_one_hears(plan):
    told = dict(card_of(plan, "tarn").how_to)
    assert told["DMR: dialled reflectors"] == (
        "Turn to HOME DIAL. Type 8001 to 8099 as a call and key for a second.",
        "A voice or the display says that it is linked. Silence: dial again.",
        "Talk on HOME DIAL. Others of the reflector answer there.",
        "When done, key HOME DISC for a second. A voice says that nothing is linked.",
    )
    assert told["DMR"][0] == "First BLK ECHO: key, say your call sign, let go. Your own voice comes back."


@pytest.mark.parametrize("key", ["tarn", "moor", "fell", "crag"])
def test_a_name_on_paper_is_the_name_on_the_display(plan, key, monkeypatch):
    drawn = []
    monkeypatch.setattr(FPDF, "text", lambda self, _x, _y, text: drawn.append((text, self.get_string_width(text))))
    index = PlanIndex(plan, TODAY)
    radio = index.radios[key]
    made = fit(index, radio, PROFILES[radio.profile])
    printed = card_pdf(field_card(index, radio, PROFILES[radio.profile], made, DAY))
    assert printed.pages
    shown = {made.memory.channels[number - 1].name for zone in made.memory.zones for number in zone.members}
    widths = {text: width for text, width in drawn if text in shown}
    assert widths.keys() == shown
    assert max(widths.values()) < 75, "beside the frequency in its column"
    assert not any("…" in text for text, _width in drawn)


def test_a_page_stands_alone_and_escapes_what_a_name_may_hold(plan):
    from msgspec.structs import replace

    page = card_html(card_of(replace(plan, name="<script>alert(1)</script>")))
    assert "<script>" not in page
    assert "http" not in page.replace("http://www.w3.org/2000/svg", "")
    assert "<svg" in page


@given(plans(), st.sampled_from(list(PROFILES)))
@settings(max_examples=15)
def test_any_card_prints_and_its_code_is_small_enough_to_read(plan, key):
    index = PlanIndex(plan, TODAY)
    made = tried(index, PROFILES[key])
    card = field_card(index, OwnedRadio("tried", "Any é猫", key), PROFILES[key], made, DAY)
    assert len(card.code.encode()) <= CODE_BYTES
    assert card_pdf(card).data.startswith(b"%PDF")
    assert card_html(card)


def test_key_sheets_print_with_every_memory_and_box_the_save_step(plan):
    profile = PROFILES["tarn16"]
    sheet = key_sheet(tried(PlanIndex(plan, TODAY), profile).memory, profile)
    page = keysheet_html(sheet, "Tarn 16", DAY)
    assert page.count('class="step saves"') == len(sheet.memories) == 29
    assert "Fewer are not taken" in page
    assert keysheet_pdf(sheet, "Tarn 16", DAY).startswith(b"%PDF")


def test_long_runs_of_one_key_are_read_as_one_with_its_count():
    assert runs(("MENU", *["UP"] * 14, "MENU", "2", "2", "2", "2")) == [
        ("MENU", 1), ("UP", 14), ("MENU", 1), ("2", 1), ("2", 1), ("2", 1), ("2", 1),
    ]  # fmt: skip
