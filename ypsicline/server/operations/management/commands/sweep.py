"""Removes files that nothing refers to any more, ended sessions, and the traces of work that is long done."""

from __future__ import annotations

from argparse import ArgumentParser
from typing import Any

from django.core.management import call_command
from django.core.management.base import BaseCommand

from ypsicline.server.jobs.sweep import sweep


class Command(BaseCommand):
    help = "Remove files that nothing refers to any more, ended sessions and done tasks."

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("--dry-run", action="store_true", help="only say what would be removed")

    def handle(self, *args: Any, dry_run: bool, **options: Any) -> None:
        swept = sweep(dry_run=dry_run)
        verb = "would be removed" if dry_run else "removed"
        self.stdout.write(
            f"{swept.files} files of {swept.bytes / 1e6:.1f} MB together, {swept.findings} findings and {swept.parts} parts of documents {verb}."
        )
        if not dry_run:
            call_command("clearsessions")
            call_command("prune_db_task_results", verbosity=0)
