"""The station that listens to a digitising tablet on this machine. What was touched is kept until it is used."""

from __future__ import annotations

import logging
import re
import socketserver
import threading
import time

from ypsicline.core.capture.tablet import LONGEST_LINE, read_touch
from ypsicline.core.errors import Refusal
from ypsicline.core.geometry.edges import Point

__all__ = ["TabletStation", "listen", "station"]

log = logging.getLogger("ypsicline.tablet")
MOST_TOUCHES = 5000
MOST_CONNECTIONS = 2
IDLE_S = 15 * 60
# whoever hasn't looked for so long doesn't use the tablet any more
_AWAY_S = 15.0
_REQUEST = re.compile(r"[A-Z]{3,8} [/*h]")


class TabletStation:
    """Touches as they come in, from one tablet. They belong to the workshop that looks at them: what is touched while
    nobody looks is nobody's."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._touches: list[Point] = []
        self._wrong = ""
        self._workshop: int | None = None
        self._looked = 0.0
        self.connected = 0

    def take(self, line: str) -> None:
        with self._lock:
            if self._workshop is None:
                return
            try:
                touch = read_touch(line)
            except Refusal as e:
                self._wrong = e.sentence
                return
            if touch is None:
                del self._touches[-1:]
            elif len(self._touches) < MOST_TOUCHES:
                self._touches.append(touch)

    def look(self, workshop: int) -> tuple[list[Point], str] | None:
        """What a workshop touched, and what was wrong with what came last; None while another uses the tablet."""
        with self._lock:
            now = time.monotonic()
            if self._workshop != workshop:
                if self._workshop is not None and now - self._looked < _AWAY_S:
                    return None
                self._workshop = workshop
                self._forget()
            self._looked = now
            return list(self._touches), self._wrong

    def clear(self, workshop: int) -> None:
        with self._lock:
            if self._workshop == workshop:
                self._forget()

    def _forget(self) -> None:
        self._touches.clear()
        self._wrong = ""


class _Tablet(socketserver.StreamRequestHandler):
    timeout = IDLE_S

    def handle(self) -> None:
        at = station()
        if at is None:
            return
        at.connected += 1
        try:
            is_first = True
            while line := self.rfile.readline(2 * LONGEST_LINE):
                text = line.decode("ascii", "replace")
                # a web page could have a browser send touches here, in the body of a request
                if is_first and _REQUEST.match(text):
                    log.info("a browser connected to the tablet's port and was turned away")
                    return
                is_first = False
                at.take(text)
        except OSError as e:
            log.info("tablet went away: %s", e)
        finally:
            at.connected -= 1


class _Server(socketserver.ThreadingTCPServer):
    allow_reuse_address = True
    daemon_threads = True

    def verify_request(self, _request: object, _client_address: object) -> bool:
        at = station()
        return at is not None and at.connected < MOST_CONNECTIONS


_station: TabletStation | None = None


def station() -> TabletStation | None:
    """The station, if this server listens."""
    return _station


def listen(port: int) -> _Server:
    """Listen on this machine only, in the background; `port` 0 takes a free one."""
    global _station
    server = _Server(("127.0.0.1", port), _Tablet)
    _station = TabletStation()
    threading.Thread(target=server.serve_forever, daemon=True).start()
    return server
