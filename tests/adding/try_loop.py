"""Run with the loop's module among those of the features: everything that knows features is asked for it."""

import json
import math

from tests import shapes
from ypsicline.core.changes.change import changed
from ypsicline.core.changes.edges import SplitEdge
from ypsicline.core.changes.panels import AddPanels, CopyPanel
from ypsicline.core.drafting.draft import draft_panel
from ypsicline.core.errors import Refusal
from ypsicline.core.formats.changes import read_change
from ypsicline.core.formats.documents import PanelsFile, drafted_file, dump, dump_bundle, load_bundle, load_panels
from ypsicline.core.formats.stored import pack, unpack
from ypsicline.core.job import JobDocument
from ypsicline.core.pattern.panel import Panel
from ypsicline.core.wording import render
from ypsicline.core.wording.english import WORDS
from ypsicline.server.views.panel import _features

WORDS |= {
    "loop_drawn": "loop of {wide_mm} on {edge}",
    "feature_loop": "Loop",
    "figure_loop_width": "The width of a loop",
    "thing_loop": "loop",
}


def put(job, **feature):  # type: ignore[no-untyped-def]
    asked = {"kind": "set_feature", "panel": job.panels[0].id, "feature": {"kind": "loop", **feature}}
    return changed(job, read_change(json.dumps(asked).encode(), "cm"))


def noted(panel):  # type: ignore[no-untyped-def]
    return [m.points[0] for m in draft_panel(panel).marks if m.kind == "note"]


job = changed(JobDocument("Cart"), AddPanels((Panel("lid", shapes.square(200, allowance=10)),), "lid.json"))
edge = job.panels[0].seam_line[0].id
job = put(job, edge=edge, along="4", wide="2")
(loop,) = job.panels[0].features
assert (loop.kind, loop.along, loop.wide) == ("loop", 40.0, 20.0)
assert noted(job.panels[0]) == [(40.0, 0.0)]
assert render(loop.words({edge: "front"}), "cm") == "loop of 2.0 cm on front"

assert render(draft_panel(job.panels[0]).workings[0], "in") == "loop of 13/16 in on a"

split = changed(job, SplitEdge(edge, 30.0))
assert math.dist(noted(split.panels[0])[0], (40.0, 0.0)) < 1e-6
mirrored = changed(job, CopyPanel(job.panels[0].id, mirror=True)).panels[1]
assert math.dist(noted(mirrored)[0], (-40.0, 0.0)) < 1e-6

one = pack(job)
assert unpack(one.manifest, one.parts) == job
assert load_bundle(dump_bundle(job)).job.panels[0].features[0].wide == 20.0
again = load_panels(dump(drafted_file(PanelsFile(job.panels, house=job.house))))
assert again.panels[0].features == job.panels[0].features

for wrong in ({"edge": edge, "along": "4", "wide": "99"}, {"edge": edge, "along": "90", "wide": "2"}):
    try:
        put(job, **wrong)
    except Refusal as refused:
        assert refused.sentence.endswith(".")
    else:
        raise AssertionError(wrong)

(view,) = _features(job.panels[0], "mm", None)
assert view.values == {"edge": edge, "along": "40.0", "wide": "20.0"}
print("a loop is a feature")
