"""A caution: what can hurt, and where that is known from.

Every one defers to local codes and to licensed practice. Those of a kind (a chemistry, a source)
stand with the kind; the others, and the list of all, in `judgement.cautions`.
"""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Caution:
    """`about` names the parts and kinds of load beside which it is shown.

    One that belongs to a kind leaves that to the list, which knows all kinds that carry it.
    """

    key: str
    title: str
    text: str
    source: str
    about: tuple[str, ...] = ()
