"""The API: routers of the places, and how every kind of refusal is told.

Refusals are always 4xx with a list of problems, each naming the path of the field, what is allowed and what was found.
"""

from __future__ import annotations

from typing import Any

from django.core.exceptions import RequestDataTooBig
from django.db import Error as StoreError
from django.http import Http404, HttpRequest, HttpResponse
from ninja import NinjaAPI, Schema
from ninja.errors import HttpError, ValidationError, ValidationErrorContext
from ninja.openapi.schema import OpenAPISchema
from ninja.security import django_auth

from fletcher.core.document.problems import MOST_TOLD, InvalidDocument, Problem, from_errors
from fletcher.server.accounts.api import router as session_router
from fletcher.server.airframes.api import AirframeOut
from fletcher.server.airframes.api import router as airframes_router
from fletcher.server.airframes.services import Stale
from fletcher.server.build.api import router as build_router
from fletcher.server.common.bodies import LookedThrough
from fletcher.server.common.faults import fault, problem, store_fault
from fletcher.server.crash.api import router as crash_router
from fletcher.server.crash.log_api import router as log_router
from fletcher.server.instruments.api import router as instruments_router
from fletcher.server.joints.api import router as coupons_router
from fletcher.server.joints.choosing import router as choosing_router
from fletcher.server.keeping.api import router as keeping_router
from fletcher.server.stock.api import router as stock_router
from fletcher.server.stock.own_api import router as own_stock_router
from fletcher.server.studies.api import router as studies_router
from fletcher.server.studies.estimates import router as estimates_router


class Refusal(Schema):
    """What is wrong with a request."""

    problems: list[Problem]


_STATUSES = {
    400: "No request that can be read", 401: "Not signed in", 403: "The page's token is old",
    404: "Not there, or not yours",
    413: "Too large", 422: "Problems, by field", 429: "Too often, or too much at once",
    500: "A fault of the server, under the mark that its log has",
    503: "The database is away for a moment", 507: "The server's disk is full",
}  # fmt: skip
_REFUSED = {"application/json": {"schema": {"$ref": "#/components/schemas/Refusal"}}}


class _Api(NinjaAPI):
    """Names every status that may occur in the schema, and what was found in every refusal."""

    def get_openapi_schema(self, *args: Any, **kwargs: Any) -> OpenAPISchema:
        found = super().get_openapi_schema(*args, **kwargs)
        schemas = found["components"]["schemas"]
        schemas.setdefault("Problem", Problem.model_json_schema())
        schemas.setdefault("Refusal", {**Refusal.model_json_schema(ref_template=_REFERENCE), "$defs": None})
        del schemas["Refusal"]["$defs"]
        found["components"]["responses"] = {
            f"Status{status}": {"description": says, "content": _REFUSED} for status, says in _STATUSES.items()
        }
        for operations in found["paths"].values():
            for operation in operations.values():
                for status in _STATUSES:  # whatever is named in the address may have gone
                    if status not in operation["responses"] and (status != 404 or operation.get("parameters")):
                        operation["responses"][status] = {"$ref": f"#/components/responses/Status{status}"}
        return found

    def validation_error_from_error_contexts(
        self, error_contexts: list[ValidationErrorContext[Any]]
    ) -> ValidationError:
        """As the library does, but with what was found, which a refusal shows."""
        errors = []
        for context in error_contexts:
            model = context.model
            flat = model.__ninja_flatten_map_reverse__
            for e in context.pydantic_validation_error.errors(include_url=False)[: MOST_TOLD + 1]:
                loc = (model.__ninja_param_source__, *flat.get(e["loc"], e["loc"]))
                errors.append({**e, "loc": loc})
        return ValidationError(errors)


_REFERENCE = "#/components/schemas/{model}"
api = _Api(title="Fletcher", version="1", auth=django_auth, docs_url=None, parser=LookedThrough())
api.add_router("", session_router)
api.add_router("", airframes_router)
api.add_router("", keeping_router)
api.add_router("/stock", stock_router)
api.add_router("/stock", own_stock_router)
api.add_router("/studies", estimates_router)
api.add_router("/studies", studies_router)
api.add_router("/joints", choosing_router)
api.add_router("/joints", coupons_router)
api.add_router("/crash", crash_router)
api.add_router("", build_router)
api.add_router("", log_router)
api.add_router("", instruments_router)


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


@api.exception_handler(HttpError)
def _plain_refusal(request: HttpRequest, error: HttpError) -> HttpResponse:
    if isinstance(error.__cause__, InvalidDocument):  # of a body that was looked through
        found = error.__cause__.problems
        return _refuse(request, 422, [p.model_copy(update={"path": p.path.removeprefix("document.")}) for p in found])
    return problem(error.status_code)


@api.exception_handler(Http404)
def _not_there(request: HttpRequest, error: Http404) -> HttpResponse:
    return problem(404)


@api.exception_handler(StoreError)
def _store(request: HttpRequest, error: StoreError) -> HttpResponse:
    return store_fault(error)


@api.exception_handler(Exception)
def _fault(request: HttpRequest, error: Exception) -> HttpResponse:
    return fault(error)


@api.exception_handler(RequestDataTooBig)
def _too_big(request: HttpRequest, _: RequestDataTooBig) -> HttpResponse:
    return _refuse(request, 413, [Problem(path="", message="is too large: no more than 600 kB")])


@api.exception_handler(Stale)
def _stale(request: HttpRequest, error: Stale) -> HttpResponse:
    return api.create_response(request, AirframeOut.from_orm(error.current), status=409)
