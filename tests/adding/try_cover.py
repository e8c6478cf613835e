"""What a family and a rule of checking can do once their modules are there; run by tests/core/test_adding.py."""

import json

from ypsicline.core.changes.change import changed
from ypsicline.core.changes.covers import DraftCover
from ypsicline.core.changes.findings import AcceptFinding
from ypsicline.core.checks.checked import checked
from ypsicline.core.covers.form import asked_by
from ypsicline.core.formats.measures_json import family_names, read_measures
from ypsicline.core.formats.stored import pack, unpack
from ypsicline.core.job import JobDocument
from ypsicline.core.joins.walk import walks

measures = read_measures(json.dumps({"measures": {"side": "30 cm"}}).encode(), "tile")
assert [a.name for a in asked_by(family_names()["tile"])["measures"]] == ["side"]
job = changed(JobDocument("tiles"), DraftCover(measures))
assert [w.verdict for w in walks(job.joins, job.panels)] == ["equal"]
wider = changed(job, DraftCover(read_measures(b'{"measures": {"side": 400}}', "tile"), of=job.covers[0].id))
assert [p.id for p in wider.panels] == [p.id for p in job.panels]
one = pack(wider)
assert unpack(one.manifest, one.parts) == wider

(one_open,) = (c for c in checked(wider, []) if c.finding.message.code == "panels")
assert one_open.is_open
settled = changed(wider, AcceptFinding(one_open.finding.id, "they are alike"))
assert not any(c.is_open for c in checked(settled, []))
print("a family and a rule are a module each")
