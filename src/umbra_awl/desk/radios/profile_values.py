"""What a profile of one's own says, value by value, as fields that are changed in place."""

from collections.abc import Callable, Iterator
from functools import partial
from typing import TYPE_CHECKING

from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.radio.profile_check import ProfileFault
from umbra_awl.core.radio.profile_edit import set_value
from umbra_awl.core.radio.profile_values import printed, values_of
from umbra_awl.core.radio.taken_over import PARTS, drop_part, missing_parts, offered_parts, take_part
from umbra_awl.desk.parts.cards.fields import Choice, Field

if TYPE_CHECKING:
    from umbra_awl.desk.radios.profile_page import ProfilePage


_PARTS_AT = 2
"""Behind its name and its line stands what is not told yet."""


class ProfileValues:
    """The fields of the profile in the making."""

    def __init__(self, owner: "ProfilePage") -> None:
        self._page = owner

    def fields(self, draft: Profile, faults: list[ProfileFault]) -> Iterator[Field]:
        wrong = {fault.field for fault in faults}
        similar = self._page.bench.profiles.get(draft.own_of)
        for at, value in enumerate(values_of(draft)):
            if at == _PARTS_AT and similar is not None:
                yield from self._part_fields(draft, similar)
            tone = "stop" if any(name.startswith(value.field) for name in wrong) else ""
            shown = printed(draft, value)
            if value.options:
                choices = [
                    Choice(text, partial(self._choose, value.field, key), key in shown.split(", "))
                    for key, text in value.options.items()
                ]
                words_ = ", ".join(value.options.get(item, item) for item in shown.split(", ") if item)
                words_ = words_ or value.options.get("", "none")
                yield Field(value.label, words_, tone=tone, choices=choices, tip=value.tip)
            else:
                yield Field(value.label, shown or "–", True, tone, self._commit(value.field), text=shown, tip=value.tip)

    def _part_fields(self, draft: Profile, similar: Profile) -> Iterator[Field]:
        """What may be the same as on the similar radio, part by part."""
        missing, offered = missing_parts(draft), offered_parts(draft, similar)
        for part in PARTS:
            told = part not in missing
            if not told and part not in offered:
                continue
            same = part.field in draft.confirmed
            shown = f"the same as on the {similar.name}" if same else "described" if told else "not told"
            choices = [
                Choice("not told", partial(self._part, drop_part, part.field), not told),
                Choice(f"the same as on the {similar.name}", partial(self._part, take_part, part.field, similar), same),
            ]
            yield Field(part.words, shown, tone="" if told else "brass", choices=choices, tip=f"For {part.needed}")

    def _part(self, change: Callable[..., Profile], field: str, similar: Profile | None = None) -> None:
        if self._page.draft is not None:
            given = (self._page.draft, field) if similar is None else (self._page.draft, similar, field)
            self._page.draft, self._page.kept = change(*given), False
            self._page.files.note_draft()
            self._page.refresh()

    def _commit(self, field: str) -> Callable[[str], str]:
        def commit(text: str) -> str:
            return self.change(field, text)

        return commit

    def _choose(self, field: str, key: str) -> None:
        fault = self.change(field, key)
        if fault:
            self._page.bench.say(fault, "stop")

    def change(self, field: str, text: str) -> str:
        """Set a value of the draft; the reason when it is none."""
        if self._page.draft is None:
            return ""
        try:
            self._page.draft = set_value(self._page.draft, field, text)
        except ValueError as error:
            return str(error)
        self._page.kept = False
        self._page.files.note_draft()
        self._page.refresh()
        return ""
