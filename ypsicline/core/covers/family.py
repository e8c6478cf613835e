"""What every family of covers is: measures, shapes and choices in; panels, joins, notions and sums out.

A family is one module of `families`: a frozen dataclass whose three parts have fields as a maker types them. It is told by
its `family` in files and changes, and found by looking into the package.
"""

from __future__ import annotations

from abc import ABC, abstractmethod
from dataclasses import dataclass, replace
from functools import cache
from typing import Annotated, Any, ClassVar, Union

from pydantic import Field, GetCoreSchemaHandler
from pydantic_core import CoreSchema

from ypsicline.core.covers.cover import Cover
from ypsicline.core.covers.suits import Suits
from ypsicline.core.drafting.house import Cloth, House
from ypsicline.core.messages import message
from ypsicline.core.modules import modules_of
from ypsicline.core.pattern.limits import within
from ypsicline.core.typed import Length, LengthIfTyped, Words

__all__ = ["AnyFamily", "Choices", "Family", "NoShapes", "family_kinds"]


@dataclass(frozen=True)
class Choices:
    """What is chosen for any cover: the `cloth` by its name, how wide it is between its selvages; and the allowances of
    seams and of joins within a strip where the house's rules don't give them."""

    cloth: Words = "outer"
    usable_width: Length = 1400.0
    allowance: LengthIfTyped = None
    join_allowance: LengthIfTyped = None

    def __post_init__(self) -> None:
        within(message("figure_usable_width_of_the_cloth"), self.usable_width, 100, 10_000)
        for what, value in (
            (message("figure_seam_allowance"), self.allowance),
            (message("figure_allowance_of_joins"), self.join_allowance),
        ):
            if value is not None:
                within(what, value, 0, 200)

    def seam(self, house: House) -> float:
        """The allowance of its plain seams, mm."""
        return house.rules_for(self.cloth).seam if self.allowance is None else self.allowance

    def thickness(self, house: House) -> float:
        """How thick one layer of its cloth is, mm: as the house knows it, or as most are."""
        cloth = house.cloth(self.cloth)
        return cloth.thickness_mm if cloth else Cloth(self.cloth).thickness_mm

    def strip_join(self, house: House) -> float:
        """The allowance of joins within a strip, mm."""
        return self.seam(house) if self.join_allowance is None else self.join_allowance


@dataclass(frozen=True)
class NoShapes:
    """Of a family that needs no outline."""


class Family(ABC):
    """A family of covers, its measures taken on the object, in mm.

    `eased_by` are the measures of its eases, each with how many times it is a clearance all round; `suits` are the choices that
    suit answers of a brief.
    """

    eased_by: ClassVar[tuple[tuple[str, float], ...]] = ()
    suits: ClassVar[tuple[Suits, ...]] = ()

    @property
    @abstractmethod
    def family(self) -> str:
        """Its name in files and calls."""

    @property
    @abstractmethod
    def choices(self) -> Choices:
        """How it is made."""

    @property
    @abstractmethod
    def shapes(self) -> Any:
        """The outlines that it is given."""

    @property
    def without_ease(self) -> Family | None:
        """The same close round what it covers; None of one that has no ease."""
        bare: Any = self
        closer = replace(bare.measures, **dict.fromkeys(dict(self.eased_by), 0.0))
        return None if closer == bare.measures else replace(bare, measures=closer)

    @abstractmethod
    def cover(self, house: House) -> Cover:
        """The cover by the rules of a house. Raises `Refusal` that names the measure which is missing or can't be."""


@cache
def family_kinds() -> tuple[type[Family], ...]:
    """Every family: one a module of the package `families`."""
    modules_of("ypsicline.core.covers.families")
    return tuple(sorted(Family.__subclasses__(), key=lambda kind: kind.__module__))


class _OneOfTheFamilies:
    """Read and written as one of the families, told by `family`."""

    def __get_pydantic_core_schema__(self, source: Any, handler: GetCoreSchemaHandler) -> CoreSchema:
        kinds: Any = Union[family_kinds()]  # noqa: UP007 - made of what is there
        return handler.generate_schema(Annotated[kinds, Field(discriminator="family")])


AnyFamily = Annotated[Family, _OneOfTheFamilies()]
"""A cover of any family, as a field of what is read and written."""
