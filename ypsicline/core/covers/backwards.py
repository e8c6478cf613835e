"""Working backwards: a result of a cover that is to be so long, and which measure that would take."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, replace
from functools import partial
from typing import Any, Literal

from ypsicline.core.covers.cover import Cover
from ypsicline.core.covers.family import Family
from ypsicline.core.covers.form import asked_by
from ypsicline.core.drafting.house import House
from ypsicline.core.errors import Refusal
from ypsicline.core.messages import Message, message

__all__ = ["CoverResult", "MeasureInstead", "measures_for", "results_of", "with_lengths"]

CLOSE_ENOUGH_MM = 0.02
MOST_STEPS = 12
MeasuredOutline = Literal["measures", "choices"]
_MEASURED: tuple[MeasuredOutline, ...] = ("measures", "choices")


@dataclass(frozen=True)
class CoverResult:
    """A length that comes out of a cover, mm: a finished sum, a strip in one piece of cloth, or something to buy."""

    id: str
    what: Message
    length_mm: float


@dataclass(frozen=True)
class MeasureInstead:
    """A length of a family, by its part and name (`measures.girth`), that is `length_mm` instead of `now_mm`."""

    measure: str
    now_mm: float
    length_mm: float


def results_of(cover: Cover) -> tuple[CoverResult, ...]:
    """The lengths that a cover comes to and that could be asked for instead, in the order of its sums."""
    counts: Counter[str] = Counter()
    results = []
    for what, length in (*_sums(cover), *_goods(cover)):
        name = what.code if not what.names else f"{what.code}.{what.names[0]}"
        counts[name] += 1
        results.append(CoverResult(f"{name}.{counts[name]}", what, length))
    return tuple(results)


def _sums(cover: Cover) -> Iterator[tuple[Message, float]]:
    for line in cover.workings:
        what = dict(line.values).get("what")
        if not isinstance(what, Message):
            continue
        if "in_one_mm" in line.numbers:
            yield message("result_in_one_piece", strip=what), line.numbers["in_one_mm"]
        elif "total_mm" in line.numbers:
            yield what, line.numbers["total_mm"]


def _goods(cover: Cover) -> Iterator[tuple[Message, float]]:
    for notion in cover.notions:
        # of a zip from a shelf what it has to close can be asked for, not which one is next in length
        length = notion.working.numbers.get("opening_mm", notion.length_mm)
        if length:
            yield message("result_to_buy", goods_term=notion.kind), length


def measures_for(family: Family, house: House, result: str, length_mm: float) -> tuple[MeasureInstead, ...]:
    """Each measure that would bring a result, by its id, to a length in mm by itself, within a fiftieth of a mm; none of
    those that the result doesn't hang on, that would have to be what they can't, or an ease that would turn into the opposite.

    Raises `Refusal` where the family can't draft the cover as it is, or it has no such result.
    """
    _length_of(result, family.cover(house))

    def come_to(measure: str, mm: float) -> float:
        return _length_of(result, with_lengths(family, {measure: mm}).cover(house))

    offers = []
    for part in _MEASURED:
        for question in asked_by(type(family))[part]:
            now = getattr(getattr(family, part), question.name)
            if question.kind != "length" or not isinstance(now, (int, float)):
                continue
            measure = f"{part}.{question.name}"
            answer = _solved(partial(come_to, measure), now, length_mm)
            # less than nothing where it was more is no measure that anybody would take
            if answer is not None and not answer < 0 <= now:
                offers.append(MeasureInstead(measure, float(now), answer))
    return tuple(offers)


def with_lengths(family: Family, lengths: Mapping[str, float]) -> Family:
    """The family with other lengths, by part and name (`measures.girth`), mm. Raises `Refusal` where it has none of a name, or
    they can't be."""
    measures = {f"{part}.{a.name}": (part, a) for part in _MEASURED for a in asked_by(type(family))[part]}
    parts: dict[str, dict[str, float]] = {}
    for measure, length in lengths.items():
        part, field = measures.get(measure, ("", None))
        if field is None or field.kind != "length":
            raise Refusal(message("no_such_measure", measure=measure[:40]), "measure")
        if length < 0 and not field.is_signed:
            raise Refusal(message("measure_below_zero", measure_term=field.name), "measure")
        parts.setdefault(part, {})[field.name] = length
    whole: Any = family
    result: Family = replace(whole, **{part: replace(getattr(family, part), **new) for part, new in parts.items()})
    return result


def _length_of(result: str, cover: Cover) -> float:
    for r in results_of(cover):
        if r.id == result:
            return r.length_mm
    raise Refusal(message("no_such_result"), "measure")


def _solved(result: Callable[[float], float], now: float, target: float) -> float | None:
    """Where a result becomes what is wanted, by secants from where it is now; None where that isn't reached."""
    try:
        x0, y0 = now, result(now) - target
        x1 = now + 1.0
        for _ in range(MOST_STEPS):
            y1 = result(x1) - target
            if abs(y1) <= CLOSE_ENOUGH_MM:
                return x1 if x1 != now else None
            if abs(y1 - y0) < 1e-9:
                return None
            x0, y0, x1 = x1, y1, x1 - y1 * (x1 - x0) / (y1 - y0)
    except Refusal:
        return None
    return None
