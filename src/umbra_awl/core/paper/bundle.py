"""Paper for several radios in one file: field cards, key sheets or labels, one radio behind another."""

from collections.abc import Callable, Iterator, Mapping, Sequence
from types import MappingProxyType
from typing import Literal, NamedTuple

from umbra_awl.core.facts.wording import within
from umbra_awl.core.fit.fitting import Fit
from umbra_awl.core.paper.field_card import field_card
from umbra_awl.core.paper.field_card_pdf import draw_card
from umbra_awl.core.paper.kept_to import kept_to
from umbra_awl.core.paper.keysheet import key_sheet
from umbra_awl.core.paper.keysheet_pdf import draw_keysheet
from umbra_awl.core.paper.label import draw_labels, label_of
from umbra_awl.core.paper.letters import Paper
from umbra_awl.core.paper.loading import loaded_words
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import OwnedRadio
from umbra_awl.core.radio.profile import Profile

PaperKind = Literal["card", "keys", "label"]
PAPER_WORDS: Mapping[PaperKind, str] = MappingProxyType(
    {"card": "Field cards", "keys": "Key sheets", "label": "Labels"}
)
SMALL_POINTS = 10.0


class ReadyRadio(NamedTuple):
    """A radio that paper is made for, with what is fitted to it."""

    radio: OwnedRadio
    profile: Profile
    fit: Fit


class Bundle(NamedTuple):
    """The finished file, its pages, and sentences: what was left out and why, and where letters came out small."""

    data: bytes
    pages: int
    told: tuple[str, ...]


def bundle(kind: PaperKind, index: PlanIndex, radios: Sequence[ReadyRadio], day: str, form: str = "A4") -> Bundle:
    """Paper of one kind for radios, in their order. `form` is the paper's size. Raises PaperError."""
    paper = Paper(f"{index.plan.name}: {within(PAPER_WORDS[kind])}", form)
    told = tuple(_DRAWN[kind](paper, index, radios, day))
    if not paper.pages:
        paper.drop()
        return Bundle(b"", 0, told or ("Choose at least one radio.",))
    return Bundle(paper.data(), paper.pages, told)


def _cards(paper: Paper, index: PlanIndex, radios: Sequence[ReadyRadio], day: str) -> Iterator[str]:
    for item in radios:
        _paper, size = draw_card(field_card(index, item.radio, item.profile, item.fit, day), paper)
        if size < SMALL_POINTS:
            yield f"{item.radio.name}: letters of {size:g} points. Fewer zones on it would make them larger."


def _keys(paper: Paper, index: PlanIndex, radios: Sequence[ReadyRadio], day: str) -> Iterator[str]:
    for item in radios:
        if not item.profile.by_keys:
            yield f"{item.radio.name} is left out: it is not programmed memory by memory with its keys."
        else:
            sheet = key_sheet(item.fit.memory, item.profile)._replace(kept_to=kept_to(index, item.radio, item.profile))
            draw_keysheet(sheet, item.radio.name, day, paper)


def _labels(paper: Paper, _index: PlanIndex, radios: Sequence[ReadyRadio], day: str) -> Iterator[str]:
    labels = [label_of(item.fit.memory, item.radio.name, loaded_words(item.profile), day) for item in radios]
    if labels:
        draw_labels(labels, paper)
    yield from ()


_DRAWN: Mapping[PaperKind, Callable[[Paper, PlanIndex, Sequence[ReadyRadio], str], Iterator[str]]] = MappingProxyType(
    {"card": _cards, "keys": _keys, "label": _labels}
)
