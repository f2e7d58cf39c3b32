"""Every path of the API, read from its own description: what is not there is said, not broken."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

import pytest
from fastapi.testclient import TestClient

from oddkettle.store.file.database import open_database
from oddkettle.usecases.service.demo import fill_demo
from tests.api.described import APP, SPEC
from tests.conftest import EXAMPLES, NOW, document_of

NOBODY = 987654
FILLED = {
    "plan_id": str(NOBODY),
    "box_id": str(NOBODY),
    "thing_id": str(NOBODY),
    "revision": str(NOBODY),
    "key": "nothing",
    "choice": "0",
    "entry_id": str(NOBODY),
    "name": "booklet.pdf",
    "what": "log",
    "shape": "csv",
    "day": "0",
    "step": "0",
    "figure": "taken",
    "variant_id": str(NOBODY),
}
METHODS = ("get", "post", "put", "delete", "patch")


def operations() -> Iterator[tuple[str, str, dict[str, Any]]]:
    for path, item in SPEC["paths"].items():
        for method in METHODS:
            if method in item:
                yield method, path, item[method]


OPERATIONS = list(operations())
OF_A_PLAN = [(m, p) for m, p, _ in OPERATIONS if "{plan_id}" in p]
NAMES = [f"{method} {path}" for method, path in OF_A_PLAN]


@pytest.fixture(scope="module")
def client(tmp_path_factory: pytest.TempPathFactory) -> Iterator[TestClient]:
    """One store for all: what is asked here is of plans that are not there."""
    db = open_database(tmp_path_factory.mktemp("store") / "box.sqlite3", NOW)
    fill_demo(EXAMPLES, "moth-survey")
    yield TestClient(APP, raise_server_exceptions=False)
    db.close()


def filled(path: str, **places: str) -> str:
    for name, value in (FILLED | places).items():
        path = path.replace(f"{{{name}}}", value)
    assert "{" not in path, f"say in FILLED what stands in {path}"
    return path


def body_of(method: str, path: str) -> Any:
    """The least body that an operation takes."""
    operation = next(o for m, p, o in OPERATIONS if (m, p) == (method, path))
    content = operation.get("requestBody", {}).get("content", {})
    if "application/json" not in content:
        return None
    return least(content["application/json"]["schema"])


def least(schema: dict[str, Any]) -> Any:
    """A small value that a schema allows, as far as types and required fields go."""
    if "$ref" in schema:
        name = schema["$ref"].rsplit("/", 1)[1]
        if name in {"Plan", "Plan-Input"}:
            return document_of("moth-survey")
        return least(SPEC["components"]["schemas"][name])
    choices = schema.get("anyOf") or schema.get("oneOf")
    if choices:
        return None if {"type": "null"} in choices else least(choices[0])
    if schema.get("type") == "object":
        properties = schema.get("properties", {})
        return {name: least(properties[name]) for name in schema.get("required", [])}
    if "enum" in schema or "const" in schema:
        return schema.get("const", schema.get("enum", [None])[0])
    low = schema.get("minimum", 0)
    text = "2026-06-07T12:00:00" if schema.get("format") == "date-time" else "a"
    plain = {"array": [], "integer": low, "number": low, "boolean": False, "string": text}
    return plain[schema["type"]]


@pytest.mark.parametrize(("method", "path"), OF_A_PLAN, ids=NAMES)
def test_a_plan_that_is_not_there_is_said(client: TestClient, method: str, path: str) -> None:
    answer = client.request(method, filled(path), json=body_of(method, path))
    assert answer.status_code == 404, answer.text
    assert answer.headers["content-type"].startswith("application/problem+json")
    problem = answer.json()
    assert problem["title"]
    assert str(NOBODY) in problem["detail"]


@pytest.mark.parametrize(("method", "path"), OF_A_PLAN, ids=NAMES)
def test_a_plan_whose_number_is_none_is_refused(client: TestClient, method: str, path: str) -> None:
    answer = client.request(method, filled(path, plan_id="nine"), json=body_of(method, path))
    assert answer.status_code == 422, answer.text
    assert answer.json()["complaints"]


@pytest.mark.parametrize(
    ("method", "path"),
    [
        (m, p)
        for m, p, o in OPERATIONS
        if "application/json" in o.get("requestBody", {}).get("content", {})
    ],
)
@pytest.mark.parametrize("sent", [b"", b"{", b"[]", b"null", b'"plan"', b'{"document": 7}'])
def test_a_body_that_is_none_is_refused_with_a_remedy(
    client: TestClient, method: str, path: str, sent: bytes
) -> None:
    headers = {"content-type": "application/json"}
    url = filled(path, plan_id="1", entry_id="1")
    answer = client.request(method, url, content=sent, headers=headers)
    assert answer.status_code == 422, (url, answer.text)
    for complaint in answer.json()["complaints"]:
        assert complaint["text"]
        assert complaint["remedy"]


def test_every_operation_says_what_it_does_and_how_it_fails() -> None:
    for method, path, operation in OPERATIONS:
        assert operation.get("description"), (method, path)
        assert operation.get("tags"), (method, path)
        if "{plan_id}" in path:
            assert "404" in operation["responses"], (method, path)


def test_every_figure_of_the_document_has_bounds_and_a_unit() -> None:
    """What the browser refuses comes from here: a figure without bounds would be let through."""
    bare = [
        f"{name}.{field}"
        for name, schema in SPEC["components"]["schemas"].items()
        for field, value in schema.get("properties", {}).items()
        for one in value.get("anyOf", [value])
        if one.get("type") in {"number", "integer"} and one.get("unit")
        if not {"minimum", "maximum"} <= set(one)
    ]
    assert bare == []
