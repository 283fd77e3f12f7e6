"""Which app serves which radio on which phone: a table out of the profiles, with the day of that knowledge."""

from collections.abc import Iterable
from typing import NamedTuple

from umbra_awl.core.radio.profile import Profile


class Support(NamedTuple):
    """One line: the radio, the phone's platform, how the app reaches it, what it carries, what to buy, how old this is."""

    radio: str
    platform: str
    links: str
    carries: str
    needs: str
    known: str


def support_table(profiles: Iterable[Profile]) -> tuple[Support, ...]:
    """All lines, by radio and platform; a radio without any app has a line that says so."""
    made: list[Support] = []
    for profile in profiles:
        made += [
            Support(
                profile.name,
                app.platform,
                " or ".join(app.links),
                ", ".join(app.carries) or "nothing",
                app.needs,
                app.known,
            )
            for app in profile.apps
        ] or [Support(profile.name, "none", "", "no app is known", "", "")]
    return tuple(sorted(made))
