"""Demo mode: every visitor is the demo builder. Installed only when FLETCHER_DEMO=1."""

from __future__ import annotations

from collections.abc import Callable

from django.contrib.auth import get_user_model, login
from django.http import HttpRequest, HttpResponse

DEMO_USERNAME = "demo"


def sign_in_demo(get_response: Callable[[HttpRequest], HttpResponse]) -> Callable[[HttpRequest], HttpResponse]:
    """Sign API requests without a session in to the demo account."""

    def middleware(request: HttpRequest) -> HttpResponse:
        if request.path.startswith("/api/") and not request.user.is_authenticated:
            user = get_user_model().objects.filter(username=DEMO_USERNAME).first()
            if user is not None:
                login(request, user, backend="django.contrib.auth.backends.ModelBackend")
        return get_response(request)

    return middleware
