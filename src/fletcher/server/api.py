"""The API: routers of the places, and how every kind of refusal is told.

Refusals are always 4xx with a list of problems, each naming the path of the field, what is allowed and what was found.
"""

from __future__ import annotations

from django.core.exceptions import RequestDataTooBig
from django.http import HttpRequest, HttpResponse
from ninja import NinjaAPI, Schema
from ninja.errors import ValidationError
from ninja.security import django_auth

from fletcher.core.document.problems import InvalidDocument, Problem, from_errors
from fletcher.server.accounts.api import router as session_router
from fletcher.server.airframes.api import AirframeOut
from fletcher.server.airframes.api import router as airframes_router
from fletcher.server.airframes.services import Stale
from fletcher.server.crash.api import router as crash_router
from fletcher.server.joints.api import router as coupons_router
from fletcher.server.joints.choosing import router as choosing_router
from fletcher.server.stock.api import router as stock_router
from fletcher.server.studies.api import router as studies_router
from fletcher.server.studies.estimates import router as estimates_router

api = NinjaAPI(title="Fletcher", version="1", auth=django_auth, docs_url=None)
api.add_router("", session_router)
api.add_router("", airframes_router)
api.add_router("/stock", stock_router)
api.add_router("/studies", estimates_router)
api.add_router("/studies", studies_router)
api.add_router("/joints", choosing_router)
api.add_router("/joints", coupons_router)
api.add_router("/crash", crash_router)


class Refusal(Schema):
    """What is wrong with a request."""

    problems: list[Problem]


def _refuse(request: HttpRequest, status: int, problems: list[Problem]) -> HttpResponse:
    return api.create_response(request, Refusal(problems=problems), status=status)


@api.exception_handler(InvalidDocument)
def _invalid_document(request: HttpRequest, error: InvalidDocument) -> HttpResponse:
    return _refuse(request, 422, error.problems)


@api.exception_handler(ValidationError)
def _invalid_request(request: HttpRequest, error: ValidationError) -> HttpResponse:
    # locations start with where the value came from and the name of the endpoint's argument
    trimmed = [{**e, "loc": [s for s in e["loc"][1:] if s not in ("payload", "document")]} for e in error.errors]
    return _refuse(request, 422, from_errors(trimmed))


@api.exception_handler(RequestDataTooBig)
def _too_big(request: HttpRequest, _: RequestDataTooBig) -> HttpResponse:
    return _refuse(request, 413, [Problem(path="", message="is too large: at most 600 kB")])


@api.exception_handler(Stale)
def _stale(request: HttpRequest, error: Stale) -> HttpResponse:
    return api.create_response(request, AirframeOut.from_orm(error.current), status=409)
