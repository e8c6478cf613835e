"""What every finish of an edge is: how its cloth is cut beyond the seam line, and what is done with it there.

A finish is one module of `finishes/`: its name, as files and changes have it, and its allowance by the house's rules.
"""

from __future__ import annotations

from abc import ABC, abstractmethod
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from types import MappingProxyType
from typing import Annotated, Any, ClassVar, Literal

from pydantic import GetCoreSchemaHandler
from pydantic_core import CoreSchema, core_schema

from ypsicline.core.messages import Message, message
from ypsicline.core.modules import modules_of
from ypsicline.core.pattern.house_rules import HouseRules

__all__ = ["CutOnSeam", "Finish", "FinishName", "OfOneRule", "RuledAllowance", "finish_called", "finish_names"]


@dataclass(frozen=True)
class RuledAllowance:
    """An allowance that follows from a rule, with its sum; mm. `turn_under` of it is folded a second time."""

    allowance: float
    turn_under: float
    working: Message


class Finish(ABC):
    """How an edge is finished."""

    name: ClassVar[str]
    is_folded_back: ClassVar[bool] = False
    """Whether its allowance is folded back over the seam line, which is its finished edge."""
    is_cut_on_seam: ClassVar[bool] = False
    is_on_fold: ClassVar[bool] = False
    """Whether the cloth goes on beyond it, folded."""
    is_bound: ClassVar[bool] = False
    has_facing: ClassVar[bool] = False
    """Whether a piece of its own is sewn along it and turned in."""
    right_angles: ClassVar[Literal[0, 1, 2]] = 0
    """By how many right angles its allowance is turned, and has to open or close on a curve: 2 where it is folded back flat."""
    is_trimmed_at_points: ClassVar[bool] = False
    """Whether the bulk of a sharp point is cut away once it is sewn."""
    strengthened_by: ClassVar[Literal["bar", "lock"] | None] = None
    """What is sewn at its ends, where it is pulled."""

    @abstractmethod
    def allowance_by_rule(self, rules: HouseRules, *, cord_mm: float = 0.0, elastic_mm: float = 0.0) -> RuledAllowance:
        """Its allowance by the house's rules (drafting rules 8 and 10), for a cord of this diameter or elastic of this
        width in it."""


class OfOneRule(Finish):
    """A finish whose allowance is the house's rule of the name `rule`."""

    rule: ClassVar[str]

    def allowance_by_rule(self, rules: HouseRules, *, cord_mm: float = 0.0, elastic_mm: float = 0.0) -> RuledAllowance:  # noqa: ARG002
        allowance_mm: float = getattr(rules, self.rule)
        return RuledAllowance(allowance_mm, 0.0, message("rule_plain", allowance_mm=allowance_mm))


class CutOnSeam(Finish):
    """A finish that is cut on the seam line."""

    is_cut_on_seam = True

    def allowance_by_rule(self, rules: HouseRules, *, cord_mm: float = 0.0, elastic_mm: float = 0.0) -> RuledAllowance:  # noqa: ARG002
        return RuledAllowance(0.0, 0.0, message("rule_on_seam"))

    @abstractmethod
    def stray_allowance(self, edge: str, allowance_mm: float) -> Message:
        """What is said where the edge of this name carries an allowance all the same."""


@cache
def _finishes() -> Mapping[str, Finish]:
    classes = [c for m in modules_of(f"{__package__}.finishes") for c in vars(m).values() if isinstance(c, type)]
    return MappingProxyType({c.name: c() for c in classes if issubclass(c, Finish) and hasattr(c, "name")})


def finish_called(name: str) -> Finish:
    """The finish of this name. Raises `KeyError` where there is none."""
    return _finishes()[name]


@cache
def finish_names() -> tuple[str, ...]:
    """The names of all finishes."""
    return tuple(_finishes())


class _OneOfTheNames:
    """Read as the name of one of the finishes."""

    def __get_pydantic_core_schema__(self, source: Any, handler: GetCoreSchemaHandler) -> CoreSchema:
        return core_schema.literal_schema(list(finish_names()))


FinishName = Annotated[str, _OneOfTheNames()]
"""The name of a finish, as a field of what is read and written."""
