"""The page of the API's own documentation, on request. Made from the OpenAPI document, without a script or anything from elsewhere."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

from fastapi import FastAPI
from fastapi.responses import HTMLResponse
from jinja2 import Environment, FileSystemLoader
from markupsafe import Markup, escape

AT = "/api/docs"
HERE = Path(__file__).parent


def serve_docs_page(app: FastAPI) -> None:
    """Serve the page at `/api/docs`. app: before its front end is served."""

    @app.get(AT, include_in_schema=False)
    def page() -> HTMLResponse:
        return HTMLResponse(docs_page(app.openapi()))


def docs_page(document: dict[str, Any]) -> str:
    """An OpenAPI document as a page. Returns HTML."""
    groups: dict[str, list[dict[str, Any]]] = {}
    for path, operations in document["paths"].items():
        for method, said in operations.items():
            groups.setdefault((said.get("tags") or ["others"])[0], []).append(_operation(path, method, said))
    forms = {
        name: json.dumps(form, indent=2, ensure_ascii=False) for name, form in document["components"]["schemas"].items()
    }
    template = Environment(loader=FileSystemLoader(HERE), autoescape=True).get_template("docs_page.html")
    return template.render(info=document["info"], groups=dict(sorted(groups.items())), forms=forms)


def _operation(path: str, method: str, said: dict[str, Any]) -> dict[str, Any]:
    body = said.get("requestBody", {}).get("content", {})
    return {
        "path": path,
        "method": method.upper(),
        "summary": said.get("summary", ""),
        "description": said.get("description", ""),
        "parameters": [
            {**one, "form": _form(one.get("schema", {})), "description": one.get("description", "")}
            for one in said.get("parameters", ())
        ],
        "body": Markup(", ").join(
            Markup("{} {}").format(kind, _form(it.get("schema", {}))) for kind, it in body.items()
        ),
        "answers": [(status, _answer(it)) for status, it in said["responses"].items()],
    }


def _answer(said: dict[str, Any]) -> Markup:
    if "$ref" in said:
        return Markup('<a href="#Problem">Problem</a>')
    content = said.get("content", {})
    return Markup(", ").join(_form(it.get("schema", {})) for it in content.values()) or escape(said["description"])


def _form(schema: dict[str, Any]) -> Markup:
    """What a schema is, in a few words, with a link to its form."""
    if "$ref" in schema:
        name = schema["$ref"].rpartition("/")[2]
        return Markup('<a href="#{0}">{0}</a>').format(name)
    for several in ("anyOf", "oneOf"):
        if several in schema:
            return Markup(" or ").join(_form(one) for one in schema[several])
    if schema.get("type") == "array":
        return Markup("list of {}").format(_form(schema.get("items", {})))
    return escape(schema.get("format") or schema.get("type") or "anything")
