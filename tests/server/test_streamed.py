"""Long work that is told line by line."""

from __future__ import annotations

import json
from collections.abc import Callable
from threading import Event

import pytest
from ninja import Schema

from ypsicline.core.errors import Refused
from ypsicline.core.messages import message
from ypsicline.server.api.streamed import in_lines


class Step(Schema):
    share: float


Told = Callable[[Schema], None]


def test_each_step_is_a_line_of_its_own() -> None:
    def work(tell: Told) -> None:
        for share in (0.25, 0.5, 1.0):
            tell(Step(share=share))

    answer = in_lines(work)
    assert answer["Cache-Control"] == "no-store"
    lines = answer.getvalue().decode().splitlines()
    assert [json.loads(line) for line in lines] == [{"share": 0.25}, {"share": 0.5}, {"share": 1.0}]


def test_what_is_refused_at_once_is_refused_as_anywhere_else() -> None:
    def work(_tell: Told) -> None:
        raise Refused(message("pad_touches_itself"), "outline")

    with pytest.raises(Refused, match="touches itself"):
        in_lines(work)


def test_what_goes_wrong_later_breaks_the_answer_off() -> None:
    def work(tell: Told) -> None:
        tell(Step(share=0.1))
        raise ArithmeticError("later")

    lines = iter(in_lines(work))
    assert json.loads(next(lines)) == {"share": 0.1}
    with pytest.raises(ArithmeticError):
        next(lines)


@pytest.mark.django_db
def test_work_that_nobody_listens_to_any_more_is_given_up() -> None:
    closed, ended, passed = Event(), Event(), Event()

    def work(tell: Told) -> None:
        try:
            tell(Step(share=0.1))
            closed.wait(5)
            tell(Step(share=0.2))
            passed.set()
        finally:
            ended.set()

    answer = in_lines(work)
    next(iter(answer))
    answer.close()
    closed.set()
    assert ended.wait(5)
    assert not passed.is_set()
