"""A copy of a workshop put back into a new place."""

from __future__ import annotations

from argparse import ArgumentParser
from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError

from ypsicline.core.errors import Refusal
from ypsicline.server.operations.backup import restore


class Command(BaseCommand):
    help = "Put a copy of a workshop into a new or empty folder."
    requires_system_checks = ()

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("copy", type=Path)
        parser.add_argument("into", type=Path, help="a new or empty folder")

    def handle(self, *args: Any, copy: Path, into: Path, **options: Any) -> None:
        try:
            restore(copy, into)
        except Refusal as e:
            raise CommandError(e.sentence) from e
        self.stdout.write(f"Restored. Serve it with YPSICLINE_DATA={into.resolve()} make serve")
