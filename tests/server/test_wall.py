"""The wall: found, paged, put away and deleted, and its size."""

from __future__ import annotations

from typing import Any

import pytest
from django.db import connection
from django.test.utils import CaptureQueriesContext

from tests.server.conftest import Api
from ypsicline.core.job import Brief, JobDocument
from ypsicline.server.jobs import history
from ypsicline.server.jobs.models import Job, Revision, Workshop
from ypsicline.server.jobs.wall import PAGE, renew_tickets


def hung(workshop: Workshop, *names: str, **more: Any) -> list[Job]:
    return [history.take_in(workshop, JobDocument(n, brief=Brief("tray"), **more), None) for n in names]


def names(wall: Any) -> list[str]:
    return [t["name"] for t in wall["tickets"]]


def test_a_page_holds_so_many_and_the_next_goes_on(api: Api, workshop: Workshop) -> None:
    hung(workshop, *(f"Job {k:03}" for k in range(PAGE + 5)))
    first, second = (api.good("GET", f"wall?page={k}") for k in (1, 2))
    assert (first["count"], first["pages"]) == (PAGE + 5, 2)
    assert names(first) + names(second) == [f"Job {k:03}" for k in range(PAGE + 5)]
    assert names(api.good("GET", "wall?page=9")) == []
    api.refused("GET", "wall?page=0")


@pytest.mark.parametrize(
    ("search", "found"),
    [("kiln", ["Kiln lid"]), ("LID", ["Kiln lid", "Glaze lid"]), ("lid kiln", ["Kiln lid"]), ("2", ["Glaze lid"]),
     ("otter", ["Kiln lid", "Glaze lid", "Tray"]), ("%", []), ("' OR 1=1", []), ("nothing like it", [])],
)  # fmt: skip
def test_a_ticket_is_found_by_what_stands_on_it(api: Api, workshop: Workshop, search: str, found: list[str]) -> None:
    hung(workshop, "Kiln lid", "Glaze lid", "Tray", for_whom="Otterbeck")
    assert names(api.good("GET", f"wall?search={search}")) == found


def test_what_is_put_away_leaves_the_wall_and_comes_back_as_it_was(api: Api, job: Job) -> None:
    before = api.good("GET", f"jobs/{job.pk}")
    api.good("POST", f"jobs/{job.pk}/put-away")
    assert names(api.good("GET", "wall")) == []
    assert names(api.good("GET", "wall?put_away=true")) == ["Splash tray"]
    # a change meanwhile, from a window that is still open, doesn't hang it again
    api.do(job.pk, "set_unit", unit="in")
    assert names(api.good("GET", "wall")) == []
    api.good("POST", f"jobs/{job.pk}/undo")
    api.good("DELETE", f"jobs/{job.pk}/put-away")
    assert names(api.good("GET", "wall")) == ["Splash tray"]
    assert api.good("GET", f"jobs/{job.pk}")["panels"] == before["panels"]


def test_only_what_is_put_away_can_be_deleted_and_only_by_members(api: Api, stranger: Api, job: Job) -> None:
    assert "put it away" in api.refused("DELETE", f"jobs/{job.pk}")
    api.good("POST", f"jobs/{job.pk}/put-away")
    for method, path in (
        ("DELETE", f"jobs/{job.pk}"),
        ("POST", f"jobs/{job.pk}/put-away"),
        ("DELETE", f"jobs/{job.pk}/put-away"),
    ):
        stranger.refused(method, path, status=404)
    api.good("DELETE", f"jobs/{job.pk}")
    assert not Revision.objects.exists()
    api.refused("GET", f"jobs/{job.pk}", status=404)
    assert names(api.good("GET", "wall?put_away=true")) == []
    # the number of a ticket that was there never comes back
    assert api.good("POST", "jobs", {"name": "Next"})["ticket"] == job.ticket + 1


def test_a_ticket_says_what_the_job_came_to(api: Api, job: Job) -> None:
    def ticket() -> Any:
        return api.good("GET", "wall")["tickets"][0]

    assert ticket()["silhouette"].startswith("M0.0 ")
    assert ticket()["next_step"]["sentence"] == "print and cut"
    api.do(job.pk, "set_edges", edges=[[0, 0, 1]], allowance="0")
    assert ticket()["next_step"]["sentence"] == "1 edge needs an allowance"
    api.good("POST", f"jobs/{job.pk}/undo")
    assert ticket()["next_step"]["sentence"] == "print and cut"


def test_tickets_of_another_version_are_written_anew(api: Api, job: Job) -> None:
    before = api.good("GET", "wall")["tickets"]
    Job.objects.update(ticket_front={}, name="", covers="")
    assert api.good("GET", "wall")["tickets"][0]["name"] == f"Job {job.ticket}"
    assert renew_tickets() == 0
    assert api.good("GET", "wall")["tickets"] == before
    # one that an earlier version couldn't read is tried again
    Job.objects.update(unreadable_at=job.position)
    assert renew_tickets() == 0
    assert api.good("GET", "wall")["tickets"] == before


def test_a_wall_is_read_in_two_queries_however_many_jobs_there_are(api: Api, workshop: Workshop) -> None:
    (job,) = hung(workshop, "Pattern")
    rows = [
        Job(workshop=workshop, ticket=k + 2, position=1, latest=1, name=f"Job {k}", ticket_front=job.ticket_front)
        for k in range(2000)
    ]
    Job.objects.bulk_create(rows)
    with CaptureQueriesContext(
        connection,
    ) as queries:
        wall = api.good("GET", "wall?page=20&search=job")
    assert len(wall["tickets"]) == PAGE
    # besides those two whose session it is, and who that is
    assert len(queries) == 4, [q["sql"][:90] for q in queries]


def test_a_job_is_copied_to_go_on_from(api: Api, job: Job) -> None:
    """Everything but its photos, its day and its past; what is done to one isn't done to the other."""
    api.do(job.pk, "set_brief", name="Kiln cover", for_whom="Otterbeck", due="2030-01-31", brief={"covers": "kiln"})
    api.do(job.pk, "draft_cover", cover={"family": "cap", "measures": {"girth": 812, "height": 300}})
    like = api.good("POST", f"jobs/{job.pk}/copy")
    assert (like["name"], like["for_whom"], like["due"], like["ticket"]) == ("Kiln cover again", "Otterbeck", None, 2)
    assert [p["name"] for p in like["panels"]] == ["tray", "top", "body"]
    assert len(like["joins"]) == 2
    assert like["last_change"] == "Copied from ticket 1"
    api.do(like["id"], "remove_panel", panel=like["panels"][1]["id"])
    assert len(api.good("GET", f"jobs/{job.pk}")["panels"]) == 3
    assert not like["can_undo"]
