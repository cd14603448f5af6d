"""The API under /api/, and the one page for every other address."""

from __future__ import annotations

from django.conf import settings
from django.db import DatabaseError, connection
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.urls import path, re_path
from django.views.decorators.cache import never_cache

from fletcher.server.api import api


@never_cache
def page(_: HttpRequest) -> HttpResponse:
    """The single page of the front end; its router reads the address."""
    index = settings.FRONTEND_DIST / "index.html"
    if not index.is_file():
        return HttpResponse(
            "The page has not been built yet. Run ./fletcher demo.", status=503, content_type="text/plain"
        )
    return HttpResponse(index.read_bytes(), content_type="text/html; charset=utf-8")


@never_cache
def worker(_: HttpRequest) -> HttpResponse:
    """The script that keeps the page's own files for the bench; at the root, for it may not look after more."""
    script = settings.FRONTEND_DIST / "sw.js"
    if not script.is_file():
        return HttpResponse(status=404)
    return HttpResponse(script.read_bytes(), content_type="text/javascript; charset=utf-8")


@never_cache
def health(_: HttpRequest) -> JsonResponse:
    """Whether pages and database are there; asks for no session."""
    try:
        with connection.cursor() as cursor:
            cursor.execute("select 1")
    except DatabaseError:
        return JsonResponse({"database": "away"}, status=503)
    return JsonResponse({"database": "there"})


urlpatterns = [
    path("api/health", health),
    path("api/", api.urls),
    path("sw.js", worker),
    re_path(r"^(?!api/|static/).*$", page),
]
handler400 = "fletcher.server.common.faults.bad_request"
handler404 = "fletcher.server.common.faults.not_found"
handler500 = "fletcher.server.common.faults.server_error"
