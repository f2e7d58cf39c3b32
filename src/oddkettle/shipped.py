"""Where the files lie that ship with the program: its pages and its example plans.

In an installed package they are beside the code; in a checkout they are in folders of their own.
"""

from __future__ import annotations

from pathlib import Path

PACKAGE = Path(__file__).resolve().parent
CHECKOUT = PACKAGE.parents[1]


def _folder(shipped: str, in_checkout: str) -> Path:
    installed = PACKAGE / "shipped" / shipped
    return installed if installed.is_dir() else CHECKOUT / in_checkout


WEB = _folder("web", "web/dist")
"""The built front end."""
EXAMPLES = _folder("examples", "examples/plans")
"""The example plans."""
