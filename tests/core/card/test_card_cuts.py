"""A card cut at any point of a write: what was on it before stays whole, and what happened is told the next time."""

import os
import random
import resource
import signal
import time

import pytest

from tests.core.card.bench import NOW, Bench, begun, ended
from tests.examples import share
from umbra_awl.core.keep.atomic import _written_beside
from umbra_awl.core.transfer.carry import Follow, compare
from umbra_awl.core.transfer.errors import CardFullError, CardGoneError, NoCardError

FULL, PULLED = 61, 62
FULL_AT, KILLED, PULLS = range(1_000, 205_000, 204_000 // share(68)), share(90), share(60)
LONGEST_S = 0.06


@pytest.fixture
def ready(tmp_path):
    bench = Bench(tmp_path, "fell-d2")
    bench.out()
    bench.read()
    bench.kept_before = {path.name: path.read_bytes() for path in bench.kept.iterdir()}
    bench.compared = compare(bench.held, bench.memory_of(), bench.profile)
    return bench


def send(bench):
    try:
        bench.way.write(bench.held, bench.compared, Follow())
    except CardFullError:
        return FULL
    except (CardGoneError, NoCardError):
        return PULLED
    return 0


def whole(bench):
    """What the radio wrote is as it was, and a file that was sent is whole or not there; True when it is there."""
    found = {path.name: path.read_bytes() for path in bench.kept.iterdir() if not path.name.startswith(".")}
    sent = found.pop("PLAN0001.AWC", None)
    assert found == bench.kept_before
    view = bench.looker.look(bench.root, bench.profile)
    assert sent is None or [item.name for item in view.memories("computer")] == ["PLAN0001.AWC"]
    assert bench.shelf.load(bench.held.backup).image == bench.held.image
    return sent is not None


def clear(bench):
    (bench.kept / "PLAN0001.AWC").unlink(missing_ok=True)
    bench.shelf.finish(bench.held.unit)


def test_no_room_at_any_point(ready):
    def limited():
        _soft, hard = resource.getrlimit(resource.RLIMIT_FSIZE)
        resource.setrlimit(resource.RLIMIT_FSIZE, (at, hard))
        return send(ready)

    for at in FULL_AT:
        assert ended(begun(limited)) == FULL, at
        assert not whole(ready)
        assert ready.shelf.unfinished() is None
        assert len(list(ready.kept.iterdir())) == 1, "nothing unfinished is left over"


def test_killed_at_any_moment(ready):
    chance = random.Random(14)
    for _time in range(KILLED):
        child = begun(lambda: send(ready))
        time.sleep(chance.uniform(0, LONGEST_S))
        os.kill(child, signal.SIGKILL)
        ended(child)
        there = whole(ready)
        stage = ready.found().stage
        assert stage == "sent" if there and ready.shelf.unfinished() else stage in {"taken", "lost"}
        clear(ready)
    assert ended(begun(lambda: send(ready))) == 0
    assert whole(ready)


def test_pulled_at_any_moment(ready):
    """The card goes from under a write, as a folder that is taken away; what was there is whole when it comes back."""
    chance = random.Random(15)
    away = ready.root.with_name("PULLED")
    for _time in range(PULLS):
        child = begun(lambda: send(ready))
        time.sleep(chance.uniform(0, LONGEST_S))
        ready.root.rename(away)
        code = ended(child)
        assert code in {0, PULLED}
        away.rename(ready.root)
        there = whole(ready)
        assert ready.found().stage == ("sent" if there else "taken") or code == PULLED
        clear(ready)


def test_what_a_kill_left_over_goes_with_the_next_write(ready):
    half = ready.kept / "PLAN0001.AWC"
    assert ended(begun(lambda: bool(_written_beside(half, b"half", 0o600, None)))) == 1
    assert [path.name for path in ready.kept.iterdir() if path.name.startswith(".awl-")]
    assert send(ready) == 0
    assert not [path for path in ready.kept.iterdir() if path.name.startswith(".awl-")]


def test_a_backup_is_kept_before_anything_is_sent(ready):
    assert ready.shelf.backups()[0].when == f"{NOW:%Y-%m-%d %H:%M:%S}"
    for backup in ready.shelf.backups():
        backup.path.unlink()
    with pytest.raises(Exception, match="cannot be used"):
        ready.way.write(ready.held, ready.compared, Follow())
    assert not whole_without_backup(ready)


def whole_without_backup(bench):
    return (bench.kept / "PLAN0001.AWC").exists()
