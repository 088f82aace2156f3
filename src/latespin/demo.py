"""Folder of the demo: beside the sources, or in the installed package."""

from importlib import resources
from pathlib import Path


def demo_folder() -> Path:
    """The folder with the demo songs, their session and their ground truth."""
    packaged = Path(str(resources.files("latespin"))) / "demo_data"
    return packaged if packaged.is_dir() else Path(__file__).resolve().parents[2] / "demo"


def demo_session() -> Path:
    """The demo session."""
    return demo_folder() / "late-session.latespin"
