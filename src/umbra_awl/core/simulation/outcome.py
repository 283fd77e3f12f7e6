"""What was seen of a play when it is over: one's own overs and what became of them, what others said and one did not hear."""

from collections import Counter
from collections.abc import Iterator

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.simulation.keyed import Keyed
from umbra_awl.core.simulation.play import Play
from umbra_awl.core.simulation.told import GATEWAY, NETWORK, RADIO


def outcome(play: Play) -> tuple[str, ...]:
    """Sentences, one's own overs first; at least one of them."""
    done = play.keyer.done
    own = {keyed.talk.number for keyed in done}
    missed = {cut.over: cut.reason for cut in play.book.cuts if cut.over not in own}
    missed |= {
        bar.over: bar.text for bar in play.book.bars if (bar.lane, bar.tone) == (RADIO, "lost") and bar.over not in own
    }
    told = [*_own(done), *_missed(missed), *_changed(play)]
    return tuple(told) or ("Nobody keyed, and nothing was missed.",)


def _own(done: list[Keyed]) -> Iterator[str]:
    if not done:
        return
    stopped = Counter(keyed.stopped.reason for keyed in done if keyed.stopped is not None)
    through = [keyed for keyed in done if keyed.stopped is None]
    heard = {place for keyed in through for place in keyed.heard_by}
    yield f"You keyed {_times(len(done))}: {_count(len(through), 'over')} went through."
    if heard:
        yield f"Heard by {len(heard)}: {', '.join(sorted(heard)[:4])}."
    for reason, count in stopped.most_common():
        yield f"Cut {_times(count)}: {reason}."


def _missed(reason_of: dict[int, str]) -> Iterator[str]:
    reasons = Counter(reason_of.values())
    if reasons:
        yield f"You did not hear {_count(len(reason_of), 'over')} of others:"
        yield from (f"{reason}, {_times(count)}." for reason, count in reasons.most_common(3))


def _changed(play: Play) -> Iterator[str]:
    """The last thing that changed on the access point or the network."""
    lanes = [note for note in play.book.notes if note.lane in {GATEWAY, NETWORK} or note.lane.startswith("access")]
    if lanes:
        yield f"At {lanes[-1].at:.0f} s: {lanes[-1].words}."


def _times(count: int) -> str:
    return {1: "once", 2: "twice"}.get(count, f"{count} times")


def _count(count: int, word: str) -> str:
    return counted(count, word) if count else f"no {word}s"
