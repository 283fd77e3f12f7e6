import pytest

from tests.days import TODAY
from umbra_awl.core.agenda.steps import TEMPLATES
from umbra_awl.core.facts.bands import Band
from umbra_awl.core.hands.kinds import BandPlan, band_plan_text
from umbra_awl.core.hands.pack import PackPart
from umbra_awl.core.hands.taking import as_kept, holds
from umbra_awl.core.plan.disk.file_form import plan_bytes
from umbra_awl.core.plan.hotspots import Use
from umbra_awl.core.radio.profile_file import profile_text, shipped_profiles
from umbra_awl.demo.fresh import demo_plan


def part(kind: str, text: str) -> PackPart:
    return PackPart(kind, "x", "x", text)


@pytest.mark.parametrize(
    ("made", "told"),
    [
        (lambda: part("plan", plan_bytes(demo_plan(TODAY)).decode()), f"{len(demo_plan(TODAY).routes)} routes"),
        (lambda: part("profile", profile_text(shipped_profiles()["tarn16"])), "Ways in: cable"),
        (lambda: part("steps", next(TEMPLATES.glob("*.toml")).read_text()), "Steps: "),
        (
            lambda: part(
                "band-plan",
                band_plan_text(
                    BandPlan(
                        "B", (Use(430_000_000, 431_000_000, "hotspots"),), (Band("2 m", 144_000_000, 146_000_000),)
                    )
                ),
            ),
            "2 m 144.0000 to 146.0000 MHz, 430.0000 to 431.0000 MHz hotspots",
        ),
        (lambda: part("columns", "a = 1\n" * 400), "a = 1\na = 1"),
    ],
)
def test_what_a_part_holds_is_said_in_words(made, told):
    said = holds(made())
    assert told in said
    assert len(said) <= 600


def test_a_profile_gets_a_key_that_is_free():
    profiles = shipped_profiles()
    mine = part("profile", profile_text(profiles["tarn16"]).replace('summary = "', 'summary = "Ours. ', 1))
    kept = as_kept(mine, profiles)
    assert 'key = "tarn16"' not in kept.text
    assert as_kept(mine, {}).text == mine.text
    assert as_kept(part("profile", profile_text(profiles["tarn16"])), profiles).text == ""


@pytest.mark.parametrize(("letters", "cut"), [(599, False), (600, False), (601, True)])
def test_a_text_is_cut_at_its_length(letters, cut):
    said = holds(part("columns", "x" * letters))
    assert said.endswith(" …") == cut
    assert len(said) == min(letters, 600)
    assert len(holds(part("columns", "a\n" * 20)).splitlines()) == 8


def test_a_name_is_made_another_only_where_it_is_the_same():
    profiles = shipped_profiles()
    text = profile_text(profiles["tarn16"]).replace('summary = "', 'summary = "Ours. ', 1)
    assert "(pack)" in as_kept(part("profile", text), profiles).words
    renamed = text.replace(f'name = "{profiles["tarn16"].name}"', 'name = "My own Tarn"', 1)
    kept = as_kept(part("profile", renamed), profiles)
    assert "called “My own Tarn”" in kept.words
    assert "(pack)" not in kept.text
    same = as_kept(
        part("profile", profile_text(profiles["tarn16"]).replace(profiles["tarn16"].name, "Renamed", 1)), profiles
    )
    assert "the very same" in same.words
    assert as_kept(part("rules", "no profile at all"), profiles).text == "no profile at all"
