"""The header under which a file is saved, whatever script its name is in (RFC 6266, RFC 8187)."""

from __future__ import annotations

from typing import Literal
from urllib.parse import quote


def saved_as(name: str, how: Literal["attachment", "inline"] = "attachment") -> dict[str, str]:
    """Headers: the name in UTF-8, and in plain letters for a browser that knows no better."""
    plain = name.encode("ascii", "ignore").decode()
    plain = "".join(c if c.isalnum() or c in "-_." else "-" for c in plain).strip("-")
    plain = plain if plain.rpartition(".")[0] else f"plan{plain}"
    exact = "" if plain == name else f"; filename*=UTF-8''{quote(name, safe='-_.')}"
    return {"Content-Disposition": f'{how}; filename="{plain}"{exact}'}
