"""A simulated radio that nothing shipped resembles, and a person who presses its keys and tells what is seen.

One ring holds mode, width and slot; the page of the offset is there only behind a direction; letters are turned to one by one; a
memory that holds something asks before it is written over; the name needs no second save.
"""

from umbra_awl.core.lessons.understood import SeenLine
from umbra_awl.core.paper.taps import until_parts

RING = ("FM W", "FM N", "DV 1", "DV 2")
SHIFTS = ("SIMPLEX", "DUP+", "DUP-")
TONES = tuple(
    """NONE 67.0 69.3 71.9 74.4 77.0 79.7 82.5 85.4 88.5 91.5 94.8 97.4 100.0 103.5 107.2 110.9 114.8 118.8 123.0
    127.3 131.8 136.5 141.3 146.2 151.4 156.7 162.2 167.9""".split()
)
LETTERS = " ABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789-/+."
RINGS = {"MODE": RING, "SHF": SHIFTS, "TON": TONES, "TX?": ("YES", "NO"), "KIND": ("GROUP", "PERSON")}


class OddRadio:
    """Presses in, a display out, memories kept."""

    def __init__(self):
        self.memories = {}
        self.page, self.typed, self.display = "MENU", "", "MENU"
        self.now = {"MODE": "FM W", "SHF": "SIMPLEX", "TON": "NONE", "TX?": "YES", "KIND": "GROUP"}

    def press(self, key):
        """One key of a sheet; “▲ until X” is pressed until the display is X."""
        if (until := until_parts(key)) is not None:
            for _turn in range(60):
                if self.display == until[1]:
                    return
                self._one(until[0])
            if self.display != until[1]:
                raise AssertionError(f"{key}: never shown, {self.display} at last on {self.page}")
        else:
            self._one(key)

    def _one(self, key):
        if key == "BACK":
            self.page, self.typed, self.display = "READY", "", "READY"
        elif key in {*RINGS.keys() - {"KIND"}, "FRQ", "CC", "TG", "NAM"} and self.page == "READY":
            self._open(key)
        elif key == "hold OK 2s" and self.page == "READY":
            self.page, self.typed, self.display = "MEM", "", "MEM ---"
        elif key in {"▲", "▼"} and self.page in RINGS:
            ring = RINGS[self.page]
            self.display = ring[(ring.index(self.display) + (1 if key == "▲" else -1)) % len(ring)]
        elif key == "▲" and self.page == "NAM":
            self.display = LETTERS[(LETTERS.index(self._letter()) + 1) % len(LETTERS)]
            self.display = "blank" if self.display == " " else self.display
        elif key == "▶" and self.page == "NAM":
            self.typed, self.display = self.typed + self._letter(), "blank"
        elif len(key) == 1 and key.isdigit() and self.page in {"FRQ", "OFS", "CC", "TG", "MEM"}:
            self._digit(key)
        elif key == "OK":
            self._ok()
        else:
            raise AssertionError(f"{key} does nothing on {self.page}")

    def _letter(self):
        return " " if self.display == "blank" else self.display

    def _open(self, key):
        self.page, self.typed = key, ""
        self.display = self.now.get(key, "---") if key in RINGS else "blank" if key == "NAM" else f"{key} -"

    def _digit(self, key):
        self.typed += key
        self.display = self.typed
        if self.page == "FRQ" and len(self.typed) == 7:
            self.now["FRQ"] = int(self.typed) * 100
            self.page, self.display = "READY", f"{int(self.typed) / 1e4:.4f}"
        elif self.page == "OFS" and len(self.typed) == 5:
            self.display = f"{self.typed[:2]}.{self.typed[2:]}"
        elif self.page == "MEM" and len(self.typed) == 3:
            self.display = "REPLACE?" if int(self.typed) in self.memories else f"MEM {self.typed}"

    def _ok(self):
        page, self.page = self.page, "READY"
        if page in RINGS:
            self.now[page] = self.display
            if page == "SHF" and self.display != "SIMPLEX":
                self.page, self.typed, self.display = "OFS", "", "00.000"
                return
        elif page == "OFS":
            self.now["OFS"] = int(self.typed) * 1000
        elif page in {"CC", "TG"}:
            self.now[page] = int(self.typed)
            if page == "TG":
                self.page, self.display = "KIND", self.now["KIND"]
                return
        elif page == "NAM":
            self.now["NAM"] = (self.typed + self._letter()).strip()
        elif page == "MEM":
            self.memories[int(self.typed)] = dict(self.now)
        self.display = "READY"


def held(channel, contacts):
    """What the radio must hold for a channel of the plan."""
    shift = "SIMPLEX" if channel.tx_hz == channel.rx_hz else "DUP+" if channel.tx_hz > channel.rx_hz else "DUP-"
    made = {
        "FRQ": channel.rx_hz, "SHF": shift, "TON": channel.tone_tx or "NONE", "NAM": channel.name,
        "TX?": "NO" if channel.receive_only else "YES", "MODE": ring_word(channel),
    }  # fmt: skip
    if shift != "SIMPLEX":
        made["OFS"] = abs(channel.tx_hz - channel.rx_hz)
    if channel.mode == "dmr":
        made |= {
            "CC": channel.color_code,
            "TG": contacts[channel.contact - 1].call,
            "KIND": kind_word(channel, contacts),
        }
        del made["TON"]
    return made


def kind_word(channel, contacts):
    """Whom it says that it calls."""
    return "PERSON" if contacts[channel.contact - 1].kind == "private" else "GROUP"


def ring_word(channel):
    """The word of its ring."""
    return f"DV {channel.slot or 1}" if channel.mode == "dmr" else "FM W" if channel.width_hz > 12_500 else "FM N"


def person(part, channel, contacts):
    """What a person presses for one part of one memory, and sees."""
    wanted = held(channel, contacts)
    digits = " ".join
    offset = f"{wanted.get('OFS', 0) // 1000:05d}"
    lines = {
        "begin": [("BACK", "READY")],
        "mode": [("MODE", ""), (f"▲ until {wanted['MODE']}", wanted["MODE"], "mode_ring"), ("OK", "READY")],
        "frequency": [("FRQ", "FRQ -"), (digits(f"{channel.rx_hz // 100}"), f"{channel.rx_hz / 1e6:.4f}")],
        "shift": [
            ("SHF", "SIMPLEX"), (f"▲ until {wanted['SHF']}", wanted["SHF"]), ("OK", "00.000"),
            (digits(offset), f"{offset[:2]}.{offset[2:]}"), ("OK", "READY"),
        ],
        "tone": [("TON", ""), (f"▲ until {channel.tone_tx or 'NONE'}", ""), ("OK", "READY")],
        "digital": [("CC", "CC -"), (f"{channel.color_code:02d}", f"{channel.color_code:02d}"), ("OK", "READY")],
        "contact": [("TG", "TG -"), (digits(str(wanted.get("TG", ""))), str(wanted.get("TG", ""))), ("OK", "GROUP"),
                    (f"▲ until {wanted.get('KIND')}", wanted.get("KIND", "")), ("OK", "READY")],
        "silent": [("TX?", "YES"), (f"▲ until {wanted['TX?']}", wanted["TX?"]), ("OK", "READY")],
        "name": [("NAM", "blank"), *_spelled(channel.name), ("OK", "READY")],
        "save": [("hold OK 2s", "MEM ---"), (f"{channel.number:03d}", f"MEM {channel.number:03d}"),
                 ("if REPLACE?: OK", "READY"), ("OK", "READY")],
    }  # fmt: skip
    if part == "shift" and wanted["SHF"] == "SIMPLEX":
        return [SeenLine("SHF", "SIMPLEX"), SeenLine("▲ until SIMPLEX", "SIMPLEX"), SeenLine("OK", "READY")]
    return [SeenLine(*line) for line in lines[part]]


def _spelled(name):
    lines = []
    for letter in name:
        lines += [(f"▲ until {'blank' if letter == ' ' else letter}", letter), ("▶", "")]
    return lines[:-1]
