"""All changes that a maker can ask for by their values; those that come of photos and files carry what was read there."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from ypsicline.core.changes.briefing import (
    ClearPrintScale,
    SetBrief,
    SetPrintScale,
    SetSheetDistance,
    SetSheetScale,
    SetUnit,
)
from ypsicline.core.changes.covers import ChangeMeasures, DraftCover, LetGoOfCover
from ypsicline.core.changes.edges import DivideByNotches, MergeEdges, RemoveNotch, SetEdgeLength, SetEdges, SplitEdge
from ypsicline.core.changes.features import PivotDart, RemoveFeature, SetDrop, SetFeature, SetFit, SetTapers
from ypsicline.core.changes.findings import AcceptFinding
from ypsicline.core.changes.house import SetCloth, SetHouseRule
from ypsicline.core.changes.joins import JoinEdges, RemoveJoin, SetJoin, SewJoin
from ypsicline.core.changes.measuring import (
    MeasureFourSided,
    MeasureOnOff,
    MeasureRectangle,
    MeasureRound,
    MeasureStations,
    MeasureTouches,
)
from ypsicline.core.changes.panels import CopyPanel, LayOut, MakePanel, MakePanels, RemovePanel, SetPanel
from ypsicline.core.changes.pieces import (
    AddMeasure,
    BendToTape,
    MoveLine,
    NamePiece,
    NewPiece,
    OldCover,
    OpenPiece,
    RemoveMeasure,
    RemovePiece,
    ScaleToTape,
    SetMeasure,
    SwitchStep,
    TakeStep,
)

__all__ = ["TypedChange"]

TypedChange = Annotated[
    AcceptFinding | AddMeasure | BendToTape | ChangeMeasures | ClearPrintScale | CopyPanel | DivideByNotches
    | DraftCover | JoinEdges | LayOut | LetGoOfCover | MakePanel | MakePanels | MeasureFourSided | MeasureOnOff
    | MeasureRectangle | MeasureRound | MeasureStations | MeasureTouches | MergeEdges | MoveLine | NamePiece
    | NewPiece | OldCover | OpenPiece | PivotDart | RemoveFeature | RemoveJoin | RemoveMeasure | RemoveNotch
    | RemovePanel | RemovePiece | ScaleToTape | SetBrief | SetCloth | SetDrop | SetFeature | SetEdgeLength
    | SetEdges | SetFit | SetHouseRule | SetJoin | SetMeasure | SetPanel | SetPrintScale | SetSheetDistance
    | SetSheetScale | SetTapers | SetUnit | SewJoin | SplitEdge | SwitchStep | TakeStep,
    Field(discriminator="kind"),
]  # fmt: skip
