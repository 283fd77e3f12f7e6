"""Paper for several radios in one file, on several sizes of paper."""

import re

import pytest

from tests.days import TODAY
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.paper.bundle import PAPER_WORDS, ReadyRadio, bundle
from umbra_awl.core.paper.letters import FORMS

MM_PER_POINT = 25.4 / 72


@pytest.fixture
def ready(index, profiles):
    return [
        ReadyRadio(item, profiles[item.profile], fit(index, item, profiles[item.profile])) for item in index.plan.radios
    ]


def boxes(data):
    found = re.findall(rb"/MediaBox \[0 0 ([\d.]+) ([\d.]+)\]", data)
    return {(round(float(wide) * MM_PER_POINT), round(float(high) * MM_PER_POINT)) for wide, high in found}


@pytest.mark.parametrize("form", FORMS)
@pytest.mark.parametrize("kind", PAPER_WORDS)
def test_paper_of_each_kind_on_each_size(index, ready, kind, form):
    made = bundle(kind, index, ready[:1], TODAY.isoformat(), form)
    assert made.data.startswith(b"%PDF")
    assert boxes(made.data) == {tuple(round(item) for item in FORMS[form])}


def test_several_are_as_many_pages_as_each_alone(index, ready):
    alone = [bundle("card", index, [item], TODAY.isoformat()).pages for item in ready[:2]]
    assert bundle("card", index, ready[:2], TODAY.isoformat()).pages == sum(alone)
    assert bundle("label", index, ready * 6, TODAY.isoformat()).pages == 3


def test_a_radio_without_keys_is_left_out_and_said(index, ready):
    moor = [item for item in ready if item.radio.key == "moor"]
    made = bundle("keys", index, moor, TODAY.isoformat())
    assert (made.data, made.pages) == (b"", 0)
    assert "Moor 4K is left out" in made.told[0]
    assert "at least one" in bundle("card", index, [], TODAY.isoformat()).told[0]
