"""What the environment may set."""

from __future__ import annotations

from ipaddress import IPv4Address
from pathlib import Path

from platformdirs import user_data_path
from pydantic import Field, IPvAnyAddress, SecretStr
from pydantic_settings import BaseSettings, SettingsConfigDict

from oddkettle.shipped import WEB


class Settings(BaseSettings):
    """ODDKETTLE_PORT, _DATA, _HOST, _HOSTS, _PASS_PHRASE, _FORECAST_URL and _WATCH_S."""

    model_config = SettingsConfigDict(env_prefix="ODDKETTLE_")

    port: int = Field(default=8765, ge=1, le=65535)
    data: Path = Field(default_factory=lambda: user_data_path("oddkettle"))
    forecast_url: str | None = None
    host: IPvAnyAddress = IPv4Address("127.0.0.1")
    """The address at which it answers besides loopback: any but loopback wants a pass phrase."""
    pass_phrase: SecretStr | None = None
    hosts: str = ""
    """Names besides loopback's that it may be called by, with commas between."""
    web: Path = WEB
    watch_s: float = Field(default=60.0, ge=0.2, le=3600.0)
    """Seconds between two looks at the trips under way for alarms."""
