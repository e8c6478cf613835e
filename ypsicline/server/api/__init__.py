"""The application's interface for programs, under /api/. Its schema is docs/openapi.json."""

from ninja.security import django_auth

from ypsicline.server.api.changes import router as changes_router
from ypsicline.server.api.devices import router as devices_router
from ypsicline.server.api.errors import install
from ypsicline.server.api.files import router as files_router
from ypsicline.server.api.house import router as house_router
from ypsicline.server.api.jobs import router as jobs_router
from ypsicline.server.api.members import router as members_router
from ypsicline.server.api.pads import router as pads_router
from ypsicline.server.api.photos import router as photos_router
from ypsicline.server.api.previews import router as previews_router
from ypsicline.server.api.schema import Interface
from ypsicline.server.api.tablet import router as tablet_router

api = Interface(title="Ypsicline", version="1", auth=django_auth, docs_url=None, urls_namespace="api")
install(api)
api.add_router("", jobs_router, tags=["jobs"])
api.add_router("", changes_router, tags=["changes"])
api.add_router("", previews_router, tags=["previews"])
api.add_router("", pads_router, tags=["pads"])
api.add_router("", photos_router, tags=["photos"])
api.add_router("", files_router, tags=["files"])
api.add_router("", devices_router, tags=["devices"])
api.add_router("", tablet_router, tags=["devices"])
api.add_router("", members_router, tags=["workshop"])
api.add_router("", house_router, tags=["workshop"])

__all__ = ["api"]
