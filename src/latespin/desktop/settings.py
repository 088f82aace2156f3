"""What is remembered between starts: kept as JSON in the user's configuration folder."""

import contextlib
import os
from pathlib import Path

import msgspec
import platformdirs

from latespin.model.naming import DEFAULT_PATTERN

LIMIT = 10


class Settings(msgspec.Struct, kw_only=True):
    """Remembered choices. Unknown or broken files give the defaults; nothing depends on them."""

    theme: str = "Evening"
    recent: list[str] = []
    export_folder: str = ""
    export_suffix: str = ".flac"
    export_depth: str = "24"
    set_folder: str = ""
    set_pattern: str = DEFAULT_PATTERN
    volume_percent: float = 100.0
    matched: bool = True
    snapping: bool = True
    snap_to: str = "beats"
    rulers_in_bars: bool = True
    video_rate: float = 0.0
    geometry: str = ""

    def remember_file(self, path: Path) -> None:
        """Put a file first among the recent ones."""
        name = str(path.absolute())
        self.recent = [name, *(other for other in self.recent if other != name)][:LIMIT]


def settings_path() -> Path:
    """Where the settings lie; LATESPIN_CONFIG names another folder."""
    folder = os.environ.get("LATESPIN_CONFIG") or platformdirs.user_config_dir("latespin", appauthor=False)
    return Path(folder) / "settings.json"


def load_settings() -> Settings:
    """The remembered settings, or the defaults."""
    with contextlib.suppress(OSError, msgspec.DecodeError, UnicodeDecodeError):
        return msgspec.json.decode(settings_path().read_bytes(), type=Settings)
    return Settings()


def save_settings(settings: Settings) -> None:
    """Write them; a full disk or a read-only home is no reason to trouble anyone."""
    path = settings_path()
    with contextlib.suppress(OSError):
        path.parent.mkdir(parents=True, exist_ok=True)
        beside = path.with_suffix(".new")
        beside.write_bytes(msgspec.json.encode(settings))
        beside.replace(path)
