"""Passwords in the system's key store, and nowhere else; where there is none, they are asked for each time.

What few callers need is imported where it is used: it is slow to load, and most starts do without it.
"""

from typing import Protocol

SERVICE = "umbra-awl"


class KeyStore(Protocol):
    """What keeps passwords by service and name."""

    def get_password(self, service: str, username: str) -> str | None:
        """The password, if it is kept."""

    def set_password(self, service: str, username: str, password: str) -> None:
        """Keep one."""

    def delete_password(self, service: str, username: str) -> None:
        """Keep it no more."""


class Secrets:
    """Passwords by what they open (“wifi:Wren-Away”, a page’s by `page_of`); `store` is the system's unless given."""

    def __init__(self, store: KeyStore | None = None) -> None:
        self._store = store
        self._looked = store is not None

    @property
    def store(self) -> KeyStore | None:
        """The key store; None where this system has none that can be used."""
        if not self._looked:
            self._looked = True
            self._store = _system_store()
        return self._store

    @property
    def words(self) -> str:
        """Where passwords are, in a sentence."""
        if self.store is None:
            return (
                "This system has no key store that can be used, so passwords are asked for each time and kept nowhere."
            )
        return "Passwords lie in the system's key store; plan, log and sheets never have them."

    def get(self, what: str) -> str:
        """The password for something; empty where none is kept or the store fails."""
        try:
            return (
                "" if not what else (self.store.get_password(SERVICE, what) if self.store is not None else None) or ""
            )
        except Exception:  # noqa: BLE001  (a key store fails in its own ways: locked, gone; it is asked for then)
            return ""

    def keep(self, what: str, password: str) -> bool:
        """Keep a password, or with an empty one forget it; whether it was done."""
        if self.store is None or not what:
            return False
        try:
            if password:
                self.store.set_password(SERVICE, what, password)
            elif self.get(what):
                self.store.delete_password(SERVICE, what)
        except Exception:  # noqa: BLE001  (the same)
            return False
        return True


class MemoryStore:
    """A key store that lasts as long as the program: for practice, where the real one is not touched."""

    def __init__(self) -> None:
        self._held: dict[tuple[str, str], str] = {}

    def get_password(self, service: str, username: str) -> str | None:
        """The password, if it is kept."""
        return self._held.get((service, username))

    def set_password(self, service: str, username: str, password: str) -> None:
        """Keep one."""
        self._held[service, username] = password

    def delete_password(self, service: str, username: str) -> None:
        """Keep it no more."""
        self._held.pop((service, username), None)


def page_of(plan_file: str, hotspot: str, address: str, answered: str) -> str:
    """Under which name a page's password is kept: it is that of one device, of one plan, at one address.

    `answered` is what the device calls itself; empty, where nothing has answered yet, and then there is no such name.
    """
    if not answered:
        return ""
    from hashlib import sha256

    mark = sha256(f"{plan_file}\0{address}\0{answered}".encode()).hexdigest()[:16]
    return f"hotspot:{hotspot}:{mark}"


def _system_store() -> KeyStore | None:
    import keyring
    from keyring.backends.fail import Keyring as Failing

    try:
        found = keyring.get_keyring()
    except Exception:  # noqa: BLE001  (whatever a broken store does, there is none then)
        return None
    usable = not isinstance(found, Failing) and getattr(found, "priority", 0) > 0
    return found if usable else None
