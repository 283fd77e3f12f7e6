"""Names and passwords of networks on the page of a hotspot's Wi-Fi."""

from collections.abc import Callable
from typing import TYPE_CHECKING

from msgspec.structs import replace
from PyQt6.QtWidgets import QLineEdit

from umbra_awl.core.hotspot.wifi.letters import compare, doubts, verdict
from umbra_awl.core.hotspot.wifi.phones import kept_phone
from umbra_awl.core.plan.edit.edit_station import set_station
from umbra_awl.core.plan.edit.edits import set_fields
from umbra_awl.core.plan.model import HomeWifi, Phone
from umbra_awl.core.plan.parts import HOTSPOTS

if TYPE_CHECKING:
    from umbra_awl.desk.hotspots.wifi.wifi_page import WifiPage


UPPER_BAND_GHZ = 5.0


class WifiSecrets:
    """Shows, keeps and compares them."""

    def __init__(self, owner: "WifiPage") -> None:
        self._page = owner

    @staticmethod
    def line(field: str, name: str, commit: Callable[[], None]) -> QLineEdit:
        made = QLineEdit()
        made.setProperty("field", field)
        made.setAccessibleName(name)
        made.editingFinished.connect(commit)
        return made

    def secret(self, name: str) -> QLineEdit:
        made = QLineEdit()
        made.setEchoMode(QLineEdit.EchoMode.Password)
        made.setAccessibleName(name)
        made.textChanged.connect(lambda _text: self.compare_secrets())
        return made

    def show_secrets(self, on: bool) -> None:
        for made in (self._page.one, self._page.other):
            made.setEchoMode(QLineEdit.EchoMode.Normal if on else QLineEdit.EchoMode.Password)

    def set_phone(self, _checked: bool = False) -> None:
        held = self._page.spot.bench.plan.station.phone or Phone()
        ghz = UPPER_BAND_GHZ if self._page.five.isChecked() else Phone().band_ghz
        made = replace(held, sharing=self._page.sharing.text(), band_ghz=ghz, sleeps=self._page.sleeps.isChecked())
        if made != held:
            self._page.spot.bench.do(set_station("Set what the phone shares", phone=kept_phone(made)))

    def set_known(self) -> None:
        hotspot = self._page.spot.hotspot
        names = tuple(part.strip(" ") for part in self._page.known.text().split(";") if part.strip())
        if hotspot is not None and names != hotspot.wifi:
            sentence = "Set the Wi-Fi names that the hotspot knows"
            self._page.spot.bench.do(set_fields(HOTSPOTS, hotspot.key, sentence, wifi=names))

    def set_home(self) -> None:
        held = self._page.spot.bench.plan.station.home_wifi or HomeWifi()
        if self._page.home.text() != held.name:
            made = replace(held, name=self._page.home.text())
            self._page.spot.bench.do(
                set_station("Set the name of the Wi-Fi at home", home_wifi=made if made.name else None)
            )

    def compare_secrets(self) -> None:
        one, other = self._page.one.text(), self._page.other.text()
        if not (one and other):
            self._page.same.setText(f"Type both to compare them; nothing is kept. {self._page.spot.secrets.words}")
            return
        told = [f"phone's: {item}" for item in doubts(one)] + [f"hotspot's: {item}" for item in doubts(other)]
        self._page.same.setText(" ".join([verdict(compare(one, other)), *(f"{item}." for item in told)]))
