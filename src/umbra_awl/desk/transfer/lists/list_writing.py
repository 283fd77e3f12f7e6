"""Lists of people and of access points, written into a radio."""

from collections.abc import Sequence
from pathlib import Path
from typing import TYPE_CHECKING, NamedTuple

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.plan.model import OwnedRadio
from umbra_awl.core.transfer.around.carry import send_around
from umbra_awl.core.transfer.carry import Follow
from umbra_awl.core.transfer.people.mark import PeopleMark, keep_people_mark, rule_of
from umbra_awl.core.transfer.people.records import people_digest
from umbra_awl.core.transfer.way import Cable

if TYPE_CHECKING:
    from umbra_awl.desk.transfer.lists.list_job import ListJob


class ChosenList(NamedTuple):
    """A list as it would go over: for which radio, its bytes, its rows as shown, how many, its day, what is amiss, seconds."""

    radio: str
    people: bool
    body: bytes
    heads: tuple[str, ...]
    rows: Sequence[tuple[str, ...]]
    total: int
    room: int
    day: str
    fault: str = ""
    seconds: float = 0.0
    words: str = ""


class ListWriting:
    """Writes for a job."""

    def __init__(self, owner: "ListJob") -> None:
        self._job = owner

    def write_people(self, way: Cable, chosen: ChosenList, radio: OwnedRadio, follow: Follow) -> str:
        held, written = way.write_people(chosen.body, chosen.day, follow)
        digest = people_digest(chosen.body).hex()
        mark = PeopleMark(
            chosen.total, digest, rule_of(radio), chosen.day, self._job.bench.clock.today().isoformat(), held.unit
        )
        keep_people_mark(way.shelf, mark)
        same = (
            "nothing had to be sent"
            if not written.sent_blocks
            else f"{written.sent_blocks:,} of {written.blocks:,} blocks sent"
        )
        there = f"{counted(held.rows, 'person is', 'people are')} in the radio"
        return f"Proven: {there}; {same}, every checksum found equal. Its memory was not touched."

    def send_around(self, chosen: ChosenList, _follow: Follow) -> str:
        profile = self._job.runner.profile
        assert profile is not None
        card, today = Path(self._job.runner.ways.card), self._job.bench.clock.today()
        sent = send_around(card, profile, self._job.runner.ways.looker, chosen.body, today)
        there = f"{counted(chosen.total, 'access point lies', 'access points lie')} on the card"
        return f"Sent: {there}, {sent:,} bytes, read back and found equal."

    def people_written(self, told: str) -> None:
        self._job.success = told
        self._job.look()
        self._job.directory.look()

    def around_sent(self, told: str) -> None:
        self._job.success = told
        self._job.look()
