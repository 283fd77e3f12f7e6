"""What we write as CSV is never run by a spreadsheet, and our own readers give it back unchanged."""

import csv
import io

import pytest
from hypothesis import example, given
from hypothesis import strategies as st
from msgspec.structs import replace

from tests.days import TODAY
from umbra_awl.core.columns.csv_in import read_files
from umbra_awl.core.columns.csv_out import write_files
from umbra_awl.core.columns.layout import shipped_layouts
from umbra_awl.core.columns.memory_in import MemoryMaker
from umbra_awl.core.columns.round_trip import round_trip
from umbra_awl.core.directory.export import as_csv
from umbra_awl.core.directory.importing import ReportLine, report_csv
from umbra_awl.core.directory.people_search import Person
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.fit.people import ChosenPeople, people_csv
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import AccessPoint, FmAir, Service
from umbra_awl.core.radio.memory import Channel, Contact, Memory, MemoryList
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.core.tables.table import open_table
from umbra_awl.demo.fresh import demo_plan

PROFILES, LAYOUTS = shipped_profiles(), shipped_layouts()
RUN = ["=1+1", "+SUM(A1)", "-2+3+cmd|' /C calc'!A0", "@SUM(1)", '=HYPERLINK("x")', "'=kept", "''@kept"]
HARMLESS = ["-", "+", "-7.6", "+7,6", "plain", "A=B", "'quoted'", ""]
texts = st.sampled_from([*RUN, *HARMLESS]) | st.text(
    st.characters(exclude_characters="\0\r\n", codec="utf-8"), max_size=12
)


def dangerous(cell):
    return cell.startswith(("=", "@", "\t", "\r")) or (
        cell[:1] in "+-" and cell[:1] != "" and any(c in cell for c in "(|!@")
    )


def cells_of(text, delimiter=","):
    return [cell for row in csv.reader(io.StringIO(text), delimiter=delimiter) for cell in row]


@given(texts, texts, texts)
@example("=1+1", "=1+1", "\x1e0\x1e0")
@example("a", "b", "x\x0c1\x0c2\u20283\x854")
def test_an_export_of_access_points_is_read_back_as_it_was(tmp_path_factory, site, place, note):
    service = Service("s", 145_712_500, 145_112_500, FmAir("103.5"))
    text = as_csv([AccessPoint("a", "Q0BLK", site, "repeater", place, (service,), note=note)])
    assert not any(map(dangerous, cells_of(text)))
    path = tmp_path_factory.mktemp("csv") / "a.csv"
    path.write_text(text, "utf-8", newline="")
    (row,) = list(open_table(path).rows())
    assert (row.cells[1], row.cells[2], row.cells[-1]) == (site, place, note)


@pytest.mark.parametrize("name", RUN)
@pytest.mark.parametrize("layout", LAYOUTS, ids=lambda item: item.name)
def test_a_memory_through_a_layout_is_never_run_and_comes_back(name, layout):
    contacts = (Contact(1, name, 99_900),)
    channels = (
        Channel(1, name, "dmr", 438_612_500, 431_012_500, color_code=6, slot=1, contact=1, group_list=1),
        Channel(2, "PLAIN", "fm", 145_712_500, 145_112_500, tone_tx="103.5"),
    )
    memory = Memory("tarn16", channels=channels, contacts=contacts, group_lists=(MemoryList(1, name, (1,)),))
    memory = replace(memory, zones=(MemoryList(1, name, (1, 2)),))
    written = write_files(memory, layout)
    for data in written.files.values():
        assert not any(map(dangerous, cells_of(data.decode(layout.encoding), layout.delimiter)))
    if not written.notes:
        back = MemoryMaker(read_files(written.files, layout)).make()
        assert name in [channel.name for channel in back.channels]


def test_the_demo_loses_no_more_by_it_than_before():
    plan = demo_plan(TODAY)
    radio = next(item for item in plan.radios if item.profile == "moor4k")
    memory = fit(PlanIndex(plan, TODAY), radio, PROFILES["moor4k"]).memory
    renamed = tuple(replace(item, name=f"-N{item.number}") for item in memory.channels)
    layout = next(item for item in LAYOUTS if any(sheet.what == "zones" for sheet in item.sheet))
    before = round_trip(memory, layout).lost
    after = round_trip(replace(memory, channels=renamed), layout).lost
    assert after == before


def test_people_and_reports_are_guarded_too():
    person = Person(9_990_001, "Q1ADA", "=cmd", "@place", "+land(1)")
    text = people_csv(ChosenPeople([person], 1, 10, 0), PROFILES["moor4k"]).decode()
    assert not any(map(dangerous, cells_of(text)))
    assert not any(map(dangerous, cells_of(report_csv([ReportLine(1, "=row", "@why")]))))
