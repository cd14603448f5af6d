"""Response headers that every page carries."""

from __future__ import annotations

from collections.abc import Callable

from django.http import HttpRequest, HttpResponse

_POLICY = (
    "default-src 'self'; img-src 'self' data: blob:; style-src 'self' 'unsafe-inline'; "
    "object-src 'none'; base-uri 'self'; form-action 'self'; frame-ancestors 'none'"
)


def content_security_policy(
    get_response: Callable[[HttpRequest], HttpResponse],
) -> Callable[[HttpRequest], HttpResponse]:
    """Only the page's own files may load; inline styles are allowed because drawings place things by them."""

    def middleware(request: HttpRequest) -> HttpResponse:
        response = get_response(request)
        response.headers.setdefault("Content-Security-Policy", _POLICY)
        return response

    return middleware
