"""Pointing at the piece, and at what isn't it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from weakref import WeakKeyDictionary

import numpy as np
import pytest
import shapely

from tests.conftest import DARK, SMALL, flat_scene
from tests.remembered import take_photo
from ypsicline.cli import main
from ypsicline.core.capture import capture, shown
from ypsicline.core.capture.capture import Capture, SeveralPieces, capture_in, capture_piece
from ypsicline.core.capture.photo import read_photo
from ypsicline.core.capture.pieces import CoarsePiece
from ypsicline.core.capture.placed_edge import MeasuredEdge, edge_of
from ypsicline.core.capture.scene import Scene as TableRead
from ypsicline.core.capture.scene import read_scene
from ypsicline.core.capture.segment import find_pieces
from ypsicline.core.errors import Refusal
from ypsicline.standins.camera import Piece, project

LEFT, RIGHT = (-110.0, 0.0), (110.0, 0.0)


def only(result: tuple[Capture, ...] | SeveralPieces) -> Capture:
    assert not isinstance(result, SeveralPieces)
    (capture,) = result
    return capture


def share(place: tuple[float, float]) -> tuple[float, float]:
    """Where a place on the table is seen, in shares of the photo."""
    x, y = project(SMALL, np.array([place]))[0]
    return float(x) / (SMALL.size[0] - 1), float(y) / (SMALL.size[1] - 1)


@pytest.mark.parametrize(("place", "area"), [(LEFT, 32000), (RIGHT, 22400)])
def test_one_tap_chooses_among_several_pieces(
    two_pieces_read: TableRead, place: tuple[float, float], area: float
) -> None:
    result = only(capture_in(two_pieces_read, at=[share(place)]))
    assert shapely.Polygon(result.outline).area == pytest.approx(area, rel=5e-3)


def test_pointing_at_the_bare_table_is_refused_with_what_to_do(two_pieces_read: TableRead) -> None:
    with pytest.raises(Refusal, match="where you pointed"):
        capture_in(two_pieces_read, at=[share((0.0, -290.0))])


def test_a_tap_changes_nothing_where_nothing_was_in_doubt(tray_read: TableRead) -> None:
    on_it, beside = share((100.0, 0.0)), share((0.0, -240.0))
    plain, tapped = only(capture_in(tray_read)), only(capture_in(tray_read, at=[on_it], not_at=[beside]))
    assert shapely.hausdorff_distance(shapely.LinearRing(plain.outline), shapely.LinearRing(tapped.outline)) < 0.5


def test_the_same_photo_twice_gives_the_same_answer(two_pieces_photo: bytes) -> None:
    photo = read_photo(two_pieces_photo)
    assert capture_piece(photo, at=[share(LEFT)]) == capture_piece(photo, at=[share(LEFT)])


Change = Callable[[MeasuredEdge, float], MeasuredEdge]


@pytest.fixture
def edges_become(monkeypatch: pytest.MonkeyPatch) -> Callable[[Change], None]:
    """Have edges measured as they are, and changed by what is given each with how far right its piece lies, mm."""

    def become(change: Change) -> None:
        def measure(*where: object) -> MeasuredEdge:
            edge = edge_of(*where)  # type: ignore[arg-type]
            return change(edge, float(edge.outline.outline[:, 0].mean()))

        monkeypatch.setattr(shown, "edge_of", measure)
        # none that was measured before counts, and none of these later
        monkeypatch.setattr(shown, "_EDGE_OF", WeakKeyDictionary())

    return become


@pytest.mark.parametrize(
    ("in_question", "is_asked"), [("right", False), ("left", True)], ids=["the smaller", "the larger"]
)
def test_what_is_in_question_itself_is_nothing_to_choose_beside_a_sure_piece(
    two_pieces_read: TableRead, edges_become: Callable[[Change], None], in_question: str, is_asked: bool
) -> None:
    middles = []

    def change(edge: MeasuredEdge, x: float) -> MeasuredEdge:
        middles.append(x)
        is_right = x > min(middles) + 50
        return replace(edge, disputed=edge.disputed + 30) if is_right == (in_question == "right") else edge

    edges_become(change)
    result = capture_in(two_pieces_read)
    assert isinstance(result, SeveralPieces) == is_asked
    if not is_asked:
        assert shapely.Polygon(only(result).outline).area == pytest.approx(32000, rel=5e-3)


def test_an_edge_that_was_measured_to_see_whether_it_is_sure_isnt_measured_again(
    two_pieces_read: TableRead, edges_become: Callable[[Change], None]
) -> None:
    middles = []

    def change(edge: MeasuredEdge, x: float) -> MeasuredEdge:
        middles.append(x)
        return edge

    edges_become(change)
    assert isinstance(capture_in(two_pieces_read), SeveralPieces)
    both = capture_in(two_pieces_read, pieces=[0, 1])
    assert not isinstance(both, SeveralPieces)
    assert len(both) == len(middles) == 2


def test_a_small_thing_beside_the_piece_is_only_taken_where_it_is_pointed_at() -> None:
    piece = Piece(np.array([[-190, -100], [-30, -100], [-30, 100], [-190, 100]], float), (), DARK)
    small = Piece(np.array([[85, -25], [135, -25], [135, 25], [85, 25]], float), (), DARK)
    read = read_scene([read_photo(take_photo(flat_scene(piece, small), SMALL))])
    for at, area in (((), 32000), ((share(RIGHT),), 2500)):
        result = only(capture_in(read, at=at))
        assert shapely.Polygon(result.outline).area == pytest.approx(area, rel=0.02)


def test_what_runs_out_of_the_picture_is_no_other_way_to_read_a_piece_that_was_pointed_at(
    tray_photo: Callable[..., bytes], monkeypatch: pytest.MonkeyPatch
) -> None:
    def with_table(*where: object) -> tuple[CoarsePiece, ...]:
        (piece,) = find_pieces(*where)  # type: ignore[arg-type]
        everything = replace(piece, mask=np.ones_like(piece.mask), leaves_picture=True)
        return (everything,) if len(where) == 3 else (piece,)

    for module in (capture, shown):
        monkeypatch.setattr(module, "find_pieces", with_table)
    read = read_scene([read_photo(tray_photo())])
    with pytest.raises(Refusal, match="point at it in the photo"):
        capture_in(read)
    result = only(capture_in(read, at=[share((0.0, 0.0))]))
    assert result.error_mm < 2


@pytest.mark.parametrize(("everywhere_mm", "is_given"), [(1.0, False), (0.0, True)])
def test_an_outline_of_which_nothing_holds_isnt_given_even_after_a_tap(
    tray_read: TableRead, edges_become: Callable[[Change], None], everywhere_mm: float, is_given: bool
) -> None:
    def change(edge: MeasuredEdge, _x: float) -> MeasuredEdge:
        along = np.linspace(0, 1, len(edge.doubts))
        return replace(edge, doubts=np.where(along < 0.1, 80.0, everywhere_mm), disputed=0 * edge.disputed)

    edges_become(change)
    if is_given:
        only(capture_in(tray_read, at=[share((0.0, 0.0))]))
        return
    with pytest.raises(Refusal, match="Even so"):
        capture_in(tray_read, at=[share((0.0, 0.0))])


def test_the_command_line_refuses_a_place_outside_the_photo(
    tmp_path: pytest.TempPathFactory, capsys: pytest.CaptureFixture[str]
) -> None:
    assert main(["sheets", "--paper", "a4", "--count", "1", "--out", str(tmp_path)]) == 0
    code = main(["outline", "x.jpg", "--sheets", f"{tmp_path}/sheets.json", "--out", "y.json", "--at", "1.4", "0.2"])
    assert code == 2
    assert "from 0 to 1" in capsys.readouterr().err
