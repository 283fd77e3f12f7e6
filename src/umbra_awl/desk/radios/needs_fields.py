"""What a radio should do, as fields: no matter, wanted, or a must that excludes what has it not."""

from collections.abc import Iterator
from functools import partial
from typing import TYPE_CHECKING, Any

from umbra_awl.core.facts.bands import bands_for
from umbra_awl.core.facts.connectors import every_connector
from umbra_awl.core.facts.modes import EVERY_MODE, MODE_WORDS
from umbra_awl.core.fit.built import NO_AERIAL
from umbra_awl.core.fit.compare import platforms
from umbra_awl.core.fit.needs import MUST, USUAL_WEIGHT, RadioNeeds
from umbra_awl.desk.parts.cards.fields import RULE, Choice, Field
from umbra_awl.desk.parts.cards.late_choices import LateChoices

if TYPE_CHECKING:
    from umbra_awl.desk.radios.compare_page import ComparePage

_WANTED = (
    ("Position", "position", "position"),
    ("Texts, pictures", "data", "data"),
    ("By its keys", "keypad", "keypad"),
    ("Like my friends'", "like_friends", "friends"),
)
_BUILT = (
    ("Sturdy", "sturdy", "sturdy"),
    ("Honest gauge", "honest_gauge", "honest gauge"),
    ("Head apart", "head_apart", "head apart"),
    ("Hands free", "hands_free", "hands free"),
)
"""Labels, fields of the needs, and names of the points."""
_HOW_MUCH = ("no matter", "wanted", "must be")


class NeedsFields:
    """The fields of a comparison's page, and what they change."""

    def __init__(self, owner: "ComparePage") -> None:
        self._page = owner

    @property
    def _needs(self) -> RadioNeeds:
        return self._page.needs

    def fields(self) -> Iterator[Field]:
        """All of them, in the order in which one is asked."""
        page, needs = self._page, self._needs
        profiles = page.bench.profiles
        shown = [item for key, item in profiles.items() if key not in page.left_out]
        yield Field("Radios", f"{len(shown)} of {len(profiles)}", choices=list(self._radio_choices()))
        yield Field(
            "This plan", "fitted to each" if page.with_plan else "left aside", choices=list(self._plan_choices())
        )
        yield RULE
        modes = ", ".join(MODE_WORDS[mode] for mode in needs.modes) or "any"
        yield Field("Modes", modes, choices=[self._toggle("modes", mode, MODE_WORDS[mode]) for mode in EVERY_MODE])
        yield self._bands()
        yield from (self._wanted(*item) for item in _WANTED)
        yield self._app()
        yield page.weights.number("Channels", "channels", needs.channels)
        yield page.weights.number("People", "people", needs.people)
        yield RULE
        yield page.weights.number("Loud, mW", "speaker_mw", needs.speaker_mw)
        yield from (self._wanted(*item) for item in _BUILT)
        yield self._aerial()
        yield RULE
        yield from self._money()
        weighed = page.weights.weighed()
        if weighed:
            said = ", ".join(f"{name} {'must' if weight >= MUST else f'{weight}×'}" for name, weight in weighed.items())
            tip = "Each choice counts one step more, up to a must. Or type 0 to 4 on a row of the picture."
            yield Field("What counts", said, choices=LateChoices(page.weights.weight_choices), tip=tip)

    def _bands(self) -> Field:
        station = self._page.bench.plan.station
        bands = bands_for(station.region, station.bands)
        spans = {(band.low_hz / 1e6, band.high_hz / 1e6): band.name for band in bands}
        named = ", ".join(spans.get(span, f"{span[0]:g}–{span[1]:g}") for span in self._needs.bands_mhz) or "any"
        return Field("Bands", named, choices=[self._toggle("bands_mhz", span, name) for span, name in spans.items()])

    def _app(self) -> Field:
        there, now = platforms(self._page.bench.profiles.values()), self._needs.platform
        choices = [Choice("no matter", partial(self._page.set, platform=""), not now)]
        choices += [Choice(f"on {name} phones", partial(self._page.set, platform=name), name == now) for name in there]
        return Field("Phone app", f"on {now} phones" if now else "no matter", choices=choices)

    def _aerial(self) -> Field:
        now = self._needs.aerial
        words = {"": "no matter", NO_AERIAL: "none may be put up"} | {
            item: f"ends in {item}" for item in every_connector()
        }
        choices = [Choice(text, partial(self._page.set, aerial=key), key == now) for key, text in words.items()]
        return Field("Antenna", words[now], choices=choices, tip="What is at the end of its cable")

    def _money(self) -> Iterator[Field]:
        page, needs = self._page, self._needs
        yield page.weights.number("At most, price", "most", needs.most)
        if needs.most:
            yield Field(
                "Prices",
                f"{len(needs.price)} given",
                commit=page.weights.prices,
                text=page.weights.price_text(),
                tip="Name=price, separated by commas: Tarn 16=89, Moor 4K=199",
            )
        yield self._wanted("Seller tests it", "seller_tests", "seller tests")
        if needs.seller_tests:
            choices = [
                self._toggle("tested", key, profile.name)
                for key, profile in page.bench.profiles.items()
                if key not in page.left_out
            ]
            named = ", ".join(choice.word for choice in choices if choice.chosen) or "none said yet"
            yield Field("Who does", named, choices=choices, tip="Radios whose seller tries each one before it goes out")

    def _radio_choices(self) -> Iterator[Choice]:
        for key, profile in self._page.bench.profiles.items():
            yield Choice(profile.name, partial(self._page.leave, key), key not in self._page.left_out)

    def _plan_choices(self) -> Iterator[Choice]:
        for value, text in ((True, "fitted to each"), (False, "left aside")):
            yield Choice(text, partial(self._page.use_plan, value), self._page.with_plan == value)

    def _toggle(self, field: str, value: Any, text: str) -> Choice:
        now = getattr(self._needs, field)
        kept = tuple(item for item in now if item != value) if value in now else (*now, value)
        return Choice(text, partial(self._page.set, **{field: kept}), value in now)

    def _wanted(self, label: str, field: str, point: str) -> Field:
        there = getattr(self._needs, field)
        must = there and self._needs.weight.get(point, USUAL_WEIGHT) >= MUST
        now = "must be" if must else "wanted" if there else "no matter"
        choices = [Choice(text, partial(self._want, field, point, text), text == now) for text in _HOW_MUCH]
        return Field(label, now, choices=choices)

    def _want(self, field: str, point: str, text: str) -> None:
        weight = dict(self._needs.weight)
        if text == "must be":
            weight[point] = MUST
        elif weight.get(point, USUAL_WEIGHT) >= MUST:
            del weight[point]
        self._page.set(**{field: text != "no matter", "weight": weight})
