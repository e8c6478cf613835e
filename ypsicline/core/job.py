"""A job as a whole: the document that is stored, undone, redone, exported and read back."""

from __future__ import annotations

import datetime
from collections.abc import Sequence
from dataclasses import dataclass, field, replace

import numpy as np
import shapely

from ypsicline.core.capture.distances import SheetDistance
from ypsicline.core.covers.of_job import FamilyCover
from ypsicline.core.drafting.house import House
from ypsicline.core.errors import Refusal
from ypsicline.core.geometry.edges import Point
from ypsicline.core.lengths import Unit
from ypsicline.core.messages import Message, message
from ypsicline.core.pattern.ids import check_id, free_ids, with_ids
from ypsicline.core.pattern.join import Join
from ypsicline.core.pattern.panel import Panel
from ypsicline.core.steps import Bend, ConfirmEdge, FoldOver, Mend, Redraw, ScaleBy, Step, TakenStep, TurnOver, replay
from ypsicline.core.trueing.shape import Shape
from ypsicline.core.trueing.tape import TapeMeasure, follow

__all__ = ["MOST_PANELS", "Accepted", "Brief", "JobDocument", "PhotoOf", "Piece", "check_text"]

LONGEST_NAME = 80
LONGEST_REASON = 200
LONGEST_TEXT = 2000
MOST_PIECES = 60
MOST_PANELS = 200
MOST_STEPS = 500
MOST_JOINS = 600
MOST_COVERS = 20
# from so far off, mm, a trace counts as moved
MOVED_MM = 0.3
# after these the outline no longer lies where the photo shows it; after the last two nor in the photo's frame
_OFF_THE_PHOTO = (Bend, FoldOver, Redraw, ScaleBy, TurnOver)
_OFF_ITS_FRAME = (ScaleBy, TurnOver)


@dataclass(frozen=True)
class Brief:
    """What is covered and how: answers in the maker's words, and a few choices that cautions follow from."""

    covers: str = ""
    against: tuple[str, ...] = ()
    goes_on: str = ""
    looseness: str = ""
    sticks_out: str = ""
    cloth: str = ""
    near: tuple[str, ...] = ()
    notes: str = ""

    def __post_init__(self) -> None:
        for text in (self.covers, self.goes_on, self.looseness, self.sticks_out, self.cloth, self.notes):
            if len(text) > LONGEST_TEXT:
                raise Refusal(message("brief_note_too_long", longest_text=LONGEST_TEXT), "brief")


@dataclass(frozen=True)
class PhotoOf:
    """Which photo a piece was found in, and which of its findings it is."""

    photo: int
    outline: int


@dataclass(frozen=True)
class Piece:
    """One captured piece: the trace as it was `trace`, the steps since, the shape that they make of it, and
    the tape list."""

    name: str
    trace: Shape
    shape: Shape
    steps: tuple[TakenStep, ...] = ()
    tape: tuple[TapeMeasure, ...] = ()
    photo: PhotoOf | None = None
    id: str = ""

    def __post_init__(self) -> None:
        check_id(self.id)
        object.__setattr__(self, "tape", with_ids("measure", self.tape))
        check_text(message("text_piece_name"), self.name, required=True)
        if len(self.steps) > MOST_STEPS:
            raise Refusal(message("too_many_steps", most_steps=MOST_STEPS), "steps")

    def stepped(self, step: Step, what: Message) -> Piece:
        """The piece after one more step; raises whatever the step refuses."""
        shape = step.on(self.shape)
        tape = follow(self.shape, shape, self.tape)
        return replace(self, shape=shape, tape=tape, steps=(*self.steps, TakenStep(step, what)))

    def switched(self, index: int, *, on: bool) -> Piece:
        """The piece with one of its steps switched on or off, and all replayed. Raises `Refusal` where there is no
        such step."""
        if not 0 <= index < len(self.steps):
            raise Refusal(message("step_gone"), "steps")
        switched = [replace(d, on=on) if k == index else d for k, d in enumerate(self.steps)]
        shape, steps = replay(self.trace, switched)
        return replace(self, shape=shape, steps=steps, tape=follow(self.shape, shape, self.tape))

    @property
    def steps_on_photo(self) -> int:
        """How many of its steps leave the outline where its photo shows it."""
        off = (k for k, d in enumerate(self.steps) if d.on and isinstance(d.step, _OFF_THE_PHOTO))
        return next(off, len(self.steps))

    @property
    def on_photo(self) -> Shape:
        """The shape after those steps, before any that takes it off the photo."""
        count = self.steps_on_photo
        return self.shape if count == len(self.steps) else replay(self.trace, self.steps[:count])[0]

    @property
    def in_photos_frame(self) -> bool:
        """Whether the outline is in the frame of its photo still, be it where the photo shows it or not."""
        return not any(d.on and isinstance(d.step, _OFF_ITS_FRAME) for d in self.steps)

    def is_settled(self, stretch: Sequence[Point]) -> bool:
        """Whether a doubtful stretch of the captured trace was said to be right, or has been moved by hand since."""
        confirmed = {d.step.stretch for d in self.steps if d.on and isinstance(d.step, ConfirmEdge)}
        if tuple(stretch) in confirmed:
            return True
        has_mend = any(d.on and isinstance(d.step, Mend) for d in self.steps)
        return has_mend and not _along(stretch, self.on_photo)

    def mended(self, step: Mend, what: Message) -> Piece:
        """The piece with its trace mended by what its photo shows, before any step that takes it off the photo."""
        at = self.steps_on_photo
        if at == len(self.steps):
            return self.stepped(step, what)
        step.on(self.on_photo)
        steps = [*self.steps[:at], TakenStep(step, what), *self.steps[at:]]
        shape, steps_after = replay(self.trace, steps)
        return replace(self, shape=shape, steps=steps_after, tape=follow(self.shape, shape, self.tape))


@dataclass(frozen=True)
class Accepted:
    """A finding, by its id, that the maker lives with for a `reason`, while its `figures` stay as they are."""

    finding: str
    reason: str
    figures: tuple[tuple[str, float], ...] = ()

    def __post_init__(self) -> None:
        check_text(message("text_reason"), self.reason, required=True, most=LONGEST_REASON)
        if len(self.finding) > LONGEST_TEXT:
            raise Refusal(message("finding_gone"), "finding")


@dataclass(frozen=True)
class JobDocument:
    """Everything a maker decided about a job. Lengths in mm; `unit` is only what is shown and typed.

    `print_scale` is what the last test marks asked for: later prints are drawn larger by it, per axis
    (wanted ÷ measured). `sheet_scale` is how large the reference sheets in the photos were printed
    (measured ÷ wanted). `open` is the id of the piece that lies on the table at Shape; none: a new one,
    not captured yet. `sheet_distances` were taped between the reference sheets. `house` are the
    workshop's rules and cloths as this job takes them. `joins` are between edges of its panels, by their ids; `covers` those
    that a family drafted; `accepted` the findings that the maker lives with. `ids` is the number up to which ids were
    given out.
    """

    name: str
    for_whom: str = ""
    due: datetime.date | None = None
    unit: Unit = "mm"
    brief: Brief = field(default_factory=Brief)
    pieces: tuple[Piece, ...] = ()
    open: str = ""
    panels: tuple[Panel, ...] = ()
    print_scale: tuple[float, float] = (1.0, 1.0)
    sheet_scale: tuple[float, float] = (1.0, 1.0)
    sheet_distances: tuple[SheetDistance, ...] = ()
    house: House = field(default_factory=House)
    joins: tuple[Join, ...] = ()
    covers: tuple[FamilyCover, ...] = ()
    accepted: tuple[Accepted, ...] = ()
    ids: int = 0

    def __post_init__(self) -> None:
        check_text(message("text_job_name"), self.name, required=True)
        if len(self.pieces) > MOST_PIECES:
            raise Refusal(message("too_many_pieces", most_pieces=MOST_PIECES), "piece")
        if len(self.panels) > MOST_PANELS:
            raise Refusal(message("too_many_panels", most_panels=MOST_PANELS, count=len(self.panels)), "panel")
        object.__setattr__(self, "pieces", with_ids("piece", self.pieces))
        object.__setattr__(self, "panels", with_ids("panel", self.panels))
        object.__setattr__(self, "joins", with_ids("join", self.joins))
        object.__setattr__(self, "covers", with_ids("cover", self.covers))
        if len(self.joins) > MOST_JOINS or len(self.covers) > MOST_COVERS or len(self.accepted) > MOST_JOINS:
            raise Refusal(message("too_many_joins", most_joins=MOST_JOINS, most_covers=MOST_COVERS), "join")
        if self.open and all(p.id != self.open for p in self.pieces):
            raise Refusal(message("open_piece_missing"), "piece")
        check_text(message("text_name_of_whom_it_is_for"), self.for_whom)
        for scale in (*self.print_scale, *self.sheet_scale):
            if not 0.8 <= scale <= 1.25:
                raise Refusal(
                    message("print_scale_unlikely", scale=scale),
                    "print_scale", numbers={"scale": scale},
                )  # fmt: skip

    @property
    def piece(self) -> Piece | None:
        """The piece that lies on the table, if it has been captured."""
        return self.piece_of(self.open) if self.open else None

    def piece_of(self, piece: str) -> Piece:
        """The piece of this id. Raises `Refusal` where there is none."""
        of_job = next((p for p in self.pieces if p.id == piece), None)
        if of_job is None:
            raise Refusal(message("piece_gone"), "piece")
        return of_job

    @property
    def shape(self) -> Shape | None:
        return self.piece.shape if self.piece else None

    def recaptured(self, photo: PhotoOf, shape: Shape, piece: Piece | None = None) -> JobDocument:
        """A piece, by default the one that came from this photo, captured anew in the same frame, and its steps
        replayed; a fresh one where there is none."""
        piece = piece or self.from_photo(photo.photo)
        if piece is None:
            return self.with_outline(shape, photo)
        trued, steps = replay(shape, piece.steps)
        return self.with_piece(
            replace(
                piece,
                trace=shape,
                shape=trued,
                steps=steps,
                photo=photo,
                tape=follow(piece.shape, trued, piece.tape),
            )
        )

    def from_photo(self, photo: int) -> Piece | None:
        """The piece that alone came from this photo, the one on the table first."""
        order = sorted(self.pieces, key=lambda p: p.id != self.open)
        return next((p for p in order if p.photo and p.photo.photo == photo), None)

    def with_piece(self, piece: Piece) -> JobDocument:
        """The piece of its id replaced by this one."""
        return replace(self, pieces=tuple(piece if p.id == piece.id else p for p in self.pieces))

    def with_outline(self, shape: Shape, photo: PhotoOf | None = None, name: str = "piece") -> JobDocument:
        """A fresh outline on the table; a piece that lay there keeps its name."""
        if self.piece:
            return self.with_piece(Piece(self.piece.name, shape, shape, photo=photo, id=self.open))
        fresh = next(free_ids("piece", (p.id for p in self.pieces)))
        piece = Piece(self.free_name(name), shape, shape, photo=photo, id=fresh)
        return replace(self, pieces=(*self.pieces, piece), open=fresh)

    def free_name(self, name: str) -> str:
        """`wanted`, or with a number after it if a piece has that name."""
        names_here = {p.name for p in self.pieces}
        names = (name, *(f"{name[: LONGEST_NAME - 4]} {k}" for k in range(2, MOST_PIECES + 3)))
        return next(n for n in names if n not in names_here)


def _along(stretch: Sequence[Point], shape: Shape) -> bool:
    """Whether most of a stretch still lies on a shape's outline or its holes."""
    traces = shapely.MultiLineString([shapely.LinearRing(r.points) for r in (shape.outline, *shape.holes)])
    away = shapely.distance(traces, shapely.points(np.asarray(stretch)))
    return float(np.mean(away < MOVED_MM)) > 0.2


def check_text(what: Message, text: str, *, required: bool = False, most: int = LONGEST_NAME) -> None:
    """Raise `Refusal` where a one-line text is missing, too long or not one line."""
    if required and not text.strip():
        raise Refusal(message("text_missing", what=what), "name")
    if len(text) > most or any(ord(c) < 32 for c in text):
        raise Refusal(message("text_too_long", what=what, most=most), "name")
