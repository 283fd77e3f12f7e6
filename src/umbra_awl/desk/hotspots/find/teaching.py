"""Own rules for lines of a log: made by telling what a line means, kept in a file beside the profiles, taken back again."""

from collections.abc import Callable
from pathlib import Path

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.hotspot.logs.reading import LogReading, read_log_bytes, text_of
from umbra_awl.core.hotspot.logs.rules import LogRules, RulesError, own_rules
from umbra_awl.core.hotspot.logs.teach import Meaning, rules_text, teach
from umbra_awl.core.keep.atomic import write_over
from umbra_awl.desk.hotspots.spot import Spot

FILE = "my-log-lines.toml"
_SHOWN = 60


class Teaching:
    """For the hotspot in hand. `read` is told the log, read anew by the rules as they are then."""

    def __init__(self, spot: Spot, read: Callable[[LogReading], object]) -> None:
        self._spot, self._read = spot, read

    @property
    def path(self) -> Path:
        """Where the rules lie."""
        return self._spot.bench.profiles.folder / "rules" / FILE

    def own(self) -> LogRules:
        """The rules made so far; none where there is no file. Raises RulesError, OSError for one that cannot be read."""
        return own_rules(self.path)

    def teach(self, example: str, meaning: Meaning) -> None:
        """Have this line, and all of its kind, mean that from now on; what cannot be is said."""
        log, bench = self._spot.log, self._spot.bench
        if log is None or not example:
            bench.say("Choose a line first, among those that no rule reads.")
            return
        try:
            own = self.own()
            made = teach(text_of(log.data).splitlines(), example, meaning, own)
            self._keep(LogRules((*own.rule, made.rule)))
        except (RulesError, ValueError, OSError) as error:
            bench.say(str(error), "stop")
            return
        lines = counted(len(made.lines), "line of this log is", "lines of this log are")
        bench.say(f"{lines} read so now: {meaning.words}. “Take the last one back” in the same menu undoes it.")
        self._again(log)

    def take_back(self) -> None:
        """Take the rule that was made last out again."""
        log, bench = self._spot.log, self._spot.bench
        try:
            own = self.own()
            if not own.rule:
                bench.say("No rule of your own is there to take back.")
                return
            self._keep(LogRules(own.rule[:-1]))
        except (RulesError, OSError) as error:
            bench.say(str(error), "stop")
            return
        bench.say(f"Taken back: “{own.rule[-1].example[:_SHOWN]}”.")
        if log is not None:
            self._again(log)

    def _keep(self, rules: LogRules) -> None:
        self.path.parent.mkdir(parents=True, exist_ok=True)
        write_over(self.path, rules_text(rules).encode())

    def _again(self, log: LogReading) -> None:
        rules, today = self._spot.rules, self._spot.bench.clock.today()
        self._spot.bench.jobs.latest("spot-log", lambda: read_log_bytes(log.data, rules, today), self._read)
