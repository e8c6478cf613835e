"""Changes that come of photos: what was found in them, and what a hand mended on them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

from ypsicline.core.errors import Refusal
from ypsicline.core.geometry.edges import Point
from ypsicline.core.job import JobDocument, PhotoOf, Piece
from ypsicline.core.messages import Message, message
from ypsicline.core.steps import ConfirmEdge, Mend
from ypsicline.core.trueing.shape import Shape

__all__ = ["ConfirmEdges", "FoundPiece", "MendOutline", "TakeFound", "WalkRound", "piece_found_in"]


@dataclass(frozen=True)
class FoundPiece:
    """An outline that was found in a photo; with a name it is a piece beside others."""

    photo: PhotoOf
    shape: Shape
    name: str = ""


@dataclass(frozen=True)
class TakeFound:
    """What was found in a photo becomes the piece on the table or, by their names, several pieces; one that came from
    this photo before is captured anew, its steps replayed."""

    pieces: tuple[FoundPiece, ...]
    photo: str
    kind: Literal["take_found"] = "take_found"

    def on(self, job: JobDocument) -> JobDocument:
        for one in self.pieces:
            job = self._name_piece(job, one) if one.name else job.recaptured(one.photo, one.shape)
        return job

    def _name_piece(self, job: JobDocument, one: FoundPiece) -> JobDocument:
        for piece in job.pieces:
            if piece.name == one.name and piece.photo and piece.photo.photo == one.photo.photo:
                return job.recaptured(one.photo, one.shape, piece)
        return replace(job, open="").with_outline(one.shape, one.photo, one.name)

    def words(self, before: JobDocument, after: JobDocument) -> Message:
        if len(self.pieces) == 1:
            return message("outline_captured", photo=self.photo)
        return message("outlines_captured", count=len(self.pieces), photo=self.photo)


@dataclass(frozen=True)
class WalkRound:
    """A way that a hand walked all round the piece: its outline."""

    photo: PhotoOf
    shape: Shape
    kind: Literal["walk_round"] = "walk_round"

    def on(self, job: JobDocument) -> JobDocument:
        return job.recaptured(self.photo, self.shape)

    def words(self, before: JobDocument, after: JobDocument) -> Message:
        return message("edge_walked_by_hand")


@dataclass(frozen=True)
class MendOutline:
    """The trace of the piece on the table mended by what its photo shows, as strokes or a walk along the edge say; `finding`
    is what is known of its photo after a walk."""

    photo: PhotoOf
    mend: Mend
    by: Literal["strokes", "walk"]
    finding: PhotoOf | None = None
    kind: Literal["mend_outline"] = "mend_outline"

    def on(self, job: JobDocument) -> JobDocument:
        piece = piece_found_in(job, self.photo).mended(self.mend, self.words(job, job))
        return job.with_piece(replace(piece, photo=self.finding or self.photo))

    def words(self, before: JobDocument, after: JobDocument) -> Message:
        return message("mended_by_strokes" if self.by == "strokes" else "edge_walked_by_hand")


@dataclass(frozen=True)
class ConfirmEdges:
    """The maker looked along these doubtful stretches of the piece on the table and says that the edge is right."""

    photo: PhotoOf
    stretches: tuple[tuple[Point, ...], ...]
    kind: Literal["confirm_edges"] = "confirm_edges"

    def on(self, job: JobDocument) -> JobDocument:
        return job.with_piece(_confirm(piece_found_in(job, self.photo), self.stretches))

    def words(self, before: JobDocument, after: JobDocument) -> Message:
        return _RIGHT


_RIGHT = message("edge_said_to_be_right")


def piece_found_in(job: JobDocument, place: PhotoOf) -> Piece:
    """The piece on the table; raises `Refusal` where it isn't this finding."""
    if job.piece is None or job.piece.photo != place:
        raise Refusal(message("table_piece_of_other_photo"), "photo")
    return job.piece


def _confirm(piece: Piece, stretches: Sequence[tuple[Point, ...]]) -> Piece:
    for stretch in stretches:
        if not piece.is_settled(stretch):
            piece = piece.stepped(ConfirmEdge(stretch), _RIGHT)
    return piece
