"""What every feature is: something that a maker asks of a panel beyond its edges.

A kind of feature is one module of this package: a frozen dataclass with its fields as a maker types them, where it stands,
how it follows when the outline changes, and what it draws. It is told by its `kind` in files and changes.
"""

from __future__ import annotations

from abc import ABC, abstractmethod
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cache
from typing import TYPE_CHECKING, Annotated, Any, ClassVar, TypeVar, Union

from pydantic import Field, GetCoreSchemaHandler
from pydantic_core import CoreSchema

from ypsicline.core.findings import Finding
from ypsicline.core.geometry.edges import Array, Edge, Point
from ypsicline.core.geometry.transform import Transform
from ypsicline.core.messages import Message
from ypsicline.core.modules import modules_of
from ypsicline.core.pattern.anchors import Anchor
from ypsicline.core.pattern.edge_map import EdgeMap
from ypsicline.core.pattern.fitted import FittedRing
from ypsicline.core.pattern.mark import Mark
from ypsicline.core.pattern.plane import Plane
from ypsicline.core.pattern.run import Run
from ypsicline.core.pattern.seam_edge import SeamEdge

if TYPE_CHECKING:
    from ypsicline.core.pattern.panel import Panel

__all__ = ["AnyFeature", "Carrying", "DrawnInside", "DrawnOnSeam", "Feature", "Intake", "Say", "feature_kinds"]

Say = Callable[[float], str]
"""How a length in mm is said."""
F = TypeVar("F", bound="Feature")


@dataclass(frozen=True)
class Carrying:
    """How an outline changes: the map of its `edges`, of the `plane` inside, and the seam line and features before."""

    edges: EdgeMap
    plane: Plane
    seam_line: tuple[SeamEdge, ...]
    features: tuple[Feature, ...]

    def edge(self, edge: str) -> SeamEdge:
        """The edge before of this id."""
        return next(e for e in self.seam_line if e.id == edge)


@dataclass(frozen=True)
class Intake:
    """What a dart or pleats take out of edges of the panel: of each `low` to `high` mm along it, and of that `mm`; a
    dart's `wedge` (foot, point, foot)."""

    what: str
    spans: tuple[tuple[str, float, float], ...]
    mm: tuple[float, ...]
    wedge: tuple[Point, ...] = ()


@dataclass(frozen=True)
class DrawnOnSeam:
    """A seam line with a feature drawn in: its runs, marks, sum in words, what to look at, and what is taken out of it."""

    runs: list[Run]
    marks: tuple[Mark, ...] = ()
    working: Message | None = None
    findings: tuple[Finding, ...] = ()
    intake: Intake | None = None


@dataclass(frozen=True)
class DrawnInside:
    """What a feature inside a panel adds to it. A `ring` is cut out and runs clockwise; the `opening` is as it is finished,
    also where nothing is cut yet, and is called by its `name`."""

    name: str = ""
    ring: tuple[SeamEdge, ...] | None = None
    opening: tuple[Edge, ...] | None = None
    marks: tuple[Mark, ...] = ()
    workings: tuple[Message, ...] = ()
    findings: tuple[Finding, ...] = ()


class Feature(ABC):
    """A feature of a panel. Lengths in mm, of the finished cover."""

    title: ClassVar[Message]
    """What a maker calls it."""
    is_listed: ClassVar[bool] = True
    """Whether it is on the list of what is on a panel."""
    takes_in: ClassVar[bool] = False
    """Whether it takes something out of the length of an edge, as a dart does."""

    @property
    @abstractmethod
    def id(self) -> str: ...

    @property
    @abstractmethod
    def kind(self) -> str: ...

    @property
    def stage(self) -> int:
        """What changes the seam line is drawn in the order of its stage."""
        return 0

    @property
    @abstractmethod
    def anchor(self) -> Anchor | None:
        """Where it stands; None where it is about the panel as a whole."""

    @abstractmethod
    def words(self, edges: Mapping[str, str]) -> Message:
        """What it is, by the names of the `edges`."""

    @abstractmethod
    def carried(self, by: Carrying) -> Iterable[Feature]:
        """What becomes of it when the outline changes. Raises `Refusal` where it can't follow."""

    def fitted(self, ring: FittedRing) -> Feature:  # noqa: ARG002 - a feature's signature
        """As it is cut, on the seam line that a fit has made. Raises `Refusal` where it doesn't stand on it."""
        return self

    def on_seam(self, runs: Sequence[Run]) -> DrawnOnSeam | None:  # noqa: ARG002 - a feature's signature
        """The seam line with it drawn in; None where it isn't on the seam line. Raises `Refusal` where it doesn't fit."""
        return None

    def inside(
        self,
        seam: Sequence[SeamEdge],  # noqa: ARG002 - a feature's signature
        around: Array,  # noqa: ARG002
        cloth: Transform | None,  # noqa: ARG002
    ) -> DrawnInside | None:
        """What it draws inside the drafted `seam` line, flattened `around`, on cloth that will stretch or shrink by the
        map `cloth`; None for what isn't inside. Raises `Refusal` where it can't be there."""
        return None

    def in_layer(self, *, soft: bool, lines: bool) -> Feature | None:  # noqa: ARG002 - a feature's signature
        """What a further layer of the panel has of it, one of wadding or foam where `soft`, one that `lines` it."""
        return self

    def companions(self, panel: Panel) -> tuple[Panel, ...]:  # noqa: ARG002 - a feature's signature
        """The pieces that follow from it."""
        return ()

    def stands_in_for(self, other: Feature) -> bool:
        """Whether putting it on takes another off."""
        return bool(self.id) and self.id == other.id

    def put_on(self, panel: Panel, before: Feature | None) -> Feature:  # noqa: ARG002 - a feature's signature
        """As it is put on a panel, in the place of what it was `before`. Raises `Refusal` where it can't be."""
        return self

    def renamed(self, ids: Mapping[str, str]) -> Feature:
        """With other ids for itself and the edge that it stands on."""
        own: dict[str, Any] = {"id": ids.get(self.id, self.id)}
        if isinstance(edge := getattr(self, "edge", None), str):
            own["edge"] = ids.get(edge, edge)
        return replace(self, **own)  # type: ignore[type-var]


@cache
def feature_kinds() -> tuple[type[Feature], ...]:
    """Every kind of feature: one a module of this package."""
    modules_of(__package__ or "")
    return tuple(sorted(Feature.__subclasses__(), key=lambda kind: kind.title.code))


class _OneOfTheKinds:
    """Read and written as one of the kinds of feature, told by `kind`."""

    def __get_pydantic_core_schema__(self, source: Any, handler: GetCoreSchemaHandler) -> CoreSchema:
        kinds: Any = Union[feature_kinds()]  # noqa: UP007 - made of what is there
        return handler.generate_schema(Annotated[kinds, Field(discriminator="kind")])


AnyFeature = Annotated[Feature, _OneOfTheKinds()]
"""A feature of any kind, as a field of what is read and written."""
