"""Whatever the API's own description allows, and much that it does not, is answered in words.

Requests are made up from the OpenAPI document, valid and broken ones; none may end in a 5xx.
"""

from __future__ import annotations

from typing import Any

import pytest
import schemathesis
from fastapi import FastAPI
from hypothesis import HealthCheck, settings
from schemathesis.checks import not_a_server_error
from schemathesis.config import SchemathesisConfig

from tests.api.described import APP, SPEC
from tests.support.tiers import SLOW, repeats

pytestmark = [SLOW, pytest.mark.usefixtures("demo_store")]
# Without its lifespan, which would listen to monitors anew for each request.
CONFIG = SchemathesisConfig.from_dict(
    {"phases": {name: {"enabled": False} for name in ("examples", "coverage", "stateful")}}
)
SCHEMA = schemathesis.openapi.from_dict(SPEC, config=CONFIG)
SCHEMA.app = FastAPI(routes=APP.routes, exception_handlers=APP.exception_handlers)
SCHEMA.app.state = APP.state
# A stream that never ends is no answer to wait for; whole plans are spoilt by test_any_document,
# for a made-up one is hardly ever a plan.
TAKES_A_PLAN = r"/(preview|sum|instant|schools|build.*|improve/.*|sentence.*|plans/{plan_id})$"
ASKED = SCHEMA.exclude(path_regex="/live$").exclude(
    method=["POST", "PUT"], path_regex=f"{TAKES_A_PLAN}|/api/plans$"
)


@schemathesis.serializer("application/x-ndjson")
def as_lines(ctx: object, value: object) -> bytes:
    return value if isinstance(value, bytes) else str(value).encode("utf-8", "replace")


@ASKED.parametrize()
@settings(
    max_examples=repeats(1, 3, 300),
    deadline=None,
    suppress_health_check=list(HealthCheck),
    derandomize=True,
)
def test_no_request_ends_in_a_bare_error(case: Any) -> None:
    case.call_and_validate(checks=[not_a_server_error])
