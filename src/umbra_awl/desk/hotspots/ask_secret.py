"""Asking for a password: out of the system's key store where it is kept, else typed; it is given on and kept nowhere else."""

from PyQt6.QtWidgets import QCheckBox, QDialog, QLineEdit, QWidget

from umbra_awl.core.hotspot.wifi.secrets import Secrets
from umbra_awl.desk.parts.cards.form_sheet import FormSheet

_SHORTEST = 8


class SecretSheet(FormSheet):
    """Asks for one password."""

    def __init__(self, parent: QWidget, secrets: Secrets, what: str, title: str, lead: str) -> None:
        super().__init__(parent, title, f"{lead} {secrets.words}", self._look)
        self._secrets, self._what = secrets, what
        self.typed = QLineEdit(secrets.get(what))
        self.typed.setEchoMode(QLineEdit.EchoMode.Password)
        self.typed.setAccessibleName("Password")
        self.shown = QCheckBox("show it")
        self.shown.toggled.connect(self._show)
        self.keep = QCheckBox("keep it in the key store")
        self.keep.setEnabled(secrets.store is not None and bool(what))
        self.form.addRow("Password", self.typed)
        self.form.addRow("", self.shown)
        self.form.addRow("", self.keep)
        self._done.setText("Use it")

    def _show(self, on: bool) -> None:
        self.typed.setEchoMode(QLineEdit.EchoMode.Normal if on else QLineEdit.EchoMode.Password)

    def _look(self) -> str:
        """Why it cannot be one; empty when it can. It is kept then where that was asked for."""
        text = self.typed.text()
        if len(text) < _SHORTEST:
            return f"A password has at least {_SHORTEST} characters. Type it as the phone or router shows it."
        if self.keep.isChecked() and not self._secrets.keep(self._what, text):
            return "The key store did not take it. Untick that, or unlock the store and try again."
        return ""


def ask_secret(parent: QWidget, secrets: Secrets, what: str, title: str, lead: str) -> str | None:
    """The password that was given; None when none was."""
    sheet = SecretSheet(parent, secrets, what, title, lead)
    given = sheet.exec() == QDialog.DialogCode.Accepted
    text = sheet.typed.text()
    sheet.typed.clear()
    sheet.deleteLater()
    return text if given else None
