"""A checked copy of the workshop in one file, also while it is served."""

from __future__ import annotations

import time
from argparse import ArgumentParser
from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError

from ypsicline.core.errors import Refusal
from ypsicline.server.operations.backup import back_up


class Command(BaseCommand):
    help = "Copy the workshop's database and files into one file, and read it back."

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("--to", type=Path, help="the folder for copies; by default `copies` beside the workshop")
        parser.add_argument("--keep", type=int, help="how many copies stay there")
        parser.add_argument("--every", type=float, metavar="HOURS", help="go on and make one every so many hours")

    def handle(self, *args: Any, to: Path | None, keep: int | None, every: float | None, **options: Any) -> None:
        if keep is not None and keep < 1:
            raise CommandError("At least one copy has to stay: --keep 1 or more.")
        if every is not None and not 0.01 <= every <= 10_000:
            raise CommandError("Copies are made every 0.01 to 10 000 hours.")
        while True:
            try:
                copy = back_up(settings.DATA, to or settings.DATA.parent / "copies", keep=keep)
            except Refusal as e:
                raise CommandError(e.sentence) from e
            self.stdout.write(f"{copy} ({copy.stat().st_size / 1e6:.1f} MB), read back and found whole.")
            self.stdout.flush()
            if every is None:
                return
            time.sleep(every * 3600)
