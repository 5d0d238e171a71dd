"""The practice site as a running program, and something between it and its clients that breaks what goes through."""

from __future__ import annotations

import http.client
import re
import signal
import threading
from collections.abc import Callable
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from pathlib import Path

from support.program import Running


class Practice:
    """A running ``verse-tray practise``."""

    def __init__(self, folder: Path, *options: str) -> None:
        self.folder = folder
        self._running = Running("practise", "--into", str(folder), *options, cwd=folder.parent)
        self.pid = self._running.pid
        self.told = self._running.told(lines=2)
        found = re.search(r"http://127\.0\.0\.1:(\d+)/", self.told)
        assert found, self.told
        self.port = int(found[1])
        self.base = f"http://127.0.0.1:{self.port}"
        self.token = (folder / "token").read_text().strip()

    def ask(
        self, path: str, method: str = "GET", body: bytes | None = None, headers: dict[str, str] | None = None
    ) -> tuple[int, dict[str, str], bytes]:
        """Ask for something and return status, headers and body."""
        connection = http.client.HTTPConnection("127.0.0.1", self.port, timeout=20)
        connection.request(method, path, body, headers or {})
        answer = connection.getresponse()
        found = answer.status, {name.lower(): value for name, value in answer.getheaders()}, answer.read()
        connection.close()
        return found

    def stop(self) -> None:
        self._running.send(signal.SIGINT)
        self._running.ended(10)


Fault = Callable[[str, str], str]
"""Takes method and path of a request and says what happens to it: nothing (empty), or a word of ``Between``."""
_NOT_PASSED_ON = ("content-length", "transfer-encoding", "accept-encoding")


class Between:
    """Stands between a client and a site, and breaks what its fault says.

    ``cut-before``: nothing is passed on; ``cut-after``: it is passed on, and the answer is cut off; ``half``: the end
    of the answer is missing; a number: this status comes, after it was passed on; ``away:ADDRESS``: elsewhere it goes.
    """

    def __init__(self, port: int, fault: Fault) -> None:
        outer = self
        self.fault = fault
        self.seen: list[tuple[str, str, dict[str, str]]] = []

        class Handler(BaseHTTPRequestHandler):
            def log_message(self, format: str, *arguments: object) -> None:
                pass

            def _pass_on(self) -> None:
                outer._answer(self, port)

            do_GET = do_POST = _pass_on

        self._server = ThreadingHTTPServer(("127.0.0.1", 0), Handler)
        self.port = self._server.server_address[1]
        self._thread = threading.Thread(target=self._server.serve_forever, daemon=True)
        self._thread.start()

    def _answer(self, handler: BaseHTTPRequestHandler, port: int) -> None:
        body = handler.rfile.read(int(handler.headers.get("content-length", 0)))
        self.seen.append((handler.command, handler.path, {k.lower(): v for k, v in handler.headers.items()}))
        what = self.fault(handler.command, handler.path)
        handler.close_connection = True
        if what == "cut-before":
            return
        if what.startswith("away:"):
            handler.send_response(307)
            handler.send_header("Location", what[5:])
            handler.send_header("Content-Length", "0")
            handler.end_headers()
            return
        mine, theirs = str(self.port), str(port)
        kept = {name: value for name, value in handler.headers.items() if name.lower() not in _NOT_PASSED_ON}
        headers = {name: value.replace(mine, theirs) for name, value in kept.items()}
        connection = http.client.HTTPConnection("127.0.0.1", port, timeout=20)
        path = handler.path.replace(mine, theirs)
        connection.request(handler.command, path, body.replace(mine.encode(), theirs.encode()), headers)
        answer = connection.getresponse()
        data = answer.read().replace(theirs.encode(), mine.encode())
        connection.close()
        if what == "cut-after":
            return
        handler.send_response(int(what) if what.isdecimal() else answer.status)
        for name, value in answer.getheaders():
            if name.lower() not in _NOT_PASSED_ON:
                handler.send_header(name, value.replace(theirs, mine))
        handler.send_header("Content-Length", str(len(data) + 20 * (what == "half")))
        handler.end_headers()
        handler.wfile.write(data)

    def stop(self) -> None:
        self._server.shutdown()
        self._thread.join()
        self._server.server_close()
