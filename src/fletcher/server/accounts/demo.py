"""Demo mode: every visitor is the demo builder; outside it nobody is."""

from __future__ import annotations

from collections.abc import Callable

from django.contrib.auth import get_user_model, login, logout
from django.http import HttpRequest, HttpResponse

DEMO_USERNAME = "demo"


def sign_in_demo(get_response: Callable[[HttpRequest], HttpResponse]) -> Callable[[HttpRequest], HttpResponse]:
    """Sign API requests without a session in to the demo account."""

    def middleware(request: HttpRequest) -> HttpResponse:
        if request.path.startswith("/api/") and not request.user.is_authenticated:
            user = get_user_model().objects.filter(username=DEMO_USERNAME).first()
            if user is not None:
                login(request, user, backend="fletcher.server.accounts.names.ByName")
        return get_response(request)

    return middleware


def no_demo(get_response: Callable[[HttpRequest], HttpResponse]) -> Callable[[HttpRequest], HttpResponse]:
    """Outside demo mode a session that was begun in it is void."""

    def middleware(request: HttpRequest) -> HttpResponse:
        if request.user.is_authenticated and request.user.get_username() == DEMO_USERNAME:
            logout(request)
        return get_response(request)

    return middleware
