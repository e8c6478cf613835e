"""Values can't be changed behind anybody's back."""

import dataclasses

import pytest

from tests import shapes
from ypsicline.core.capture.camera import Camera, View
from ypsicline.core.capture.sheets import Sheet
from ypsicline.core.job import Brief, JobDocument
from ypsicline.core.pattern.panel import Panel
from ypsicline.core.trueing.shape import Joint, TracedRing

VALUES = [
    shapes.square()[0],
    Panel("p", shapes.square()),
    Camera(3000, (2000, 1500)),
    View(Camera(3000, (2000, 1500)), (3.1, 0, 0), (0, 0, 1000)),
    Sheet("a4", 1),
    Joint(0, (0, 0)),
    TracedRing(((0, 0), (1, 0), (0, 1)), ()),
    Brief(),
    JobDocument("a job"),
]


@pytest.mark.parametrize("value", VALUES, ids=lambda v: type(v).__name__)
def test_values_are_frozen(value: object) -> None:
    name = dataclasses.fields(value)[0].name  # type: ignore[arg-type]
    with pytest.raises(dataclasses.FrozenInstanceError):
        setattr(value, name, None)
