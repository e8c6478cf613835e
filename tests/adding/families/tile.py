"""A family of covers that the project doesn't have: a square, hemmed all round, with its twin."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from ypsicline.core.covers.cover import Cover, Paired, put_together
from ypsicline.core.covers.family import Choices, Family, NoShapes
from ypsicline.core.covers.parts.edging import Edging, panel, rectangle
from ypsicline.core.drafting.house import House
from ypsicline.core.pattern.join import Along, Join
from ypsicline.core.typed import Length


@dataclass(frozen=True)
class TileMeasures:
    side: Length


@dataclass(frozen=True)
class Tile(Family):
    """Two squares sewn together along one side."""

    measures: TileMeasures
    choices: Choices = Choices()
    shapes: NoShapes = NoShapes()
    family: Literal["tile"] = "tile"

    def cover(self, house: House) -> Cover:
        side, hem, plain = self.measures.side, Edging("hem"), Edging("plain")
        one, other = (panel(id, id, rectangle(side, side, [hem, plain, hem, hem])) for id in ("one", "other"))
        right = one.seam_line[1].id
        return put_together([one, other], [Paired(Join((Along("one", right),), (Along("other", right, True),)))], house)
