"""What holds for every request: no body is larger than the largest upload, and every page says what it may load."""

from __future__ import annotations

from collections.abc import Callable

from django.http import HttpRequest, HttpResponse, JsonResponse

from fletcher.core.common.quantities import read_in

_POLICY = (
    "default-src 'self'; img-src 'self' data: blob:; style-src 'self' 'unsafe-inline'; "
    "object-src 'none'; base-uri 'self'; form-action 'self'; frame-ancestors 'none'"
)


MAX_BODY_BYTES = 9_000_000
"""The largest photograph and what the form puts around it."""
MAX_ARCHIVE_BYTES = 65_000_000
"""The largest archive of an account."""


def _most(path: str) -> int:
    return MAX_ARCHIVE_BYTES if path.startswith("/api/account/archive") else MAX_BODY_BYTES


def body_limit(get_response: Callable[[HttpRequest], HttpResponse]) -> Callable[[HttpRequest], HttpResponse]:
    """A body that says it is larger is refused before it is read."""

    def middleware(request: HttpRequest) -> HttpResponse:
        said = request.META.get("CONTENT_LENGTH") or "0"
        most = _most(request.path)
        if said.isdigit() and int(said) <= most:
            return get_response(request)
        problem = {"path": "", "message": f"is too large: no more than {most // 1_000_000} MB", "value": said}
        return JsonResponse({"problems": [problem]}, status=413)

    return middleware


def reader(get_response: Callable[[HttpRequest], HttpResponse]) -> Callable[[HttpRequest], HttpResponse]:
    """Sentences are written in the units that the page says its reader prefers (`X-Units`)."""

    def middleware(request: HttpRequest) -> HttpResponse:
        with read_in("inch" if request.headers.get("X-Units") == "inch" else "metric"):
            return get_response(request)

    return middleware


def content_security_policy(
    get_response: Callable[[HttpRequest], HttpResponse],
) -> Callable[[HttpRequest], HttpResponse]:
    """Only the page's own files may load; inline styles are allowed because drawings place things by them."""

    def middleware(request: HttpRequest) -> HttpResponse:
        response = get_response(request)
        response.headers.setdefault("Content-Security-Policy", _POLICY)
        return response

    return middleware


def no_store(get_response: Callable[[HttpRequest], HttpResponse]) -> Callable[[HttpRequest], HttpResponse]:
    """What is somebody's own is kept by no cache: the next one at this machine must not find it."""

    def middleware(request: HttpRequest) -> HttpResponse:
        response = get_response(request)
        if request.path.startswith("/api/") and request.method in ("GET", "HEAD"):  # nothing else is ever kept
            response["Cache-Control"] = "no-store"
        return response

    return middleware
