"""A workshop and its first member."""

from __future__ import annotations

import getpass
from argparse import ArgumentParser
from typing import Any

from django.contrib.auth import get_user_model
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.core.management.base import BaseCommand, CommandError
from django.db import transaction

from ypsicline.server.jobs.models import Workshop


class Command(BaseCommand):
    help = "Make a workshop, which its first member owns (or find it by its name), and add a member, whose password is asked for."

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("workshop")
        parser.add_argument("user")

    def handle(self, *args: Any, workshop: str, user: str, **options: Any) -> None:
        users = get_user_model()
        with transaction.atomic():
            member = users.objects.filter(username=user).first()
            if member is None:
                password = getpass.getpass(f"Password for {user}: ")
                try:
                    validate_password(password)
                except ValidationError as e:
                    raise CommandError(" ".join(e.messages)) from e
                member = users.objects.create_user(username=user, password=password)
            row, _ = Workshop.objects.get_or_create(name=workshop)
            row.members.add(member)
            if row.owner_id is None:
                row.owner = member
                row.save(update_fields=["owner"])
        self.stdout.write(f"{user} is a member of {workshop}.")
