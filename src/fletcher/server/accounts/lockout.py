"""What stops guessing: a name is locked from one address alone, so that nobody can lock another one out; an address
that tries many names is locked altogether."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

from axes.models import AccessAttempt
from django.conf import settings
from django.db.models import Sum
from django.http import HttpRequest, JsonResponse
from django.utils import timezone

TOO_MANY = "Too many attempts. Wait 15 minutes, then try again."
MOST_TRIES = 40
"""So many failures from one address, with whatever names, lock it."""


def tries_from(request: HttpRequest) -> int:
    """Failures from the address of a request within the cool-off time."""
    since = timezone.now() - timedelta(hours=settings.AXES_COOLOFF_TIME)
    rows = AccessAttempt.objects.filter(ip_address=request.META.get("REMOTE_ADDR"), attempt_time__gte=since)
    return int(rows.aggregate(tries=Sum("failures_since_start"))["tries"] or 0)


def locked_out(request: HttpRequest, *args: Any, **kwargs: Any) -> JsonResponse:
    """Refuse until the cool-off time is over."""
    return JsonResponse({"message": TOO_MANY}, status=429)
