"""Settings, kept as JSON in the user's configuration folder."""

import contextlib
from collections.abc import Callable
from pathlib import Path
from typing import Any

import msgspec

from latespin.errors import LateSpinError
from latespin.media.files.atomic import write_bytes
from latespin.media.storage.config import config_folder
from latespin.model.values.file_names import DEFAULT_PATTERN
from latespin.paths import path_from_text, path_to_text, resolved

LIMIT = 10
DEFAULT_DEVICE, SILENT_DEVICE = "", "silent"  # sound devices that are none of the cards
LONGEST_NOTE = 2_000


class Settings(msgspec.Struct, kw_only=True):
    """Remembered choices. Unknown or broken files give the defaults; nothing depends on them."""

    theme: str = "Evening"
    language: str = ""  # a code; empty follows the desktop
    recent: list[str] = []
    recent_shapes: list[tuple[str, str]] = []  # of those, by name: see shapes.py
    export_folder: str = ""
    export_suffix: str = ".flac"
    export_encodings: dict[str, tuple[str, int]] = {}
    set_folder: str = ""
    set_pattern: str = DEFAULT_PATTERN
    output_device: str = DEFAULT_DEVICE
    volume_percent: float = 100.0
    matched: bool = True
    snapping: bool = True
    snap_to: str = "beats"
    rulers_in_bars: bool = True
    video_rate: float = 0.0
    movie_suffix: str = ".mp4"
    movie_shape: str = "16:9"
    movie_size: int = 1080
    movie_moving: bool = True
    geometry: str = ""
    hints_dismissed: list[str] = []
    favourite_recipes: list[str] = []
    recipe_notes: dict[str, str] = {}
    surface: str = "practice"
    quantise: str = ""
    quantise_strength: float = 100.0

    def folder_for(self, song: Path) -> Path:
        """Where exports of a song go unless another folder is chosen: to the last one, or beside the song."""
        kept = Path(self.export_folder)
        return kept if self.export_folder and kept.is_dir() else resolved(song).parent

    def mark_recipe(self, name: str, *, favourite: bool) -> None:
        """Make a recipe a favourite, or not."""
        others = [other for other in self.favourite_recipes if other != name]
        self.favourite_recipes = sorted([*others, name]) if favourite else others

    def note_recipe(self, name: str, note: str) -> None:
        """Keep a note on a recipe; an empty one removes it."""
        others = {other: kept for other, kept in self.recipe_notes.items() if other != name}
        self.recipe_notes = {**others, name: note[:LONGEST_NOTE]} if note.strip() else others

    def remember_file(self, path: Path, shape: str = "") -> None:
        """Put a file first among the recent ones. shape : of its song, if it is known."""
        name = str(path.absolute())
        self.recent = [name, *(other for other in self.recent if other != name)][:LIMIT]
        shapes = dict(self.recent_shapes) | ({name: shape} if shape else {})
        self.recent_shapes = [(other, shapes[other]) for other in self.recent if other in shapes]


def settings_path() -> Path:
    """The path of the settings."""
    return config_folder() / "settings.json"


def load_settings() -> Settings:
    """The remembered settings, or the defaults."""
    with contextlib.suppress(OSError, msgspec.MsgspecError, UnicodeDecodeError, RecursionError):
        plain = msgspec.json.decode(settings_path().read_bytes())
        return msgspec.convert(_with_texts(plain, path_from_text), type=Settings)
    return Settings()


def save_settings(settings: Settings) -> None:
    """Write them; a full disk or a read-only home is no reason to trouble anyone."""
    path = settings_path()
    with contextlib.suppress(OSError, LateSpinError):
        path.parent.mkdir(parents=True, exist_ok=True)
        data = msgspec.json.encode(_with_texts(msgspec.to_builtins(settings), path_to_text))
        write_bytes(path, data, overwrite=True, sources=())


def _with_texts(plain: Any, change: Callable[[str], str]) -> Any:
    """The values with every text changed, since paths among them may be of any bytes."""
    if isinstance(plain, dict):
        return {name: _with_texts(value, change) for name, value in plain.items()}
    if isinstance(plain, list | tuple):
        return [_with_texts(value, change) for value in plain]
    return change(plain) if isinstance(plain, str) else plain
