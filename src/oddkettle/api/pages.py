"""The built front end, served from memory.

The pages are little more than a megabyte. Read once and packed once, they take no file access, no
thread and no packing while somebody waits for the first answer.
"""

from __future__ import annotations

import gzip
import mimetypes
import re
from dataclasses import dataclass
from functools import cached_property
from pathlib import Path
from typing import TYPE_CHECKING

from starlette.datastructures import Headers
from starlette.responses import Response

if TYPE_CHECKING:
    from starlette.types import Receive, Scope, Send

FOR_EVER = "public, max-age=31536000, immutable"
"""For files whose names change with their content: a browser need never ask again."""
ASK_AGAIN = "no-cache"
TYPES = {".webmanifest": "application/manifest+json"}
"""What the machine's own list may not know."""
ADDRESS = re.compile(r"(?:help|pair|practise|status|plan/\d+(?:/\w*)?)?/?")
"""What the pages' own router knows (`web/src/shell/App.tsx`)."""
PACKED = ("text/", "application/json", "application/javascript", "image/svg")


@dataclass(frozen=True)
class PageFile:
    """One file of the front end, as it is sent."""

    content: bytes
    media_type: str
    cache: str

    @cached_property
    def packed(self) -> bytes | None:
        """The content as gzip; None where that would not make it smaller."""
        return gzip.compress(self.content, 6) if self.media_type.startswith(PACKED) else None


class Pages:
    """An ASGI app: a file of the front end, or its one document for every other address."""

    def __init__(self, folder: Path) -> None:
        self.files = {
            path.relative_to(folder).as_posix(): PageFile(
                path.read_bytes(),
                TYPES.get(path.suffix)
                or mimetypes.guess_type(path.name)[0]
                or "application/octet-stream",
                FOR_EVER if path.parent.name == "assets" else ASK_AGAIN,
            )
            for path in sorted(folder.rglob("*"))
            if path.is_file()
        }

    @property
    def there(self) -> bool:
        """Whether the front end was built."""
        return "index.html" in self.files

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Answer a GET or HEAD."""
        path = scope["path"].lstrip("/")
        # Every page is the same document; the router inside it reads the address.
        known = ADDRESS.fullmatch(path) is not None
        file = self.files.get(path) or (self.files["index.html"] if known else None)
        if file is None:
            await Response("There is nothing at this address.", 404)(scope, receive, send)
            return
        headers = {"Cache-Control": file.cache, "Vary": "Accept-Encoding"}
        body = file.content
        if file.packed and "gzip" in Headers(scope=scope).get("accept-encoding", ""):
            body, headers["Content-Encoding"] = file.packed, "gzip"
        answer = Response(body, media_type=file.media_type, headers=headers)
        await answer(scope, receive, send)
