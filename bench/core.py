"""Benchmarks of the core: opening, saving, fitting, findings, the shell, the line."""

import json
import os
import statistics
import struct
import subprocess
import sys
import time
from datetime import datetime
from pathlib import Path

from bench.days import LOCAL, TODAY
from bench.measure import Result, against, timed
from bench.plans import big_plan
from umbra_awl.core.findings.evaluate import Evaluator
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.keep.atomic import write_over
from umbra_awl.core.plan.disk.file_form import parse_plan, plan_bytes
from umbra_awl.core.plan.disk.store import Document
from umbra_awl.core.plan.edit.edits import set_fields
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.parts import DESTINATIONS
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.core.routes.punch import punch, set_route
from umbra_awl.core.transfer.carry import compare, read_radio, write_radio
from umbra_awl.core.transfer.link import Link
from umbra_awl.core.transfer.serial_line import SerialLine
from umbra_awl.core.transfer.shelf import Shelf
from umbra_awl.demo.fresh import demo_plan, lay_out
from umbra_awl.standins.launch import RadioProcess

NOW = datetime(2026, 11, 24)


def run(folder: Path) -> list[Result]:
    """All of them."""
    plan = big_plan()
    return [*_files(plan, folder), *_fit(plan), *_findings(plan), *_shell(folder), *_line(folder)]


def _files(plan, folder):
    data = plan_bytes(plan)
    print(f"the big plan: {len(plan.routes)} routes, {len(plan.destinations)} destinations, {len(data) / 1e6:.2f} MB")
    path = folder / "big.awl.json"
    path.write_bytes(data)
    document = Document.open(path, LOCAL)

    def save():
        document.save(NOW)

    def plain():
        write_over(folder / "plain.json", data)

    results = [
        against(
            "open the big plan", lambda: parse_plan(data), "json.loads of the same bytes", lambda: json.loads(data), 0.8
        ),
        against("save the big plan, with its dated copy", save, "write, fsync, rename", plain, 2.0, rounds=15),
    ]
    edit = timed(lambda: document.edit(set_fields(DESTINATIONS, "p8000", "x", name="Other")))
    print(
        f"one edit of the big plan, journalled: {edit * 1000:.2f} ms (replacing one of 4,000 values should stay under 1 ms)"
    )
    index = PlanIndex(plan, TODAY)
    route = plan.routes[2000]
    from umbra_awl.core.routes.punch import set_route

    change = set_route(index, route.key, "x", power="low")
    print(f"replacing one of 4,000 routes: {min(timed(lambda: change.apply(plan)) for _ in range(9)) * 1000:.2f} ms")
    document.close()
    return results


def _fit(plan):
    profile = shipped_profiles()["moor4k"]
    memory = fit(PlanIndex(plan, TODAY), plan.radios[0], profile).memory
    channel, contact = struct.Struct("<IIBBBBHHBHH16s"), struct.Struct("<IB16s")

    def pack():
        rows = [
            channel.pack(
                row.rx_hz,
                row.tx_hz,
                2,
                0,
                row.power,
                row.color_code << 4 | row.slot,
                row.contact,
                row.group_list,
                0,
                0,
                0,
                row.name.encode(),
            )
            for row in memory.channels
        ]
        rows += [contact.pack(row.call, 1 if row.kind == "group" else 2, row.name.encode()) for row in memory.contacts]
        for table in (memory.group_lists, memory.zones, memory.scans):
            rows += [
                struct.pack(f"<B16s{len(row.members)}H", len(row.members), row.name.encode(), *row.members)
                for row in table
            ]
        return b"".join(rows)

    from umbra_awl.core.routes import names, ways

    def fresh():
        for cached in (ways.ways_of, names._chosen):
            cached.cache_clear()
        fit(PlanIndex(plan, TODAY), plan.radios[0], profile)

    def again():
        fit(PlanIndex(plan, TODAY), plan.radios[0], profile)

    index = PlanIndex(plan, TODAY)
    fit(index, plan.radios[0], profile)
    edited = set_route(index, plan.routes[1_000].key, "Low power", power="low").apply(plan)

    def after():
        fit(index.after(edited), plan.radios[0], profile)

    print(f"fit: {len(memory.channels)} channels, {len(memory.contacts)} contacts, {len(memory.zones)} zones")
    return [
        against("fit 4,000 routes, names never seen before", fresh, "packing the finished rows", pack, 25),
        against("fit 4,000 routes again, from nothing", again, "packing the finished rows", pack, 25),
        against("fit 4,000 routes after one edit", after, "the same from nothing", fresh, 0.2),
    ]


def _findings(plan):
    profiles = shipped_profiles()
    warm = Evaluator(profiles)
    warm.evaluate(PlanIndex(plan, TODAY))
    state = {"index": PlanIndex(plan, TODAY), "at": 0}
    services = [service.key for _access, service in state["index"].all_services()]

    def after_edit():
        index = state["index"]
        state["at"] += 1
        edit = punch(index, services[state["at"] % 200], f"g{state['at'] * 7 % 400}")
        edited = edit.apply(index.plan)
        index.by_crossing  # noqa: B018  (the edit's own look-up, not the findings')
        start = time.perf_counter()
        state["index"] = index.after(edited)
        warm.evaluate(state["index"])
        return time.perf_counter() - start

    edits = statistics.median(after_edit() for _ in range(15))

    def full():
        Evaluator(profiles).evaluate(PlanIndex(plan, TODAY))

    whole = statistics.median(timed(full) for _ in range(9))
    return [Result("findings after one edit", edits, "the full set of findings", whole, 0.2)]


def _shell(folder):
    path = folder / "demo.awl.json"
    path.write_bytes(plan_bytes(demo_plan(TODAY)))
    quiet = {
        "stdout": subprocess.DEVNULL,
        "check": False,
        "env": {k: v for k, v in os.environ.items() if k != "PYTHONDONTWRITEBYTECODE"},
    }
    verb = str(Path(sys.executable).parent / "umbra-awl")

    def check():
        subprocess.run([verb, "check", str(path)], **quiet)  # noqa: PLW1510  (check is in quiet)

    def trace():
        subprocess.run([verb, "trace", str(path), "--radio", "tarn", "--channel", "BLK ISLES"], **quiet)  # noqa: PLW1510

    def bare():
        subprocess.run([sys.executable, "-c", "pass"], **quiet)  # noqa: PLW1510

    return [
        against("shell: check", check, "python -c pass", bare, 12),
        against("shell: trace", trace, "python -c pass", bare, 12),
    ]


def _line(folder):
    demo = lay_out(folder / "demo", TODAY)
    profile_key, memory, port = demo.radios["tarn"]
    profile = shipped_profiles()[profile_key]
    shelf = Shelf(folder / "shelf")
    index = PlanIndex(demo_plan(TODAY), TODAY)
    result = fit(index, index.radios["tarn"], profile)
    with RadioProcess(profile_key, memory, port):
        line = SerialLine(str(port), profile.line.baud)
        link = Link(line)
        start = time.perf_counter()
        held = read_radio(link, profile, shelf, NOW)
        compared = compare(held, result.memory, profile)
        written = write_radio(link, profile, shelf, held, compared)
        seconds = time.perf_counter() - start
        line.close()
    moved = 2 * profile.image.size + written.sent
    limit = moved * 10 / profile.line.baud
    return [
        Result("read, merge, write, read back one radio", seconds, f"{moved} bytes at the line's speed", limit, 1.15)
    ]
