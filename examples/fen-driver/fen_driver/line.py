"""The line of the Fen 20, in words over a network socket: WHO, READ at length, BEGIN, WRITE at bytes, END; one line each.

A port is an address, “127.0.0.1:4020”. The simulated radio below answers the same words.
"""

import contextlib
import socket
import threading
from collections.abc import Iterator, Sequence

from fen_driver.memory import FILE, SIZE, factory
from umbra_awl.core.drivers.protocols import Example
from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.radio.profile_file import read_profile
from umbra_awl.core.transfer.errors import CancelledError, NoPortError, RadioError, SilentError
from umbra_awl.core.transfer.protocols import Block, RadioIdentity, Watch

PATIENCE_S = 2.0


class FenWay:
    """Opens the line."""

    @contextlib.contextmanager
    def open(self, port: str, _profile: Profile) -> "Iterator[FenLine]":
        """A line to the radio at an address."""
        host, _, number = port.rpartition(":")
        try:
            sock = socket.create_connection((host, int(number)), PATIENCE_S)
        except (OSError, ValueError, OverflowError) as error:
            raise NoPortError(f"Nobody answers at “{port}”: {error}. A port reads like 127.0.0.1:4020.") from None
        with sock, sock.makefile("rwb") as file:
            yield FenLine(file)

    @contextlib.contextmanager
    def example(self) -> Iterator[Example]:
        """A simulated radio."""
        with simulated() as radio:
            yield Example(read_profile(FILE), port=radio.port)


class FenLine:
    """Asks, and reads the answers."""

    def __init__(self, file: "socket.SocketIO") -> None:
        self._file = file

    def _ask(self, words: str) -> str:
        try:
            self._file.write(f"{words}\n".encode())
            self._file.flush()
            answer = self._file.readline().decode("ascii", "replace").strip()
        except OSError as error:
            raise SilentError(f"The radio no longer answers: {error}.") from None
        if not answer:
            raise SilentError("The radio has hung up.")
        if answer.startswith("NO"):
            raise RadioError(f"The radio refuses: {answer[3:]}.")
        return answer

    def identify(self) -> RadioIdentity:
        """Ask the radio who it is."""
        model, firmware, size, block, serial = (*self._ask("WHO").split(), "", "", "", "", "")[:5]
        return RadioIdentity(model, firmware, int(size or 0), int(block or 0), serial)

    def read_blocks(self, places: Sequence[tuple[int, int]], watch: Watch) -> list[bytes]:
        """What the radio holds at places."""
        found: list[bytes] = []
        for at, length in places:
            _go_on(watch)
            found.append(bytes.fromhex(self._ask(f"READ {at} {length}")))
            watch.progress(len(found), len(places))
        return found

    def begin(self) -> None:
        """Tell the radio that writing begins."""
        self._ask("BEGIN")

    def write_blocks(self, blocks: Sequence[Block], watch: Watch) -> None:
        """Write blocks, each confirmed."""
        for done, block in enumerate(blocks, 1):
            _go_on(watch)
            self._ask(f"WRITE {block.at} {block.data.hex()}")
            watch.progress(done, len(blocks))

    def end(self) -> None:
        """Tell the radio that all was written."""
        self._ask("END")


def _go_on(watch: Watch) -> None:
    if watch.cancelled():
        raise CancelledError("The transfer was stopped.")


class SimulatedFen:
    """A radio that answers on an address of this computer."""

    def __init__(self) -> None:
        self.image, self.open = bytearray(factory()), False
        self._server = socket.create_server(("127.0.0.1", 0))
        self.port = f"127.0.0.1:{self._server.getsockname()[1]}"
        threading.Thread(target=self._serve, daemon=True).start()

    def _serve(self) -> None:
        with contextlib.suppress(OSError):
            while True:
                talk, _who = self._server.accept()
                with talk, talk.makefile("rwb") as file, contextlib.suppress(OSError):
                    for line in file:
                        file.write(f"{self._answer(line.decode('ascii', 'replace').split())}\n".encode())
                        file.flush()

    def _answer(self, words: list[str]) -> str:
        what, *given = words or ["?"]
        if what == "WHO":
            return f"fen20 1.0 {SIZE} 40 F20-7"
        if what == "READ":
            at, length = int(given[0]), int(given[1])
            return self.image[at : at + length].hex()
        if what in {"BEGIN", "END"}:
            self.open = what == "BEGIN"
            return "OK"
        if what == "WRITE" and self.open:
            at, data = int(given[0]), bytes.fromhex(given[1])
            self.image[at : at + len(data)] = data
            return "OK"
        return "NO not now"

    def close(self) -> None:
        """Switch it off."""
        self._server.close()


@contextlib.contextmanager
def simulated() -> Iterator[SimulatedFen]:
    """A simulated radio as long as the `with` block lasts."""
    radio = SimulatedFen()
    try:
        yield radio
    finally:
        radio.close()
