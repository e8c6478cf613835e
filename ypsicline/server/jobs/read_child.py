"""The process that reads one drawing: a line of JSON and the file come in, the outlines or a refusal go out as JSON.

python -m ypsicline.server.jobs.read_child SECONDS MEGABYTES
"""

from __future__ import annotations

import json
import resource
import sys
from dataclasses import asdict, dataclass
from pathlib import Path
from typing import Any

from ypsicline.core.errors import Refusal
from ypsicline.core.formats.read_outlines import ReadOutline
from ypsicline.core.messages import Message

__all__ = ["Answer"]


@dataclass(frozen=True)
class Answer:
    """Outlines, or the message and reason of a refusal."""

    outlines: tuple[ReadOutline, ...] = ()
    refusal: Message | None = None
    reason: str = ""


def answer(question: dict[str, Any], data: bytes) -> Answer:
    try:
        # what reads the other kind takes long to load
        if question["kind"] == "svg":
            from ypsicline.core.formats.read_svg import read_svg

            return Answer(read_svg(data, width_mm=question["width_mm"]))
        from ypsicline.core.formats.read_dxf import read_dxf

        return Answer(read_dxf(data, hidden_layers=question["hidden"]))
    except Refusal as e:
        return Answer(refusal=e.message, reason=e.reason)


def main() -> None:
    seconds, megabytes = (int(a) for a in sys.argv[1:3])
    resource.setrlimit(resource.RLIMIT_CPU, (seconds, seconds))
    used_bytes = int(Path("/proc/self/statm").read_text().split()[0]) * resource.getpagesize()
    resource.setrlimit(resource.RLIMIT_AS, (used_bytes + megabytes * 1_000_000,) * 2)
    question = json.loads(sys.stdin.buffer.readline())
    sys.stdout.write(json.dumps(asdict(answer(question, sys.stdin.buffer.read()))))


if __name__ == "__main__":
    main()
