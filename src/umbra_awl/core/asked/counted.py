"""Lead time, the score of a place, the calibrated offset, missed calls, people and shares declare themselves."""

from collections.abc import Callable, Mapping, Sequence

from umbra_awl.core.agenda.lead import Chart
from umbra_awl.core.asked.figure import Figure, FigureInput, WorkingLine
from umbra_awl.core.asked.formula import FUNCTIONS
from umbra_awl.core.facts.counting import counted
from umbra_awl.core.fit.people import ChosenPeople
from umbra_awl.core.hotspot.calibrate.model import estimate
from umbra_awl.core.hotspot.place.ruler import LEAST_SPACING_HZ, USABLE, Reason
from umbra_awl.core.logbook.proof import Shares
from umbra_awl.core.plan.model import Reading
from umbra_awl.core.simulation.evenings import Evenings

_95 = 1.96
HEARING, SPACING = ", hearing", "spacing of the pair"
"""How reasons of the side that hears end, and what the reason for the spacing of a pair is called."""


def lead_figure(chart: Chart) -> Figure | None:
    """Days until everything is done, each step as long as it is likely; None where nothing is left to do."""
    left = [bar for bar in chart.bars if not bar.done]
    if not left:
        return None
    last = max(left, key=lambda bar: bar.end)
    chain, known = [last], {bar.step.key: bar for bar in chart.bars}
    while True:
        before = [known[key] for key in chain[-1].step.after if key in known and not known[key].done]
        earlier = max(before, key=lambda bar: bar.end, default=None)
        if earlier is None or earlier in chain:
            break
        chain.append(earlier)
    chain.reverse()
    inputs, ended = [], 0.0
    for number, bar in enumerate(chain, 1):
        office = ", Monday to Friday" if bar.step.office else ""
        words = f"{bar.step.name}: likely {bar.step.likely:g} days{office}"
        inputs.append(
            FigureInput(f"step{number}", words, bar.end - ended, "days on the calendar", "the chart of steps")
        )
        ended = bar.end
    formula = f"sum({', '.join(item.name for item in inputs)})"
    return Figure(
        "lead", "Lead time: days until you are on the air", last.end, "days",
        (WorkingLine("days", "one after another", formula, "days"),), tuple(inputs),
        "The longest chain of the steps that wait for one another.",
        note="A day from the likely days alone; the drawn runs tell its spread. Public holidays are not known here.",
    )  # fmt: skip


def place_figure(reasons: Sequence[Reason], score: int, words: str, shift_hz: int = 0) -> Figure:
    """The score of a channel for a hotspot, out of what each term takes; of a pair (`shift_hz` apart) out of both its sides."""
    spacing = sum(item.points for item in reasons if item.name == SPACING)
    hears = [item for item in reasons if item.name.endswith(HEARING)]
    sends = [item for item in reasons if item not in hears and item.name != SPACING]
    inputs, lines = [], []
    for at, side in enumerate(filter(None, (sends, hears)), 1):
        names = [f"t{at}_{number}" for number in range(1, len(side) + 1)]
        inputs += [
            FigureInput(name, item.name, item.points, "points", item.words, fixed=item.stop)
            for name, item in zip(names, side, strict=True)
        ]
        title = "where it hears" if side is hears else "where it sends"
        lines.append(WorkingLine(f"side{at}", title, f"max(0, min(100, 100 - sum({', '.join(names)})))", "points"))
    close = bool(shift_hz) and abs(shift_hz) < LEAST_SPACING_HZ
    inputs += [
        FigureInput(
            "spacing", "what the spacing of a pair takes", spacing, "points", "the two frequencies", fixed=True
        ),
        FigureInput(
            "most", "most that such a place can have", USABLE - 1 if close else 100, "points", "the spacing", fixed=True
        ),
    ]
    sides = ", ".join(line.name for line in lines)
    lines.append(
        WorkingLine("score", "the worse of its sides", f"min(max(min({sides}, 100) - spacing, 0), most)", "points")
    )
    return Figure(
        "place", f"Score of {words}", score, "of 100", tuple(lines), tuple(inputs),
        "The program's own terms; each takes points, one that stops a channel takes all.", places=0,
    )  # fmt: skip


def _centre(*numbers: float) -> float:
    """The most likely centre of readings, each as offset in hertz, wrong bits, bits."""
    rows = (numbers[at : at + 3] for at in range(0, len(numbers), 3))
    readings = [Reading(round(offset), round(errors), round(bits)) for offset, errors, bits in rows]
    return estimate(readings).center_hz


_WITH_CENTRE: Mapping[str, Callable[..., float]] = {**FUNCTIONS, "centre": _centre}


def offset_figure(readings: Sequence[Reading], side: str, correction_hz: int) -> Figure | None:
    """The calibrated offset of one side: the correction in force and what the readings say is left; None without readings."""
    counted = [item for item in readings if item.side == side and not item.left_out]
    if not counted:
        return None
    inputs = []
    for number, item in enumerate(counted, 1):
        day = item.day or "no day"
        inputs += [
            FigureInput(f"o{number}", f"reading {number}: offset", item.offset_hz, "Hz", f"read on {day}", fixed=True),
            FigureInput(f"e{number}", f"reading {number}: wrong bits", item.errors, "bits", f"read on {day}"),
            FigureInput(f"b{number}", f"reading {number}: bits", item.bits, "bits", f"read on {day}", fixed=True),
        ]
    names = ", ".join(item.name for item in inputs)
    found = estimate(counted)
    return Figure(
        "offset", f"Calibrated offset, {side}", found.center_hz, "Hz",
        (WorkingLine("offset", "where the error rate is least", f"centre({names})", "Hz"),), tuple(inputs),
        "The most likely centre of a rise of errors to both sides: floor + (0.5 − floor)·(1 − exp(−(distance/width)^shape)).",
        places=0, note=f"Known to ± {found.half_hz:.0f} Hz. The correction in force is {correction_hz:+d} Hz.",
        functions=_WITH_CENTRE,
    )  # fmt: skip


def missed_figure(result: Evenings) -> Figure:
    """The share of calls to me that I would miss, in per cent, out of many simulated evenings."""
    number = result.missed.number
    inputs = [
        FigureInput(
            "calls", "calls to me", number, "", f"{counted(result.number, 'evening')}, seed {result.seed}", fixed=True
        )
    ]
    inputs += [
        FigureInput(f"missed{at}", f"missed: {key}", round(share.value * number), "", "counted in the evenings")
        for at, (key, share) in enumerate(result.reasons, 1)
    ]
    names = ", ".join(item.name for item in inputs[1:])
    lines = (
        WorkingLine("missed", "missed, whatever the reason", f"sum({names})" if names else "0"),
        WorkingLine("share", "of all calls", "100 * missed / calls if calls > 0 else 0", "%"),
    )
    return Figure(
        "missed", "Calls to me that I would miss", 100 * result.missed.value, "%", lines, tuple(inputs),
        "Counted in simulated evenings; the figures of the traffic are own estimates, or measured from a log.",
        note=f"± {100 * result.missed.off:.1f} % in 95 of 100 such runs ({_95} times the spread of a share).",
    )  # fmt: skip


def people_figure(chosen: ChosenPeople, firmware: str) -> Figure:
    """How many people go into a radio."""
    inputs = (
        FigureInput("wanted", "people the rules ask for", chosen.wanted, "", "the directory and the radio's rules"),
        FigureInput(
            "room", "room in the radio", chosen.room, "", f"its firmware: {firmware}" if firmware else "its profile"
        ),
    )
    return Figure(
        "people", "People that go into the radio", len(chosen.rows), "",
        (WorkingLine("rows", "the smaller of both", "min(wanted, room)"),), inputs,
        "The rules by which people are chosen for this radio.", places=0,
    )  # fmt: skip


def proven_figure(shares: Shares, words: str) -> Figure:
    """The share of some routes that is proven, in per cent."""
    inputs = (
        FigureInput("proven", "proven both ways, sound and not old", shares.proven, "", "the log"),
        FigureInput("doubtful", "in part, old, or doubtful by a change", shares.doubtful, "", "the log and the plan"),
        FigureInput("failed", "failed since", shares.failed, "", "the log"),
        FigureInput("never", "never tried", shares.never, "", "the log"),
    )
    lines = (
        WorkingLine("routes", "routes", "sum(proven, doubtful, failed, never)"),
        WorkingLine("share", "of them proven", "100 * proven / routes if routes > 0 else 0", "%"),
    )
    return Figure(
        "proven", f"Share proven: {words}", 100 * shares.share, "%", lines, inputs,
        "A route counts once hearing and being heard are proven, nothing it stood on has changed, and it is under a year old.",
        places=0,
    )  # fmt: skip
