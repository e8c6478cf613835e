"""Lengths as makers type and read them."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ypsicline.core.errors import Refusal
from ypsicline.core.lengths import ABOUT, show_error, show_length, show_set_length
from ypsicline.core.typed_lengths import parse_length

READ = [
    ("12 3/8", "in", 12.375 * 25.4),
    ('12-3/8"', "mm", 12.375 * 25.4),
    ("12.375 in", "mm", 12.375 * 25.4),
    ("3' 2 1/2\"", "mm", 38.5 * 25.4),
    ("3' 2", "mm", 38 * 25.4),
    ("3 ft 2 in", "cm", 38 * 25.4),
    ("3′2½″", "cm", 38.5 * 25.4),
    ("31.4cm", "in", 314.0),
    ("314", "mm", 314.0),
    ("314", "cm", 3140.0),
    ("1.2 m", "mm", 1200.0),
    ("1,200 m", "mm", 1200.0),
    ("½", "in", 12.7),
    ("12½", "in", 12.5 * 25.4),
    ("12 ½", "in", 12.5 * 25.4),
    ("3/4", "in", 19.05),
    ("3⁄4 in", "mm", 19.05),
    ("0,5", "mm", 0.5),
    (".5", "in", 12.7),
    ("  7 mm ", "in", 7.0),
    ("5 IN", "mm", 127.0),
    ("12,375", "in", 12.375 * 25.4),
    ("0", "mm", 0.0),
    ("2 1/2 yards", "mm", 2286.0),
    ("1 yd 2 ft 3 in", "mm", 1600.2),
    ("1yd 3in", "cm", 990.6),
]


@pytest.mark.parametrize(("text", "unit", "mm"), READ)
def test_reads_what_people_type(text: str, unit: str, mm: float) -> None:
    assert parse_length(text, unit) == pytest.approx(mm)  # type: ignore[arg-type]


UNREADABLE = ["", "  ", "abc", "12 mm mm", "1 2", "12 3", "3/0", "1/", "--3", "-3", "1e3", "nan", "inf", "12;3", "5 kg",
              "3' 4'", "1 yd 4", "2 ft 1 yd", "2 in 3 ft", "1.2.3", "½½", "१२x", "99999999", "<b>1</b>", "1 m 20 cm"]  # fmt: skip


@pytest.mark.parametrize("text", UNREADABLE)
def test_refuses_what_it_cant_read_with_a_sentence(text: str) -> None:
    with pytest.raises(Refusal) as refusal:
        parse_length(text, "mm")
    assert refusal.value.reason == "length"
    assert str(refusal.value).endswith(".")


def test_never_guesses_what_can_be_read_two_ways() -> None:
    with pytest.raises(Refusal, match=r"two ways; type 1410 or 1\.410"):
        parse_length("1,410", "mm")


@pytest.mark.parametrize(
    ("mm", "unit", "denominator", "shown"),
    [
        (12.375 * 25.4, "in", 16, "12 3/8"),
        (12.375 * 25.4, "in", 32, "12 3/8"),
        (25.4, "in", 16, "1"),
        (0.2, "in", 16, "0"),
        (-12.7, "in", 16, "-1/2"),
        (25.39, "in", 8, "1"),
        (314.04, "mm", 16, "314.0"),
        (314.06, "mm", 16, "314.1"),
        (314.0, "cm", 16, "31.4"),
        (-0.01, "mm", 16, "0.0"),
    ],
)
def test_shows_lengths_as_they_are_read(mm: float, unit: str, denominator: int, shown: str) -> None:
    assert show_length(mm, unit, denominator=denominator) == shown  # type: ignore[arg-type]


@given(st.floats(0, 20_000), st.sampled_from(["mm", "cm", "in"]))
def test_what_is_shown_reads_back_within_half_its_last_place(mm: float, unit: str) -> None:
    step = {"mm": 0.1, "cm": 1.0, "in": 25.4 / 16}[unit]
    assert abs(parse_length(show_length(mm, unit), unit) - mm) <= step / 2 + 1e-6  # type: ignore[arg-type]


@pytest.mark.parametrize(
    ("mm", "unit", "shown"),
    [
        (12, "mm", "12.0"), (12.34, "mm", "12.34"), (12.345, "mm", "≈ 12.35"), (-3.5, "mm", "-3.5"), (-0.001, "mm", "0.0"),
        (12, "cm", "1.2"), (12.5, "cm", "1.25"), (0.127, "cm", "≈ 0.013"),
        (12.7, "in", "1/2"), (12, "in", "≈ 15/32"), (25.4 * 33 / 64, "in", "33/64"), (-12, "in", "≈ -15/32"),
    ],
)  # fmt: skip
def test_a_length_that_was_set_is_shown_exactly_or_with_a_sign(mm: float, unit: str, shown: str) -> None:
    assert show_set_length(mm, unit) == shown  # type: ignore[arg-type]


@given(st.floats(-20_000, 20_000), st.sampled_from(["mm", "cm", "in"]))
def test_a_set_length_without_the_sign_reads_back_as_it_was(mm: float, unit: str) -> None:
    shown = show_set_length(mm, unit)  # type: ignore[arg-type]
    most = {"mm": 0.005, "cm": 0.005, "in": 25.4 / 128}[unit] if shown.startswith(ABOUT) else 0.002
    assert abs(parse_length(shown, unit, signed=True) - mm) <= most + 1e-6  # type: ignore[arg-type]


@given(st.text(max_size=30))
def test_any_text_is_read_or_refused(text: str) -> None:
    try:
        assert 0 <= parse_length(text, "mm") <= 100_000
    except Refusal as e:
        assert e.sentence


@pytest.mark.parametrize(
    ("mm", "unit", "shown"),
    [
        (0.12, "mm", "0.2 mm"),
        (0.2, "mm", "0.2 mm"),
        (0.18, "cm", "0.2 mm"),
        (0.2, "in", "1/64 in"),
        (0.5, "in", "1/32 in"),
    ],
)
def test_an_error_never_looks_smaller_than_it_is(mm: float, unit: str, shown: str) -> None:
    assert show_error(mm, unit) == shown  # type: ignore[arg-type]
