"""The files of profiles of one's own: drafts, kept ones, and those that go out and come in."""

from pathlib import Path
from typing import TYPE_CHECKING, Any

from msgspec.structs import replace
from PyQt6.QtWidgets import QFileDialog

from umbra_awl.core.keep.limits import plain_reason
from umbra_awl.core.keep.naming import free_path, path_name
from umbra_awl.core.radio.draft import drop_draft, keep_draft
from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.radio.profile_file import ProfileError, free_profile_key, profile_text, read_profile, save_profile
from umbra_awl.desk.parts.saving import FilePlace, ask_place, save_file

if TYPE_CHECKING:
    from umbra_awl.desk.radios.profile_page import ProfilePage


class ProfileFiles:
    """Keeps, throws away, saves and brings in the profile of a page."""

    def __init__(self, owner: "ProfilePage") -> None:
        self._page = owner

    @property
    def folder(self) -> Path:
        return self._page.bench.profiles.folder / "profiles"

    def note_draft(self) -> None:
        """Keep what was typed beside the kept profiles, in the background."""
        draft, folder = self._page.draft, self.folder
        if draft is not None:
            self._page.bench.jobs.keep("draft", lambda: keep_draft(folder, draft), lambda _none: None, self._no_draft)

    def _no_draft(self, error: Exception) -> None:
        self._page.bench.say(
            f"The draft's file cannot be changed: {error}. Keep the profile once it is free of faults.", "stop"
        )

    def let_draft_go(self, key: str) -> None:
        """Take a draft's file away, after whatever is still being written of it."""
        folder = self.folder
        self._page.bench.jobs.keep("draft", lambda: drop_draft(folder, key), lambda _none: None, self._no_draft)

    def _path(self, profile: Profile) -> Path:
        return self.folder / f"{path_name(profile.key)}.toml"

    def keep(self) -> None:
        """Keep the profile among the own ones; radios can then be of it."""
        if self._page.draft is None:
            return
        try:
            save_profile(self._page.draft, self._path(self._page.draft))
        except ProfileError as error:
            self._page.bench.say(str(error), "stop")
            return
        self._page.kept = True
        self.let_draft_go(self._page.draft.key)
        self._page.bench.reload_profiles()
        self._page.bench.say(f"{self._page.draft.name} is kept. Add a radio of it with + Radio.")

    def throw_away(self, profile: Profile) -> None:
        """Throw an own profile away, unless a radio of the plan is of it."""
        used = [radio.name for radio in self._page.bench.plan.radios if radio.profile == profile.key]
        if used:
            self._page.bench.say(
                f"{', '.join(used)} is of this profile. Remove the radio first, or keep the profile.", "stop"
            )
            return
        away = FilePlace(free_path(self._path(profile).parent, path_name(profile.key), ".old"))
        if not save_file(self._page.bench, away, lambda: profile_text(profile).encode()):
            return
        self._path(profile).unlink(missing_ok=True)
        self.let_draft_go(profile.key)
        if self._page.draft is not None and self._page.draft.key == profile.key:
            self._page.draft = None
        self._page.bench.reload_profiles()
        self._page.bench.say(f"{profile.name} is away; {away.path.name} in the same folder brings it back.")

    def ask_export(self) -> None:
        """Ask for a place and save the profile there."""
        if self._page.draft is not None:
            suggested = Path.home() / f"{path_name(self._page.draft.key)}.toml"
            place = ask_place(self._page, "Save the profile", suggested, "Profiles (*.toml)", ".toml")
            if place is not None:
                self.export(place)

    def export(self, place: FilePlace) -> None:
        """Save the profile as a file that others can bring in."""
        draft = self._page.draft
        if draft is not None:
            save_file(
                self._page.bench, place, lambda: profile_text(draft).encode(), f"The profile is in “{place.path.name}”."
            )

    def ask_import(self) -> None:
        """Ask for a profile's file and bring it in."""
        name, _kind = QFileDialog.getOpenFileName(
            self._page, "Bring a profile in", str(Path.home()), "Profiles (*.toml)"
        )
        if name:
            self.bring_in(Path(name))

    def bring_in(self, path: Path) -> None:
        """Take a profile's file as the draft; it is kept when asked for."""
        self._page.bench.jobs.read(
            "profile",
            read_profile,
            path,
            done=self._brought,
            failed=lambda error: self._page.bench.say(plain_reason(error), "stop"),
        )

    def _brought(self, profile: Profile) -> None:
        shipped = profile.key in self._page.bench.profiles and profile.key not in self._page.bench.profiles.own
        key: Any = free_profile_key(profile.key, self._page.bench.profiles) if shipped else profile.key
        self._page.take_draft(replace(profile, key=key))
        self.note_draft()
