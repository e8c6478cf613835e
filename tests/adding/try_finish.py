"""Run with the pinked edge's module among those of the finishes: everything that knows finishes is asked for it."""

import json

import numpy as np
import shapely

from tests import shapes
from ypsicline.core.changes.change import changed
from ypsicline.core.changes.house import SetHouseRule
from ypsicline.core.changes.panels import AddPanels
from ypsicline.core.covers.form import asked_by
from ypsicline.core.drafting.draft import draft_panel
from ypsicline.core.errors import Refusal
from ypsicline.core.formats.changes import read_change
from ypsicline.core.formats.documents import PanelsFile, drafted_file, dump, dump_bundle, load_bundle, load_panels
from ypsicline.core.formats.measures_json import family_names
from ypsicline.core.formats.stored import pack, unpack
from ypsicline.core.job import JobDocument
from ypsicline.core.pattern.panel import Panel
from ypsicline.core.wording import render
from ypsicline.core.wording.english import WORDS
from ypsicline.server.views.panel import panel_view

WORDS |= {"rule_pinked": "{seam_mm:0g} + teeth {teeth_mm:0g} = {total_mm:0g}"}


def finished(job, finish):  # type: ignore[no-untyped-def]
    edges = [job.panels[0].seam_line[0].id]
    return changed(job, read_change(json.dumps({"kind": "set_edges", "edges": edges, "finish": finish}).encode(), "mm"))


job = changed(JobDocument("Cart"), AddPanels((Panel("lid", shapes.square(200, allowance=0)),), "lid.json"))
job = finished(job, "pinked")
edge = job.panels[0].seam_line[0]
assert (edge.finish, edge.allowance, edge.by_rule) == ("pinked", 15.0, True)
assert not (edge.is_folded_back or edge.is_cut_on_seam or edge.is_bare)

draft = draft_panel(job.panels[0])
bounds = shapely.Polygon(np.asarray(draft.cutting_points)).bounds
assert np.allclose(bounds, (0, -15, 200, 200), atol=1e-6), bounds
assert any("15 pinked" in render(m) for m in draft.workings), [render(m) for m in draft.workings]

wider = changed(job, SetHouseRule("seam", 20.0))
assert wider.panels[0].seam_line[0].allowance == 23.0

(view,) = panel_view(job.panels[0], "mm", job.house).rings[0][:1]
assert (view.finish, view.rule) == ("pinked", "12 + teeth 3 = 15")

asked = {a.name: a for a in asked_by(family_names()["cone_sleeve"])["choices"]}
assert "pinked" in asked["top"].choices

one = pack(job)
assert unpack(one.manifest, one.parts) == job
assert load_bundle(dump_bundle(job)).job.panels[0].seam_line[0] == edge
again = load_panels(dump(drafted_file(PanelsFile(job.panels, house=job.house))))
assert again.panels[0].seam_line == job.panels[0].seam_line

try:
    finished(job, "gilded")
except Refusal as refused:
    assert refused.sentence.endswith(".")
else:
    raise AssertionError("a finish that there isn't")
print("a pinked edge is a finish")
