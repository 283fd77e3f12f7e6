"""Benchmarks of the ways into a radio: people over the line, a card written, a full memory fitted and laid onto a card."""

import os
import struct
import time
from pathlib import Path

from bench.days import TODAY
from bench.measure import Result, against
from bench.plans import mode_plan
from umbra_awl.core.directory.people_search import Person
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import OwnedRadio
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.core.transfer.card.form import CardFile, CardHeader, pack
from umbra_awl.core.transfer.card.send import put_file
from umbra_awl.core.transfer.carry import Follow
from umbra_awl.core.transfer.image import merge
from umbra_awl.core.transfer.people.records import people_bytes
from umbra_awl.core.transfer.shelf import Shelf
from umbra_awl.core.transfer.way import by_cable
from umbra_awl.standins.launch import RadioProcess
from umbra_awl.standins.radio.device import factory_image

PEOPLE = 8_000
PROFILES = shipped_profiles()


def run(folder: Path) -> list[Result]:
    """All of them."""
    return [_people(folder), _card(folder), *_fit_to_card(folder)]


def _people(folder: Path) -> Result:
    profile = PROFILES["moor4k"]
    memory, port = folder / "moor.radio", folder / "moor.port"
    memory.write_bytes(factory_image(profile))
    rows = [Person(9_990_000 + at, f"Q{at % 10}A{at:04d}", f"Name {at}", "Stenby", "Velmar") for at in range(PEOPLE)]
    body = people_bytes(rows, profile)
    with RadioProcess("moor4k", memory, port):
        way = by_cable(str(port), profile, Shelf(folder / "shelf"))
        start = time.perf_counter()
        way.write_people(body, "2026-11-26", Follow())
        seconds = time.perf_counter() - start
    limit = len(body) * 10 / profile.line.baud
    return Result(
        f"write {PEOPLE:,} people, proven by checksums", seconds, f"{len(body)} bytes at the line's speed", limit, 1.15
    )


def _card(folder: Path) -> Result:
    profile = PROFILES["beck-m5"]
    root = folder / "card"
    root.mkdir()
    file = CardFile(CardHeader("beck-m5", by="computer"), factory_image(profile))
    data, plain = pack(file), root / "plain.bin"

    def limit() -> None:
        new = root / "plain.new"
        with new.open("wb") as out:
            out.write(data)
            out.flush()
            os.fsync(out.fileno())
        new.replace(plain)

    def send() -> None:
        put_file(root, ("BECK-M5", "KEPT"), "PLAN0001.AWC", file)

    return against(
        "lay a memory onto a card, read back", send, "write, fsync, rename of the same bytes", limit, 2.0, rounds=15
    )


def _fit_to_card(folder: Path) -> list[Result]:
    """A D-STAR radio filled to its thousand memories, from the plan to the bytes of the card's file."""
    profile = PROFILES["fell-d2"]
    plan = mode_plan("dstar", 1_000)
    radio = OwnedRadio("fell", "Fell D2", "fell-d2", plan.station.identities[0].key)
    index = PlanIndex(plan, TODAY)
    image = factory_image(profile)
    memory = fit(index, radio, profile).memory
    rows = [(item.rx_hz, item.tx_hz, item.name.encode()) for item in memory.channels]

    def whole() -> None:
        made = fit(PlanIndex(plan, TODAY), radio, profile).memory
        pack(CardFile(CardHeader("fell-d2", by="computer"), merge(image, made, profile)))

    def limit() -> None:
        b"".join(struct.pack("<II16s", *row) for row in rows)
        pack(CardFile(CardHeader("fell-d2", by="computer"), image))

    name = f"fit {len(plan.routes)} routes to a card's {len(rows)} memories"
    return [against(f"{name} (no bar given)", whole, "packing the rows, sealing the image", limit, 999, rounds=5)]
