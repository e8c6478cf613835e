"""A workshop's house rules and cloths: kept with it, taken along by every job."""

from __future__ import annotations

from ypsicline.core.drafting.house import House
from ypsicline.core.formats.documents import dump, load
from ypsicline.core.messages import message
from ypsicline.server.jobs.models import Workshop

__all__ = ["house_of", "keep_house"]


def house_of(workshop: Workshop) -> House:
    """The rules that a new job starts with."""
    return load(House, workshop.house.encode(), message("document_house_rules")) if workshop.house else House()


def keep_house(workshop: Workshop, house: House) -> None:
    workshop.house = dump(house).decode()
    workshop.save(update_fields=["house"])
