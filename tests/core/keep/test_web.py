"""Asking over HTTP: however slowly somebody answers, the whole of it ends; nobody is sent on to another place unasked."""

import ast
import contextlib
import socket
import threading
import time

import httpx
import pytest

from tests.source import nodes_of_modules_with
from umbra_awl.core.directory.download import offered
from umbra_awl.core.directory.errors import DownloadError
from umbra_awl.core.keep.web import SlowError, WebLimits, WebRequest, answered

QUICK = WebLimits(5.0, 0.4, 0.8)


@pytest.fixture
def serve():
    """A server on loopback that answers every connection in its own way, until the test ends."""
    listening, over = [], threading.Event()

    def begin(how):
        server = socket.create_server(("127.0.0.1", 0))
        listening.append(server)

        def one(connection):
            with connection, contextlib.suppress(OSError):
                connection.recv(9_999)
                how(connection, over)

        def loop():
            with contextlib.suppress(OSError):
                while True:
                    threading.Thread(target=one, args=(server.accept()[0],), daemon=True).start()

        threading.Thread(target=loop, daemon=True).start()
        return f"http://127.0.0.1:{server.getsockname()[1]}"

    yield begin
    over.set()
    for server in listening:
        server.close()


def dripping_head(connection, over):
    for byte in b"HTTP/1.1 200 OK\r\nx-long: " + b"y" * 5_000:
        connection.sendall(bytes([byte]))
        if over.wait(0.05):
            return


def endless_heads(connection, over):
    while not over.wait(0.05):
        connection.sendall(b"HTTP/1.1 100 Continue\r\n\r\n")


def dripping_body(connection, over):
    connection.sendall(b"HTTP/1.1 200 OK\r\ncontent-length: 100000\r\n\r\n")
    while not over.wait(0.05):
        connection.sendall(b" ")


@pytest.mark.parametrize("how", [dripping_head, endless_heads, dripping_body])
def test_an_answer_that_drips_is_given_up(serve, how):
    address = serve(how)
    with pytest.raises(SlowError, match="too slowly"), answered(WebRequest("GET", address), QUICK) as answer:
        answer.read()


def test_a_body_may_be_long_where_only_its_head_is_limited(serve):
    def late(connection, _over):
        connection.sendall(b"HTTP/1.1 200 OK\r\ncontent-length: 4\r\n\r\n")
        time.sleep(0.6)
        connection.sendall(b"late")

    with answered(WebRequest("GET", serve(late)), WebLimits(5.0, 0.4, None)) as answer:
        assert answer.read() == b"late"


def test_nothing_is_followed_and_nothing_of_the_environment_is_used(monkeypatch):
    monkeypatch.setenv("HTTP_PROXY", "http://nobody.invalid:1")
    seen = []

    def handler(request):
        seen.append(str(request.url))
        return httpx.Response(302, headers={"location": "http://other.test/"})

    with answered(WebRequest("GET", "http://one.test/"), transport=httpx.MockTransport(handler)) as answer:
        assert answer.status_code == 302
    assert seen == ["http://one.test/"]


def redirecting(to):
    def how(connection, _over):
        connection.sendall(b"HTTP/1.1 302 Found\r\nlocation: " + to.encode() + b"\r\ncontent-length: 0\r\n\r\n")

    return how


@pytest.mark.parametrize(
    ("to", "words"),
    [
        ("http://127.0.0.1:1/index.json", "another place"),
        ("http://localhost/index.json", "another place"),
        ("//elsewhere.invalid/index.json", "another place"),
        ("https://127.0.0.1/index.json", "another place"),
        ("/index.json", "from place to place"),
    ],
)
def test_a_directory_sends_nobody_on_to_another_host_or_port(serve, to, words):
    with pytest.raises(DownloadError, match=words):
        offered(serve(redirecting(to)))


def test_there_is_one_way_to_ask():
    calls = {"Client", "AsyncClient", "stream", "get", "post", "put", "request"}
    users = {
        str(path)
        for path, node in nodes_of_modules_with("httpx")
        if isinstance(node, ast.Attribute) and node.attr in calls and getattr(node.value, "id", "") == "httpx"
    }
    assert users == {"core/keep/web.py"}
