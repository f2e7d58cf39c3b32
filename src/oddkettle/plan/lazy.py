"""Models whose validators are built when they are first used, not when they are imported.

A start imports some hundred models and uses a dozen; the rest wait until somebody asks.
"""

from __future__ import annotations

from pydantic import BaseModel, ConfigDict


class LazyModel(BaseModel):
    """A Pydantic model that costs nothing until its first use."""

    model_config = ConfigDict(defer_build=True)
