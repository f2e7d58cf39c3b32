"""Errors as problem details (RFC 9457), each complaint with value, limit and remedy."""

from __future__ import annotations

import json
import logging
from collections.abc import Callable
from typing import Any

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import Response
from pydantic import Field
from starlette.exceptions import HTTPException

from oddkettle.core.values.cancellation import GivenUp
from oddkettle.plan import Plan
from oddkettle.plan.plan_errors import Complaint, PlanRefused, complaint_from
from oddkettle.plan.quantities import LazyModel
from oddkettle.store.boxes import NoSuchBox
from oddkettle.store.devices import NoSuchDevice
from oddkettle.store.file.identity import ElsewhereNote
from oddkettle.store.file.trouble import DATABASE_ERRORS, StoreTrouble, trouble_from
from oddkettle.store.log import NoSuchEntry
from oddkettle.store.plans import NoStep, NoSuchPlan, StaleRevision
from oddkettle.store.shelf import NoSuchThing
from oddkettle.usecases.people.tries import TooManyTries, WrongCode
from oddkettle.usecases.simulate.missing import NoSuchFigure, NoSuchSituation, NoSuchStep, NotHere

MAX_COMPLAINTS = 100
"""What is told at once of what cannot be; the first line says how many there are."""

log = logging.getLogger("oddkettle.api")


class Problem(LazyModel):
    """The body of every error."""

    type: str = "about:blank"
    title: str
    status: int
    detail: str
    complaints: list[Complaint] = Field(default=[])
    current_revision: int | None = None


PROBLEMS: dict[int | str, dict[str, Any]] = {
    code: {"model": Problem, "content": {"application/problem+json": {}}, "description": text}
    for code, text in (
        (404, "There is no such thing"),
        (409, "Somebody saved first, or there is no such step"),
        (422, "The plan or the reading is refused"),
    )
}


def problem(problem: Problem) -> Response:
    """The response of a problem."""
    return Response(
        # What was sent may hold halves of characters, which UTF-8 cannot write: they are escaped.
        json.dumps(problem.model_dump(exclude_none=True), ensure_ascii=False).encode(
            "utf-8", "backslashreplace"
        ),
        status_code=problem.status,
        media_type="application/problem+json",
    )


def _refused(complaints: list[Complaint], in_all: int | None = None) -> Response:
    first, many = complaints[0], in_all or len(complaints)
    more = f" And {many - 1} more." if many > 1 else ""
    return problem(
        Problem(
            title="Invalid value",
            status=422,
            detail=f"{first.text} {first.remedy}{more}",
            complaints=complaints[:MAX_COMPLAINTS],
        )
    )


def _invalid(error: RequestValidationError) -> Response:
    complaints = []
    every = error.errors()
    for detail in every[:MAX_COMPLAINTS]:
        path = [part for part in detail["loc"] if part not in ("body", "document", "path")]
        detail["loc"] = tuple(path)
        complaints.append(complaint_from(detail, Plan))
    return _refused(complaints, len(every))


def _stale(error: StaleRevision) -> Response:
    current = error.current
    return problem(
        Problem(
            title="Someone else saved a newer version",
            status=409,
            detail=f"You started from revision {error.given}, but revision {current.revision} "
            f"was saved at {current.saved_at} ({current.did}). Nothing was overwritten: "
            "open the current one and make your change again.",
            current_revision=current.revision,
        )
    )


def _store_trouble(_: Request, error: Exception) -> Response:
    trouble = error if isinstance(error, StoreTrouble) else trouble_from(error)
    status = 507 if trouble.disk_full else 503
    return problem(
        Problem(title="The data file does not answer", status=status, detail=str(trouble))
    )


TOO_LARGE = "too large to convert to SQLite INTEGER"
"""What the database's driver says of a number that no row can have."""


def _broken(request: Request, error: Exception) -> Response:
    """A fault of the program itself: told in the form of every other problem, and logged."""
    log.error("%s %s failed", request.method, request.url.path, exc_info=error)
    return problem(
        Problem(
            title="Something broke",
            status=500,
            detail="This is a fault of the program, and nothing was changed by it. It was logged "
            f"with its time: {type(error).__name__}.",
        )
    )


TOLD: tuple[tuple[str, int, tuple[type[Exception], ...]], ...] = (
    ("No such step", 409, (NoStep,)),
    ("Belongs elsewhere", 409, (ElsewhereNote,)),
    (
        "Not found",
        404,
        (
            NoSuchPlan,
            NoSuchBox,
            NoSuchThing,
            NoSuchDevice,
            NoSuchSituation,
            NoSuchEntry,
            NoSuchFigure,
            NoSuchStep,
        ),
    ),
    ("Not done", 403, (NotHere, WrongCode)),
)
"""What is answered in an error's own words: title, status, errors."""


def add_problem_handlers(app: FastAPI) -> None:
    """Teach the app to answer every expected error with a problem."""
    for title, status, errors in TOLD:
        for kind in errors:
            app.add_exception_handler(kind, _in_its_words(title, status))
    for kind in (*DATABASE_ERRORS, StoreTrouble):
        app.add_exception_handler(kind, _store_trouble)
    app.add_exception_handler(Exception, _broken)

    @app.exception_handler(PlanRefused)
    def refused(_: Request, error: PlanRefused) -> Response:
        return _refused(error.complaints)

    @app.exception_handler(RequestValidationError)
    def invalid(_: Request, error: RequestValidationError) -> Response:
        return _invalid(error)

    @app.exception_handler(StaleRevision)
    def stale(_: Request, error: StaleRevision) -> Response:
        return _stale(error)

    @app.exception_handler(TooManyTries)
    def too_many(_: Request, error: TooManyTries) -> Response:
        answer = problem(Problem(title="Wait", status=429, detail=str(error)))
        answer.headers["retry-after"] = f"{error.wait_s:.0f}"
        return answer

    @app.exception_handler(GivenUp)
    def given_up(_: Request, error: Exception) -> Response:
        # Nobody will read it.
        return Response(status_code=499)

    @app.exception_handler(OverflowError)
    def no_number(request: Request, error: OverflowError) -> Response:
        if TOO_LARGE not in str(error):
            return _broken(request, error)
        return problem(
            Problem(title="Not found", status=404, detail="There is nothing with such a number.")
        )

    @app.exception_handler(HTTPException)
    def other(_: Request, error: HTTPException) -> Response:
        return problem(
            Problem(title=str(error.detail), status=error.status_code, detail=str(error.detail))
        )


def _in_its_words(title: str, status: int) -> Callable[[Request, Exception], Response]:
    def answer(_: Request, error: Exception) -> Response:
        return problem(Problem(title=title, status=status, detail=str(error)))

    return answer
