"""A stand-in that serves on loopback until it is ended; prints a JSON line with its address when it is ready."""

import json
import signal
import sys
from http.server import HTTPServer
from types import FrameType


def serve(server: HTTPServer) -> None:
    """Serve until terminated."""

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
