"""The directory service over real HTTP: what it offers, cuts and resumes, damage, silence."""

import pytest

from umbra_awl.core.directory.download import OfferedFile, fetch, offered, tidy_url
from umbra_awl.core.directory.errors import DownloadError, ImportCancelledError
from umbra_awl.core.directory.importing import read_incoming
from umbra_awl.core.directory.lists.guess import guess
from umbra_awl.core.directory.people import import_people
from umbra_awl.core.directory.store import Store
from umbra_awl.core.tables.table import open_table
from umbra_awl.standins.launch import RegistryProcess, StandInError


@pytest.fixture
def service():
    with RegistryProcess(access=300, people=3_000) as made:
        yield made


def named(files, name):
    return next(file for file in files if file.name == name)


def test_it_offers_files_that_import(service, tmp_path):
    files = offered(service.address)
    assert [file.what for file in files] == ["access", "people", "destinations"]
    store = Store(tmp_path / "s.sqlite")
    seen = []
    path = fetch(
        service.address, named(files, "access-points.csv"), tmp_path, lambda have, size: seen.append((have, size))
    )
    assert seen[-1][0] == seen[-1][1] == path.stat().st_size
    table = open_table(path)
    incoming = read_incoming(store, table, guess(table))
    assert incoming.rows == 300
    assert incoming.lines("refused") == 0
    table = open_table(fetch(service.address, named(files, "people.csv"), tmp_path))
    done = import_people(store, table, guess(table), "2026-11-24")
    assert done.rows + len(done.report) == 3_000
    store.close()


def test_a_cut_is_resumed_where_it_was(tmp_path):
    with RegistryProcess(access=10, people=3_000, faults=["cut@60000"]) as service:
        file = named(offered(service.address), "people.csv")
        with pytest.raises(DownloadError, match="try again to go on from there"):
            fetch(service.address, file, tmp_path)
        part = tmp_path / "people.csv.part"
        kept = part.stat().st_size
        assert 0 < kept <= 60_000
        assert not (tmp_path / "people.csv").exists()
        firsts = []
        path = fetch(service.address, file, tmp_path, lambda have, _size: firsts.append(have))
        assert firsts[0] > kept
        assert path.stat().st_size == file.size
        assert not part.exists()


def test_damage_is_noticed_by_the_checksum(tmp_path):
    with RegistryProcess(access=10, people=10, faults=["damaged"]) as service:
        file = named(offered(service.address), "people.csv")
        with pytest.raises(DownloadError, match="checksum differs"):
            fetch(service.address, file, tmp_path)
    assert list(tmp_path.iterdir()) == []


def test_a_spoiled_beginning_is_not_resumed_for_ever(service, tmp_path):
    file = named(offered(service.address), "people.csv")
    (tmp_path / "people.csv.part").write_bytes(b"x" * 100)
    with pytest.raises(DownloadError, match="checksum differs"):
        fetch(service.address, file, tmp_path)
    assert fetch(service.address, file, tmp_path).stat().st_size == file.size


def test_stopping_keeps_what_came(service, tmp_path):
    file = named(offered(service.address), "people.csv")
    with pytest.raises(ImportCancelledError, match="goes on from there"):
        fetch(service.address, file, tmp_path, cancelled=lambda: True)
    assert (tmp_path / "people.csv.part").stat().st_size > 0


def test_a_service_that_is_down_says_so():
    with (
        RegistryProcess(access=10, people=10, faults=["down"]) as service,
        pytest.raises(DownloadError, match="answers 503"),
    ):
        offered(service.address)
    with pytest.raises(DownloadError, match="does not answer"):
        offered(service.address)


@pytest.mark.parametrize("address", ["", "http://", "http://127.0.0.1:1", "no such://place"])
def test_bad_addresses(address):
    with pytest.raises(DownloadError):
        offered(address)


def test_an_answer_that_is_no_list(service):
    with pytest.raises(DownloadError, match=r"not with a list of files|answers 404"):
        offered(f"{service.address}/people.csv")


def test_sizes_that_cannot_be_are_refused(tmp_path):
    with pytest.raises(DownloadError, match="cannot be right"):
        fetch("http://127.0.0.1:1", OfferedFile("x.csv", "people", "", 10**13, "", ""), tmp_path)


def test_addresses_are_tidied():
    assert tidy_url(" directory.velmar.test/ ") == "http://directory.velmar.test"
    assert tidy_url("https://a.test/index.json") == "https://a.test"


def test_unknown_faults_are_refused():
    with pytest.raises(StandInError, match="is not a fault"):
        RegistryProcess(access=1, people=1, faults=["cut"])


def test_the_same_seed_gives_the_same_data():
    from umbra_awl.standins.registry.world import PEOPLE_HEADERS, as_csv, people_rows

    assert as_csv(PEOPLE_HEADERS, people_rows(50)) == as_csv(PEOPLE_HEADERS, people_rows(50))
    assert all(row[1].startswith("Q") and (not row[0] or row[0].startswith("999")) for row in people_rows(10_200))
    assert len({row[2] for row in people_rows(2_000)}) > 200  # names are many, as in life
