"""Drawings from elsewhere, each read in a process of its own with little time and memory: a hostile one stops only itself."""

from __future__ import annotations

import json
import subprocess
import sys
from typing import Literal

from ypsicline.core.errors import Refusal
from ypsicline.core.formats.documents import load
from ypsicline.core.formats.read_outlines import HiddenLayers, ReadOutline, check_size
from ypsicline.core.messages import message
from ypsicline.server.jobs.read_child import Answer

__all__ = ["read_drawing"]

SECONDS, MEGABYTES = 10, 500


def read_drawing(
    kind: Literal["svg", "dxf"], data: bytes, *, width_mm: float | None = None, hidden_layers: HiddenLayers = "ask"
) -> tuple[ReadOutline, ...]:
    """The outlines of a drawing, as `read_svg` and `read_dxf` give them.

    Raises `Refusal` as they do, and where reading takes over 10 s of computing or 500 MB beyond the reader itself.
    """
    check_size(data, kind.upper())
    question = json.dumps({"kind": kind, "width_mm": width_mm, "hidden": hidden_layers}).encode()
    command = [sys.executable, "-m", "ypsicline.server.jobs.read_child", str(SECONDS), str(MEGABYTES)]
    try:
        run = subprocess.run(  # noqa: S603 - the command is our own
            command, input=question + b"\n" + data, capture_output=True, timeout=4 * SECONDS, check=True
        )
    except (subprocess.TimeoutExpired, subprocess.CalledProcessError) as e:
        raise Refusal(message("file_takes_too_long", kind=kind.upper()), "file") from e
    answer = load(Answer, run.stdout, message("document_drawing"))
    if answer.refusal:
        raise Refusal(answer.refusal, answer.reason)
    return answer.outlines
