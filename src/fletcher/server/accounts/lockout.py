"""The answer to somebody who guessed passwords too often."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest, JsonResponse


def locked_out(request: HttpRequest, *args: Any, **kwargs: Any) -> JsonResponse:
    """Refuse until the cool-off time is over."""
    return JsonResponse({"message": "Too many tries. Wait a quarter of an hour, then try again."}, status=429)
