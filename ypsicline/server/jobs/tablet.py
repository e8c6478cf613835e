"""The station that listens to a digitising tablet on this machine. What was touched is kept until it is used."""

from __future__ import annotations

import logging
import socketserver
import threading

from ypsicline.core.capture.tablet import LONGEST_LINE, read_touch
from ypsicline.core.errors import Refused
from ypsicline.core.geometry.edges import Point

__all__ = ["TabletStation", "listen", "station"]

log = logging.getLogger("ypsicline.tablet")
MOST_TOUCHES = 5000


class TabletStation:
    """Touches as they come in, from one tablet at a time."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._touches: list[Point] = []
        self._wrong = ""
        self.connected = 0

    def take(self, line: str) -> None:
        with self._lock:
            try:
                touch = read_touch(line)
            except Refused as e:
                self._wrong = e.sentence
                return
            if touch is None:
                del self._touches[-1:]
            elif len(self._touches) < MOST_TOUCHES:
                self._touches.append(touch)

    def now(self) -> tuple[list[Point], str]:
        """What was touched, and what was wrong with what came last."""
        with self._lock:
            return list(self._touches), self._wrong

    def clear(self) -> None:
        with self._lock:
            self._touches.clear()
            self._wrong = ""


class _Tablet(socketserver.StreamRequestHandler):
    def handle(self) -> None:
        at = station()
        if at is None:
            return
        at.connected += 1
        try:
            while line := self.rfile.readline(2 * LONGEST_LINE):
                at.take(line.decode("ascii", "replace"))
        except OSError as e:
            log.info("tablet went away: %s", e)
        finally:
            at.connected -= 1


class _Server(socketserver.ThreadingTCPServer):
    allow_reuse_address = True
    daemon_threads = True


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
