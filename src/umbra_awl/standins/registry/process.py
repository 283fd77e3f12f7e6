"""The service as a process of its own; prints a JSON line with its address when it is ready."""

import json
import signal
import sys
from types import FrameType

from umbra_awl.standins.registry.service import Faults, Sizes, make_server


def run(port: int, sizes: Sizes, faults: Faults) -> None:
    """Serve until terminated."""
    server = make_server(port, sizes, faults)

    def stop(_number: int, _frame: FrameType | None) -> None:
        raise KeyboardInterrupt

    signal.signal(signal.SIGTERM, stop)
    sys.stdout.write(json.dumps({"event": "ready", "address": f"http://127.0.0.1:{server.server_port}"}) + "\n")
    sys.stdout.flush()
    try:
        server.serve_forever(poll_interval=0.2)
    except KeyboardInterrupt:
        pass
    finally:
        server.server_close()
