"""Every scene, and evenings of a few choices, as text that a person reviews: overs by lane, cuts, sounds, notes, the display.

`python -m tests.core.simulation.golden_scenes` writes tests/data/scenes.txt anew; read what changed before keeping it.
"""

from collections.abc import Iterator
from pathlib import Path

from tests.core.simulation.conftest import HOME, TRAVEL
from tests.days import TODAY
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.core.simulation.advice import advice_now
from umbra_awl.core.simulation.evenings import one_evening
from umbra_awl.core.simulation.play import Play, PlayInput, clock_words, lanes_of
from umbra_awl.core.simulation.scenes import lay_out, shipped_scenes
from umbra_awl.core.simulation.setting import ListeningChoice, make_setting
from umbra_awl.demo.fresh import demo_plan

PLACE = Path(__file__).parents[2] / "data" / "scenes.txt"
FELL = ("signal-b>local@0", "signal-b>vlr001-c@1", "signal-b>vlr001-a@2", "signal-b>unlink@0", "signal-b>ds-info@0")
HANDS = {
    "D-STAR: not linked, linked, talked, asked, unlinked": (
        ListeningChoice("fell", FELL, whole=True),
        [(2, "number", FELL[2]), (3, "press"), (6, "release"), (10, "number", FELL[1]), (11, "press"), (13, "release"),
         (20, "number", FELL[2]), (21, "press"), (25, "release"), (30, "number", FELL[3]), (31, "press"), (33, "release")],
    ),
    "home: information, dialled, one-touch keys, monitor": (
        ListeningChoice("moor", ("home-dmr>dialled@1", *HOME), whole=True),
        [(2, "press"), (5, "release"), (8, "key", "monitor"), (20, "key", "scan"), (60, "press"), (63, "release"),
         (70, "key", "lock"), (71, "turn", "1"), (72, "key", "lock"), (73, "turn", "1"), (74, "zone", "1"), (75, "key", "power"),
         (80, "key", "battery")],
    ),
    "Fusion: a room by its DG-ID, then another": (
        ListeningChoice("crag", ("torrick-fusion>velmar-commons@0", "torrick-fusion>torrick-watch@0"), whole=True),
        [(3, "press"), (6, "release"), (10, "number", "torrick-fusion>torrick-watch@0"), (12, "press"), (16, "release")],
    ),
    "away: keyed too short, keyed at once again, held past the time-out": (
        ListeningChoice("tarn", TRAVEL, whole=True),
        [(3, "press"), (3.4, "release"), (4, "press"), (10, "release"), (30, "press"), (240, "release")],
    ),
}  # fmt: skip


def _lines(play: Play) -> Iterator[str]:
    book = play.book
    for bar in book.bars:
        end = f"{bar.end:8.2f}" if bar.end is not None else "       –"
        yield f"  {bar.start:8.2f} {end}  {bar.lane:<28} {bar.tone:<7} {bar.text}"
    for cut in book.cuts:
        yield f"  {cut.at:8.2f} cut {cut.lane}: {cut.reason} | {cut.detail} | {cut.notice}"
    for sound in book.sounds:
        yield f"  {sound.at:8.2f} {sound.kind}: {sound.words}"
    for note in book.notes:
        yield f"  {note.at:8.2f} note {note.lane}: {note.words}"
    for screen in book.screens:
        yield f"  {screen.at:8.2f} display {screen.top} / {screen.bottom}"
    for keyed in play.keyer.done:
        yield f"  keyed {keyed.target.route.key}: came to {keyed.reached}, heard by {', '.join(keyed.heard_by) or 'nobody'}"
    yield f"  advice: {', '.join(item.key for item in advice_now(play)) or 'none'}"


def _scenes(index, fits) -> Iterator[str]:
    for scene in shipped_scenes():
        laid = lay_out(scene, index, fits, shipped_profiles().get, "tarn")
        play = laid.play(3)
        play.advance(60 * scene.minutes)
        yield f"{scene.key}: {laid.setting.radio}, {laid.route}"
        for lane in lanes_of(laid.setting, laid.seen):
            yield f"  lane {lane.key}: {lane.title} {lane.more} {clock_words(laid.setting, 0, lane.zone)}".rstrip()
        yield from _lines(play)


def _hands(index, fits) -> Iterator[str]:
    for name, (choice, inputs) in HANDS.items():
        play = Play(make_setting(index, fits, choice), 5, tuple(PlayInput(*item) for item in inputs))
        play.advance(260)
        yield name
        yield from _lines(play)


def _evenings(index, fits) -> Iterator[str]:
    choices = [
        ListeningChoice("tarn", TRAVEL[:2], sat_down=True),
        ListeningChoice("tarn", HOME, "scan", sat_down=True),
        ListeningChoice("moor", ("blackfell-dmr>isles-wide@2", "blackfell-dmr>great-velmar@1"), "watch"),
        ListeningChoice("tarn", ("calling-fm>local@0", "blackfell-fm>local@0"), "scan", "fm-watch"),
    ]
    for choice in choices:
        setting = make_setting(index, fits, choice)
        yield f"evening of {choice.radio}, {choice.stance}: {', '.join(choice.routes)}"
        yield f"  {setting.stance} {setting.carried}"
        for seed in range(3):
            tally = one_evening(setting, choice.routes, seed, {})
            waits = [
                f"{item.group} {item.hour} {item.seconds:.1f}{' deaf' if item.deaf else ''}" for item in tally.waits
            ]
            yield f"  {tally.calls} calls, missed {dict(tally.missed)}; {'; '.join(waits)}"


def dump() -> str:
    """All of it."""
    index, profiles = PlanIndex(demo_plan(TODAY), TODAY), shipped_profiles()
    fits = {item.key: fit(index, item, profiles[item.profile]) for item in index.plan.radios}
    return "\n".join([*_scenes(index, fits), *_hands(index, fits), *_evenings(index, fits)]) + "\n"


if __name__ == "__main__":
    PLACE.write_text(dump(), "utf-8")
