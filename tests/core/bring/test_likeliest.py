"""Which radio a memory is likeliest of, and which columns of its files were passed over."""

import pytest

from umbra_awl.core.bring.likeliest import likeliest
from umbra_awl.core.columns.as_found import as_found, passed_over
from umbra_awl.core.columns.csv_guess import guess_layout
from umbra_awl.core.columns.csv_in import read_files
from umbra_awl.core.columns.layout import shipped_layouts
from umbra_awl.core.columns.sample import take_sample
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.radio.memory import Memory
from umbra_awl.core.radio.profile_file import shipped_profiles

PROFILES = shipped_profiles()


@pytest.mark.parametrize("key", ["tarn", "moor", "fell", "crag"])
def test_a_memory_fitted_to_a_radio_is_likeliest_of_its_kind(index, key):
    radio = index.radios[key]
    memory = fit(index, radio, PROFILES[radio.profile]).memory
    first, *rest = likeliest(memory, PROFILES.values())
    assert first.profile.key == radio.profile
    assert first.misses == ()
    assert all(item.misses or item.profile.limits.channels >= first.profile.limits.channels for item in rest)


def test_what_a_radio_could_not_hold_is_said(index):
    radio = index.radios["moor"]
    memory = fit(index, radio, PROFILES["moor4k"]).memory
    by_key = {item.profile.key: " ".join(item.misses) for item in likeliest(memory, PROFILES.values())}
    assert "It shows capitals only" in by_key["tarn16"]
    assert "have a mode or a frequency that it does not have" in by_key["fell-d2"]


def test_a_memory_of_nothing_has_every_radio():
    assert all(not item.misses for item in likeliest(Memory("x"), PROFILES.values()))
    assert likeliest(Memory("x"), ()) == []


CSV = b"Name,Mode,Receive,Squelch type,Remark,Mood\nA,FM,145.5,None,mine,glad\nB,FM,145.6,None,club,glad\n"


def test_columns_that_hold_something_and_are_taken_for_nothing_are_told():
    sample = take_sample("old.csv", CSV)
    layout = guess_layout([sample], "guessed")
    told = passed_over(layout, [sample])
    assert any(text.startswith("old.csv: Remark (mine …)") for text in told)
    assert any(text.startswith("old.csv: Mood (glad in every row)") for text in told)
    assert not any("Receive" in text for text in told)


def test_a_kept_layout_meets_columns_in_another_order_and_ones_it_does_not_know():
    layout = shipped_layouts()[0]
    sheet = next(item for item in layout.sheet if item.what == "channels")
    titles = [*reversed([column.title for column in sheet.column]), "Mood"]
    row = [{"name": "A", "rx": "145.5", "mode": ""}.get(column.field, "") for column in reversed(sheet.column)]
    data = f"{layout.delimiter.join(titles)}\n{layout.delimiter.join([*row, 'glad'])}\n".encode()
    sample = take_sample(sheet.file, data)
    found = as_found(layout, [sample])
    assert [column.title for column in found.sheet[0].column] == titles
    assert passed_over(found, [sample]) == [f"{sheet.file}: Mood (glad in every row)"]
    assert read_files({sheet.file: data}, found).tables["channels"][0]["name"] == "A"
