"""The user's configuration folder, and the maps of control surfaces in it."""

import os
from pathlib import Path

import platformdirs

from latespin.errors import Unreadable, shortened
from latespin.language import tr
from latespin.media.files.atomic import write_bytes
from latespin.media.files.regular import all_readable, read_regular
from latespin.model.playing.surface_map import MOST_BYTES, PRACTICE, SurfaceMap, practice_map, read_surface, to_json
from latespin.paths import is_file


def config_folder() -> Path:
    """The folder; LATESPIN_CONFIG names another one. It may not exist yet."""
    return Path(os.environ.get("LATESPIN_CONFIG") or platformdirs.user_config_dir("latespin", appauthor=False))


def surface_folder() -> Path:
    """Folder of the user's own maps; it may not exist yet."""
    return config_folder() / "surfaces"


def own_surfaces() -> list[SurfaceMap]:
    """The user's own maps, by title; files that are none are passed over."""
    return sorted(all_readable(surface_folder(), load_surface_file), key=lambda surface: surface.title.casefold())


def all_surfaces() -> list[SurfaceMap]:
    """The practice surface's map, then the user's own."""
    return [practice_map(), *(surface for surface in own_surfaces() if surface.name != PRACTICE)]


def load_surface(name: str) -> SurfaceMap:
    """A map by its name, or one from a ``.json`` file. Raises Unreadable."""
    if name.lower().endswith(".json"):
        return load_surface_file(Path(name))
    own = surface_folder() / f"{name}.json"
    if name != PRACTICE and own.name == f"{name}.json" and is_file(own):
        return load_surface_file(own)
    if name == PRACTICE:
        return practice_map()
    known = ", ".join(surface.name for surface in all_surfaces())
    raise Unreadable(
        tr("There is no map “{0}” of a control surface. Use one of {1}, or a .json file.").format(
            shortened(name), known
        )
    )


def load_surface_file(path: Path) -> SurfaceMap:
    """A map from a file. Raises Unreadable."""
    return read_surface(read_regular(path, MOST_BYTES), shortened(path))


def keep_surface(surface: SurfaceMap, *, overwrite: bool = False) -> Path:
    """Keep a map among the user's own; returns its file. Raises Unwritable where there is one, unless it may be replaced."""
    folder = surface_folder()
    folder.mkdir(parents=True, exist_ok=True)
    file = folder / f"{surface.name}.json"
    write_bytes(file, to_json(surface), overwrite=overwrite, sources=())
    return file
