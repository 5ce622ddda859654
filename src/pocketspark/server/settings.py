"""What the server may be told from outside, by argument or by POCKETSPARK_ environment variables."""

from pathlib import Path

import platformdirs
from pydantic_settings import BaseSettings, SettingsConfigDict

ROOT = Path(__file__).resolve().parents[3]


class Settings(BaseSettings):
    """Loopback unless told otherwise; the user's own data folder unless told otherwise."""

    model_config = SettingsConfigDict(env_prefix="POCKETSPARK_")

    data: Path = Path(platformdirs.user_data_dir("pocket-spark", appauthor=False))
    # Another folder, on a stick or another disk, that gets each copy of the data as well.
    copies: Path | None = None
    web: Path = ROOT / "build" / "web"
    demo: bool = False
    # Where stand-ins put their ports: beside the user's other passing things, and only there are they looked for.
    ports: Path = Path(platformdirs.user_cache_dir("pocket-spark", appauthor=False)) / "ports"
    hosts: list[str] = ["127.0.0.1", "localhost", "[::1]"]
