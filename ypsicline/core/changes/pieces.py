"""Changes of the captured pieces: which lies on the table, the steps that true it up, and its tape list."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal, cast

from ypsicline.core import steps
from ypsicline.core.errors import Refusal
from ypsicline.core.job import JobDocument, Piece
from ypsicline.core.messages import Message, message
from ypsicline.core.trueing.bending import bend_to_tape
from ypsicline.core.trueing.scaling import scale_to_tape
from ypsicline.core.trueing.tape import TapeMeasure, read_tape
from ypsicline.core.typed import Length, LengthIfTyped, LengthOrNone, Words

__all__ = [
    "AddMeasure", "BendToTape", "MoveLine", "NamePiece", "NewPiece", "OldCover", "OldEdge", "OpenPiece", "RemoveMeasure", "RemovePiece",
    "ScaleToTape", "SetMeasure", "SwitchStep", "TakeStep", "piece_on_table",
]  # fmt: skip


@dataclass(frozen=True)
class NewPiece:
    """An empty table, for a piece that is yet to be captured."""

    kind: Literal["new_piece"] = "new_piece"

    def on(self, job: JobDocument) -> JobDocument:
        return replace(job, open="")

    def words(self, before: JobDocument, after: JobDocument) -> Message:
        return message("another_piece")


@dataclass(frozen=True)
class OpenPiece:
    piece: str
    kind: Literal["open_piece"] = "open_piece"

    def on(self, job: JobDocument) -> JobDocument:
        return replace(job, open=job.piece_of(self.piece).id)

    def words(self, before: JobDocument, after: JobDocument) -> Message:
        return message("piece_laid_on_the_table")


@dataclass(frozen=True)
class NamePiece:
    piece: str
    name: Words
    kind: Literal["name_piece"] = "name_piece"

    def on(self, job: JobDocument) -> JobDocument:
        return job.with_piece(replace(job.piece_of(self.piece), name=self.name))

    def words(self, before: JobDocument, after: JobDocument) -> Message:
        return message("piece_named")


@dataclass(frozen=True)
class RemovePiece:
    """A piece taken away; where it lay on the table, the next one does now."""

    piece: str
    kind: Literal["remove_piece"] = "remove_piece"

    def on(self, job: JobDocument) -> JobDocument:
        at = job.pieces.index(job.piece_of(self.piece))
        rest = (*job.pieces[:at], *job.pieces[at + 1 :])
        there = rest[min(at, len(rest) - 1)].id if rest else ""
        return replace(job, pieces=rest, open=there if job.open == self.piece else job.open)

    def words(self, before: JobDocument, after: JobDocument) -> Message:
        return message("piece_removed")


@dataclass(frozen=True)
class TakeStep:
    """One more step of trueing up the piece on the table."""

    step: steps.TypedStep
    kind: Literal["take_step"] = "take_step"

    def on(self, job: JobDocument) -> JobDocument:
        piece = piece_on_table(job)
        # first what it makes: a step that can't be has no words either
        self.step.on(piece.shape)
        return job.with_piece(piece.stepped(self.step, self.step.words(piece.shape)))

    def words(self, before: JobDocument, after: JobDocument) -> Message:
        return _last_step(after)


@dataclass(frozen=True)
class SwitchStep:
    """One step of the piece on the table counts, or counts no more; all are replayed."""

    step: int
    counts: bool
    kind: Literal["switch_step"] = "switch_step"

    def on(self, job: JobDocument) -> JobDocument:
        return job.with_piece(piece_on_table(job).switched(self.step, on=self.counts))

    def words(self, before: JobDocument, after: JobDocument) -> Message:
        return message("step_switched_on" if self.counts else "step_switched_off")


@dataclass(frozen=True)
class ScaleToTape:
    """The piece scaled to what the tape says: by one factor, or by one across and one up."""

    per_axis: bool = False
    kind: Literal["scale_to_tape"] = "scale_to_tape"

    def on(self, job: JobDocument) -> JobDocument:
        piece = piece_on_table(job)
        result = scale_to_tape(piece.shape, piece.tape, per_axis=self.per_axis)
        across, up = (100 * (f - 1) for f in result.factors)
        apart = max(abs(a) for a in result.apart_mm)
        words = (
            message("scaled_per_axis", across=across, up=up, apart_mm=apart)
            if self.per_axis
            else message("scaled_to_tape", percent=across, apart_mm=apart)
        )
        return job.with_piece(piece.stepped(steps.ScaleBy(result.factors), words))

    def words(self, before: JobDocument, after: JobDocument) -> Message:
        return _last_step(after)


@dataclass(frozen=True)
class BendToTape:
    """The outline bent, as little as possible, until every measure on the list is what the tape says."""

    kind: Literal["bend_to_tape"] = "bend_to_tape"

    def on(self, job: JobDocument) -> JobDocument:
        piece = piece_on_table(job)
        result = bend_to_tape(piece.shape, piece.tape)
        measures = []
        for m in piece.tape:
            if m.tape_mm is not None:
                a, b = m.between or (m.edge or 0, None)
                second = None if b is None else steps.corner_point(piece.shape, 0, b)
                measures.append((steps.corner_point(piece.shape, 0, a), second, m.tape_mm))
        words = message("bent_to_tape", moved_mm=result.moved_mm)
        return job.with_piece(piece.stepped(steps.Bend(tuple(measures)), words))

    def words(self, before: JobDocument, after: JobDocument) -> Message:
        return _last_step(after)


@dataclass(frozen=True)
class OldEdge:
    """An edge of an old cover: whole, unpicked with the allowance `by` still beyond its seam line, or with `by` cut away
    from it."""

    edge: int
    was: Literal["whole", "unpicked", "cut away"]
    by: LengthOrNone = 0.0

    @property
    def outward_mm(self) -> float:
        """How far its seam line lies outside the edge."""
        return {"whole": 0.0, "unpicked": -self.by, "cut away": self.by}[self.was]


@dataclass(frozen=True)
class OldCover:
    """From an old cover's edges to its seam line; edges that aren't named were unpicked with the allowance `rest`."""

    edges: tuple[OldEdge, ...]
    rest: LengthOrNone = 0.0
    kind: Literal["old_cover"] = "old_cover"

    def on(self, job: JobDocument) -> JobDocument:
        piece = piece_on_table(job)
        places = tuple((steps.corner_point(piece.shape, 0, e.edge), e.outward_mm) for e in self.edges)
        if not self.rest and not any(by for _, by in places):
            raise Refusal(message("name_unpicked_edges"), "edge")
        return job.with_piece(piece.stepped(steps.Redraw(places, -self.rest), self.words(job, job)))

    def words(self, before: JobDocument, after: JobDocument) -> Message:
        return message("seam_line_of_the_old_cover")


@dataclass(frozen=True)
class MoveLine:
    """A line that stands off from the seam line by `by`: a pencil line round a solid runs outside it by half a pencil,
    chalk along a piping's foot inside."""

    by: Length
    line: Literal["outside", "inside"] = "outside"
    kind: Literal["move_line"] = "move_line"

    def on(self, job: JobDocument) -> JobDocument:
        outward = -self.by if self.line == "outside" else self.by
        return job.with_piece(piece_on_table(job).stepped(steps.Redraw((), outward), self.words(job, job)))

    def words(self, before: JobDocument, after: JobDocument) -> Message:
        return message("line_moved_in" if self.line == "outside" else "line_moved_out", by_mm=self.by)


@dataclass(frozen=True)
class AddMeasure:
    """A control measure more on the tape list: between two corners, or along an edge."""

    between: tuple[int, int] | None = None
    edge: int | None = None
    kind: Literal["add_measure"] = "add_measure"

    def on(self, job: JobDocument) -> JobDocument:
        piece = piece_on_table(job)
        measure = TapeMeasure(self.between, self.edge)
        read_tape(piece.shape, [measure])
        if any((m.between, m.edge) == (self.between, self.edge) for m in piece.tape):
            return job
        return job.with_piece(replace(piece, tape=(*piece.tape, measure)))

    def words(self, before: JobDocument, after: JobDocument) -> Message:
        return message("measure_added_to_the_tape_list")


@dataclass(frozen=True)
class SetMeasure:
    """What the tape says of a measure; nothing, where nothing was typed."""

    measure: str
    tape: LengthIfTyped
    kind: Literal["set_measure"] = "set_measure"

    def on(self, job: JobDocument) -> JobDocument:
        piece = _listed(job, self.measure)
        tape = (replace(m, tape_mm=self.tape) if m.id == self.measure else m for m in piece.tape)
        return job.with_piece(replace(piece, tape=tuple(tape)))

    def words(self, before: JobDocument, after: JobDocument) -> Message:
        return message("tape_read")


@dataclass(frozen=True)
class RemoveMeasure:
    measure: str
    kind: Literal["remove_measure"] = "remove_measure"

    def on(self, job: JobDocument) -> JobDocument:
        piece = _listed(job, self.measure)
        return job.with_piece(replace(piece, tape=tuple(m for m in piece.tape if m.id != self.measure)))

    def words(self, before: JobDocument, after: JobDocument) -> Message:
        return message("measure_removed")


def piece_on_table(job: JobDocument) -> Piece:
    """The piece on the table; raises `Refusal` where there is none."""
    if job.piece is None:
        raise Refusal(message("no_outline_yet"), "shape")
    return job.piece


def _listed(job: JobDocument, measure: str) -> Piece:
    """The piece on the table; raises `Refusal` where its tape list has no such measure."""
    piece = piece_on_table(job)
    if all(m.id != measure for m in piece.tape):
        raise Refusal(message("measure_gone"), "tape")
    return piece


def _last_step(job: JobDocument) -> Message:
    return cast(Message, piece_on_table(job).steps[-1].words)
