"""The Wi-Fi file that is laid beside the image before the first start, in two forms that small Linux computers read.

Sources: wpa_supplicant.conf(5) and the keyfile format of NetworkManager (nm-settings-keyfile(5)). The password goes onto the card
because it must; it is kept nowhere else, and the file is made readable by its owner only.
"""

import uuid
from pathlib import Path
from typing import Literal

from umbra_awl.core.keep.atomic import write_over

WifiForm = Literal["supplicant", "keyfile"]
FILE_NAMES: dict[WifiForm, str] = {"supplicant": "wpa_supplicant.conf", "keyfile": "wifi.nmconnection"}
_SPACE = uuid.UUID("6f8f57c1-2f7c-5c0e-9a53-999421700000")


class WifiFileError(ValueError):
    """A name or password that cannot be laid down; the message says why, without the password."""


def wifi_text(form: WifiForm, name: str, password: str, country: str = "") -> str:
    """The file's text for one network. Raises WifiFileError."""
    if not name or len(name.encode()) > 32:
        raise WifiFileError("A Wi-Fi name has 1 to 32 bytes. Type it as the phone or router shows it.")
    if not 8 <= len(password.encode()) <= 63 or not password.isprintable():
        raise WifiFileError("A Wi-Fi password has 8 to 63 characters, none of them hidden. Type it again.")
    if not name.isprintable():
        raise WifiFileError("The Wi-Fi name has a character that cannot be seen. Type it again.")
    if form == "keyfile":
        ssid = "".join(f"{byte};" for byte in name.encode())
        return (
            f"[connection]\nid=hotspot\nuuid={uuid.uuid5(_SPACE, name)}\ntype=wifi\n\n[wifi]\nmode=infrastructure\n"
            f"ssid={ssid}\n\n[wifi-security]\nkey-mgmt=wpa-psk\npsk={_keyfile(password)}\n\n"
            "[ipv4]\nmethod=auto\n"
        )
    begin = f"country={country}\n" if country else ""
    return f"{begin}network={{\n    ssid={name.encode().hex()}\n    psk={_quoted(password)}\n    key_mgmt=WPA-PSK\n}}\n"


def _quoted(password: str) -> str:
    """A passphrase between quotation marks: the form takes everything up to the last one as it stands."""
    return f'"{password}"'


def _keyfile(password: str) -> str:
    """A value of a keyfile: blanks at its beginning and backslashes are written out."""
    escaped = password.replace("\\", "\\\\")
    return "\\s" + escaped[1:] if escaped.startswith(" ") else escaped


def lay_down(folder: Path, form: WifiForm, name: str, password: str, country: str = "") -> Path:
    """Write the file into a folder, for its owner alone from the first byte. Raises WifiFileError or OSError."""
    text = wifi_text(form, name, password, country)
    if not folder.is_dir():
        raise WifiFileError(f"{folder} is no folder. Choose the card's start folder.")
    path = folder / FILE_NAMES[form]
    path.unlink(
        missing_ok=True
    )  # one that others may read, or that leads elsewhere, gives no mode and no place to a password
    write_over(path, text.encode(), private=True, through_links=False)
    return path


def laid(folder: Path) -> str:
    """The name of a Wi-Fi file that lies in a folder; empty where there is none."""
    return next((name for name in FILE_NAMES.values() if (folder / name).is_file()), "")
