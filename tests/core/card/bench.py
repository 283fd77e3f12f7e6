"""A radio with its card on the bench, and the computer's way to it."""

import os
import traceback
from datetime import datetime

from msgspec.structs import replace

from tests.days import TODAY
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.core.transfer.card.look import Looker
from umbra_awl.core.transfer.card.mark import CardMarks
from umbra_awl.core.transfer.card.steps import Past, found_out
from umbra_awl.core.transfer.card.way import CardWay
from umbra_awl.core.transfer.carry import Follow, compare
from umbra_awl.core.transfer.shelf import Shelf, digest
from umbra_awl.demo.fresh import demo_plan
from umbra_awl.standins.card.radio import CARD, READER, CardRadio
from umbra_awl.standins.radio.device import factory_image

PROFILES = shipped_profiles()
NOW = datetime(2026, 11, 26, 20, 0, 0)
CARD_FED = ("fell-d2", "beck-m5", "crag-f3", "syke-f1")


def begun(work):
    """Begin something in a process of its own, which ends with what it returns, or with 70 when it raises; its number."""
    child = os.fork()
    if not child:
        try:
            os._exit(work() or 0)
        except BaseException:  # noqa: BLE001  (whatever it is, the process must end here)
            traceback.print_exc()
        finally:
            os._exit(70)
    return child


def ended(child):
    """The exit code of a process that was begun; negative when it was killed."""
    return os.waitstatus_to_exitcode(os.waitpid(child, 0)[1])


class Bench:
    """One radio, its card, a shelf."""

    def __init__(self, place, key="fell-d2", unit="1", pull_at=0, profile=None, image=None):
        self.profile = profile or PROFILES[key]
        place.mkdir(parents=True, exist_ok=True)
        self.memory = place / "radio.bin"
        if not self.memory.exists():
            self.memory.write_bytes(image or factory_image(self.profile, unit))
        self.radio = CardRadio(self.profile, self.memory, place, pull_at=pull_at)
        self.root = place / READER / CARD
        self.shelf = Shelf(place / "shelf")
        self.looker = Looker()
        self.held = None

    @property
    def way(self):
        others = tuple(item for item in PROFILES.values() if item.key != self.profile.key)
        return CardWay(self.root, self.profile, self.shelf, self.looker, others)

    @property
    def image(self):
        return self.memory.read_bytes()

    @property
    def kept(self):
        """The radio's folder on the card in the reader."""
        return self.root / self.profile.card.folder / self.profile.card.backup

    def memory_of(self, plan=None):
        index = PlanIndex(plan or demo_plan(TODAY), TODAY)
        radio = replace(index.plan.radios[0], profile=self.profile.key, codes=())
        return fit(index, radio, self.profile).memory

    def out(self, scope="everything"):
        """The radio writes out, is switched off, its card goes into the computer."""
        self.radio.write_out(scope)
        self.radio.power()
        self.radio.push_out()

    def back(self):
        self.radio.push_in()
        self.radio.power()

    def read(self):
        self.held = self.way.read(NOW, Follow())
        return self.held

    def send(self, memory=None):
        compared = compare(self.held, memory or self.memory_of(), self.profile)
        return self.way.write(self.held, compared, Follow())

    def load(self, name, scope="everything", yes=None):
        """The radio reads in, saying yes so many times."""
        self.radio.read_in(name, scope)
        for _time in range(self.profile.card.yes if yes is None else yes):
            self.radio.answer(yes=True)

    def found(self):
        unit = self.shelf.known_unit()
        past = Past(
            unit,
            CardMarks(self.shelf).of(unit),
            self.shelf.unfinished(unit),
            digest(self.held.image) if self.held is not None else "",
        )
        return found_out(self.looker.look(self.root, self.profile, self.way.models), self.profile, past)
