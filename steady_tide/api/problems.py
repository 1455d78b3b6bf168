"""From domain errors to problem+json (RFC 9457): the one table."""

from __future__ import annotations

from http import HTTPStatus
from typing import Any

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.openapi.utils import get_openapi
from fastapi.responses import JSONResponse
from pydantic import BaseModel
from pydantic_core import PydanticSerializationError
from starlette.exceptions import HTTPException

from steady_tide.core.quantities.errors import (
    BadInput,
    Clash,
    Conflict,
    DeskBusy,
    DeviceSilent,
    Fault,
    NoLegalPlan,
    NotFound,
    Overtaken,
    SteadyTideError,
    StoreBusy,
    StoreFull,
    StoreUnavailable,
)
from steady_tide.core.quantities.frozen import faults_in
from steady_tide.words.refusals import refusal_words

UNREADABLE = "There was an error parsing the body"  # as the framework says it
NO_OBJECT = ("model_attributes_type", "dict_type", "model_type", "missing")

STATUS_OF: dict[type[SteadyTideError], tuple[HTTPStatus, str, str]] = {
    BadInput: (HTTPStatus.UNPROCESSABLE_ENTITY, "bad-input", "This cannot be used as it is"),
    NoLegalPlan: (HTTPStatus.CONFLICT, "no-legal-plan", "The pins exclude each other"),
    NotFound: (HTTPStatus.NOT_FOUND, "not-found", "There is no such thing"),
    Overtaken: (HTTPStatus.CONFLICT, "overtaken", "A newer request took its place"),
    DeskBusy: (HTTPStatus.SERVICE_UNAVAILABLE, "desk-busy", "Much is asked at once"),
    Clash: (HTTPStatus.CONFLICT, "name-taken", "Something of that name is here already"),
    Conflict: (HTTPStatus.CONFLICT, "changed-elsewhere", "It was changed elsewhere meanwhile"),
    DeviceSilent: (HTTPStatus.SERVICE_UNAVAILABLE, "device-silent", "Nothing came back"),
    StoreBusy: (HTTPStatus.SERVICE_UNAVAILABLE, "store-busy", "The database is busy"),
    StoreFull: (HTTPStatus.INSUFFICIENT_STORAGE, "store-full", "The disk is full"),
    StoreUnavailable: (HTTPStatus.SERVICE_UNAVAILABLE, "store-unavailable", "The database does not answer"),
}


class ProblemFault(BaseModel):
    """One complaint: where, what, and how to mend it."""

    where: str
    what: str
    mend: str


class Problem(BaseModel):
    """What every refusal looks like."""

    type: str
    title: str
    status: int
    detail: str
    faults: list[ProblemFault] = []
    pins: list[str] = []


def problem(
    status: int, kind: str, title: str, detail: str, faults: tuple[Fault, ...] = (), pins: tuple[str, ...] = ()
) -> JSONResponse:
    """Make a problem+json answer."""
    body = Problem(
        type=f"urn:steady-tide:problem:{kind}",
        title=title,
        status=status,
        detail=detail,
        faults=[ProblemFault(where=fault.where, what=fault.what, mend=fault.mend) for fault in faults],
        pins=list(pins),
    )
    headers = {"Retry-After": "2"} if status == HTTPStatus.SERVICE_UNAVAILABLE else None
    return JSONResponse(body.model_dump(), status_code=status, media_type="application/problem+json", headers=headers)


REFUSALS: dict[int | str, dict[str, Any]] = {
    status: {
        "description": HTTPStatus(status).phrase,
        "content": {"application/problem+json": {"schema": {"$ref": "#/components/schemas/Problem"}}},
    }
    for status in (400, 403, 404, 408, 409, 413, 422, 503, 507)
}


def document(app: FastAPI) -> dict[str, Any]:
    """The OpenAPI document, with the form of every refusal. app: with its routes. Returns it."""
    if app.openapi_schema is None:
        made = get_openapi(title=app.title, version=app.version, routes=app.routes)
        schemas = made["components"]["schemas"]
        form = Problem.model_json_schema(ref_template="#/components/schemas/{model}")
        schemas.update(form.pop("$defs"))
        schemas["Problem"] = form
        _share_refusals(made)
        for unused in ("HTTPValidationError", "ValidationError"):
            schemas.pop(unused, None)
        app.openapi_schema = made
    return app.openapi_schema


def _share_refusals(made: dict[str, Any]) -> None:
    """Let every operation name its refusals instead of repeating them. made: an OpenAPI document, changed."""
    made["components"]["responses"] = {f"Refused{status}": said for status, said in REFUSALS.items()}
    for path in made["paths"].values():
        for operation in path.values():
            for status, said in REFUSALS.items():
                if operation["responses"].get(str(status)) == said:
                    operation["responses"][str(status)] = {"$ref": f"#/components/responses/Refused{status}"}


def install(app: FastAPI) -> None:
    """Teach an application to answer refusals this way."""

    @app.exception_handler(SteadyTideError)
    def _domain(_: Request, error: SteadyTideError) -> JSONResponse:
        kind = next(parent for parent in type(error).__mro__ if parent in STATUS_OF)
        status, name, title = STATUS_OF[kind]
        said = refusal_words(error) if isinstance(error, NoLegalPlan) else str(error)
        return problem(status, name, title, said, getattr(error, "faults", ()), getattr(error, "pins", ()))

    @app.exception_handler(UnicodeEncodeError)
    @app.exception_handler(PydanticSerializationError)
    def _no_text(_: Request, error: Exception) -> JSONResponse:
        fault = Fault("the text", "holds half a character, which cannot be kept", "Type it again without it.")
        return problem(422, "bad-input", "This cannot be used as it is", str(fault), (fault,))

    @app.exception_handler(RequestValidationError)
    def _invalid(request: Request, error: RequestValidationError) -> JSONResponse:
        entries: list[Any] = [{**entry, "loc": entry["loc"][1:]} for entry in error.errors()]
        sent = request.headers.get("content-type", "nothing said").partition(";")[0]
        as_whole = any(tuple(entry["loc"]) == () and entry["type"] in NO_OBJECT for entry in entries)
        if any(entry["type"] == "json_invalid" for entry in entries):
            faults: tuple[Fault, ...] = (Fault("the body", "is not JSON", "Check the brackets and commas."),)
        elif as_whole and not sent.endswith("json"):
            faults = (Fault("Content-Type", f"is {sent}", "Send JSON, with Content-Type: application/json."),)
        else:
            faults = faults_in(entries)
        return problem(
            HTTPStatus.UNPROCESSABLE_ENTITY,
            "bad-input",
            "This cannot be used as it is",
            "; ".join(map(str, faults)),
            faults,
        )

    @app.exception_handler(HTTPException)
    def _http(_: Request, error: HTTPException) -> JSONResponse:
        if error.detail == UNREADABLE:
            fault = Fault(
                "the body", "is no text in UTF-8, or nested too deep", "Send JSON in UTF-8, a few levels deep."
            )
            return problem(400, "bad-input", "This cannot be used as it is", str(fault), (fault,))
        phrase = HTTPStatus(error.status_code).phrase
        answer = problem(error.status_code, phrase.lower().replace(" ", "-"), phrase, str(error.detail))
        answer.headers.update(error.headers or {})
        return answer
