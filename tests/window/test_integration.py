"""A place on the desktop: the files written for it, checked by the desktop's own tools, and one window for all files."""

import os
import shutil
import subprocess
import sys
import tempfile
import time
import xml.etree.ElementTree as ET
from collections.abc import Iterator
from configparser import ConfigParser
from pathlib import Path

import pytest
from PySide6.QtGui import QImage
from pytestqt.qtbot import QtBot

from latespin.cli.main import all_commands, commands
from latespin.demo import demo_folder, demo_session
from latespin.desktop.integration.icons import SIZES
from latespin.desktop.integration.installer import install, remove
from latespin.desktop.integration.one_window import OneWindow
from latespin.desktop.shell.main_window import Window
from latespin.errors import Unwritable
from latespin.integration import APP_ID, SESSION_TYPE
from latespin.integration.desktop_files import mime_package
from latespin.integration.hand_over import hand_over, socket_place
from latespin.integration.man_page import man_page
from latespin.jobs import Work, step
from latespin.render import compile_kernels, compiled_stamp
from tests.window.conftest import wait

PROGRAM = Path("/opt/late spin/bin/latespin")


@pytest.fixture
def installed(tmp_path: Path, qtbot: QtBot) -> Path:
    """A data folder with everything in it, and a file of somebody else's."""
    folder = tmp_path / "data"
    (folder / "applications").mkdir(parents=True)
    (folder / "applications" / "other.desktop").write_text("[Desktop Entry]")
    install(folder, PROGRAM, all_commands(), commands)
    return folder


def checked_by(*command: str) -> None:
    """Run a validator where there is one."""
    if shutil.which(command[0]):
        done = subprocess.run(command, capture_output=True, text=True, check=False)
        assert done.returncode == 0, done.stdout + done.stderr
        assert "error" not in done.stdout.lower(), done.stdout


def test_the_launcher_names_our_types_and_survives_a_folder_with_spaces(installed: Path) -> None:
    place = installed / f"applications/{APP_ID}.desktop"
    entry = ConfigParser(interpolation=None)
    entry.optionxform = str  # type: ignore[assignment, method-assign]
    entry.read(place)
    desktop = entry["Desktop Entry"]
    assert desktop["Exec"] == f'"{PROGRAM}" open %f'
    assert desktop["Icon"] == APP_ID
    assert {SESSION_TYPE, "audio/flac", "video/mp4"} <= set(desktop["MimeType"].split(";"))
    checked_by("desktop-file-validate", str(place))


def test_icons_are_there_in_every_size_and_show_something(installed: Path) -> None:
    for kind, name in (("apps", APP_ID), ("mimetypes", SESSION_TYPE.replace("/", "-"))):
        assert ET.parse(installed / f"icons/hicolor/scalable/{kind}/{name}.svg").getroot().tag.endswith("svg")
        for size in SIZES:
            image = QImage(str(installed / f"icons/hicolor/{size}x{size}/{kind}/{name}.png"))
            assert (image.width(), image.height()) == (size, size)
            assert image.pixelColor(0, 0).alpha() == 0, "its corners are clear"
            colours = {image.pixel(x, y) for x in range(size) for y in range(size)}
            assert len(colours) > 20


def test_sessions_are_known_by_how_they_begin() -> None:
    """The magic of the file type is found in every session that we write, and where it says."""
    match = ET.fromstring(mime_package()).find(".//{*}match")
    assert match is not None
    first, _, last = match.attrib["offset"].partition(":")
    value = match.attrib["value"].encode()
    sessions = [demo_session(), *Path(__file__).parents[1].glob("golden/*.latespin")]
    for session in sessions:
        assert int(first) <= session.read_bytes().find(value) <= int(last), session.name


def test_what_software_centres_show_and_the_man_page_are_valid(installed: Path) -> None:
    page = (installed / "man/man1/latespin.1").read_text(encoding="utf-8")
    for name, command in all_commands().items():
        assert f"latespin {name}".replace("-", "\\-") in page or command.hidden
    assert not [line for line in page.splitlines() if line.startswith("'")]
    about = ET.parse(installed / f"metainfo/{APP_ID}.metainfo.xml").getroot()
    assert about.findtext("id") == APP_ID
    checked_by("appstreamcli", "validate", "--no-net", str(installed / f"metainfo/{APP_ID}.metainfo.xml"))
    if shutil.which("man") and shutil.which("groff"):
        done = subprocess.run(
            ["man", "--warnings", "-l", str(installed / "man/man1/latespin.1")],
            capture_output=True, text=True, env={**os.environ, "MANWIDTH": "80", "LC_ALL": "C.UTF-8"}, check=True,
        )  # fmt: skip
        assert done.stderr == ""


def test_text_of_any_kind_stays_text_in_the_man_page() -> None:
    import click

    @click.command(help=".TH is no request, nor is 'this; a\\b - c")
    @click.option("--way", type=click.Choice(["one", "two"]), help="-5 dB")
    def odd() -> None:
        """Replaced."""

    page = man_page({"odd": odd})
    assert "\\&.TH is no request, nor is 'this; a\\eb \\- c" in page
    assert "[one|\\:two]" in page
    assert "\\-5 dB" in page


def test_completions_are_scripts_of_their_shells(installed: Path) -> None:
    for place in (
        "bash-completion/completions/latespin",
        "zsh/site-functions/_latespin",
        "fish/vendor_completions.d/latespin.fish",
    ):
        assert "_LATESPIN_COMPLETE" in (installed / place).read_text()
    checked_by("bash", "-n", str(installed / "bash-completion/completions/latespin"))
    done = subprocess.run(
        [sys.executable, "-c", "from latespin.cli.main import commands; commands(prog_name='latespin')"],
        env={**os.environ, "_LATESPIN_COMPLETE": "bash_complete", "COMP_WORDS": "latespin ren", "COMP_CWORD": "1"},
        capture_output=True, text=True, check=True,
    )  # fmt: skip
    assert "render" in done.stdout


def test_taking_away_leaves_what_is_not_ours_and_nothing_else(installed: Path) -> None:
    install(installed, PROGRAM, all_commands(), commands)  # again: its own files are written anew
    assert len(remove(installed)) == 27
    left = {str(path.relative_to(installed)) for path in installed.rglob("*") if path.is_file()}
    assert not [name for name in left if "atespin" in name or "LateSpin" in name or "late-spin" in name]
    assert "applications/other.desktop" in left
    assert remove(installed) == []
    (installed / f"applications/{APP_ID}.desktop").write_text("not ours")
    with pytest.raises(Unwritable, match="not written by Late Spin"):
        install(installed, PROGRAM, all_commands(), commands)
    assert not (installed / "mime/packages").exists(), "nothing was begun"


def test_a_list_that_leads_elsewhere_takes_nothing_away(installed: Path, tmp_path: Path) -> None:
    kept = tmp_path / "song.flac"
    kept.touch()
    (installed / "late-spin/desktop-files.json").write_text('["../song.flac"]')
    assert remove(installed) == []
    assert kept.exists()


# -- one window --------------------------------------------------------------------------------------------------------


@pytest.fixture
def runtime(monkeypatch: pytest.MonkeyPatch) -> Iterator[Path]:
    """A runtime folder of its own, with a short name, since those of sockets may have 107 bytes."""
    with tempfile.TemporaryDirectory() as folder:
        monkeypatch.setenv("XDG_RUNTIME_DIR", folder)
        yield Path(folder)


def start(code: str) -> subprocess.Popen[str]:
    """Another start of the program."""
    words = f"from pathlib import Path\nfrom latespin.integration.hand_over import hand_over\nprint({code})"
    return subprocess.Popen([sys.executable, "-c", words], stdout=subprocess.PIPE, text=True)


def test_a_second_start_hands_its_file_to_the_open_window(qtbot: QtBot, runtime: Path) -> None:
    asked: list[Path | None] = []
    assert not hand_over(None), "no window is open"
    one = OneWindow()
    assert one.listens
    one.asked.connect(asked.append)
    song = demo_folder() / "lantern-light.ogg"
    for code in (f"hand_over(Path({str(song)!r}))", "hand_over(None)"):
        process = start(code)
        wait(qtbot, lambda process=process: process.poll() is not None)
        assert process.communicate()[0] == "True\n"
    wait(qtbot, lambda: len(asked) == 2)
    assert asked == [song, None]
    assert not OneWindow().listens, "one is enough"
    one.close()
    assert not hand_over(None)
    assert not list(runtime.rglob("*.sock"))


def test_a_window_that_died_is_no_window(qtbot: QtBot, runtime: Path) -> None:
    code = "import sys; sys.argv"
    died = subprocess.run(
        [sys.executable, "-c", f"{code}; from latespin.media.local_socket import *; from latespin.integration.hand_over import socket_place; s = listening(socket_place(), 1); import os; os._exit(0)"],
        check=False,
    )  # fmt: skip
    assert died.returncode == 0
    assert list(runtime.rglob("window*.sock"))
    assert not hand_over(None)
    one = OneWindow()
    assert one.listens
    one.close()


def test_nonsense_at_the_socket_opens_nothing(qtbot: QtBot, runtime: Path) -> None:
    from latespin.media.local_socket import connected

    one, asked = OneWindow(), list[object]()
    one.asked.connect(asked.append)
    for said in (b"close everything\0", b"", b"open " + b"x" * 70_000):
        with connected(socket_place()) as there:
            there.sendall(said)
        until = time.monotonic() + 0.3
        while time.monotonic() < until:
            qtbot.wait(20)
    assert asked == []
    one.close()


# -- once on each machine ------------------------------------------------------------------------------------------------


def test_kernels_are_prepared_once_where_it_is_seen(
    window: Window, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Without the stamp the list of work shows it while the window can be used; with it nothing is done."""
    made: list[float] = []
    stamps = [tmp_path / "read-only" / "a.stamp", tmp_path / "cache" / "a.stamp"]
    (tmp_path / "read-only").touch()  # a file where a folder would have to be
    monkeypatch.setattr(compiled_stamp, "_places", lambda: stamps)

    def compile_slowly(work: Work) -> None:
        for fraction in (0.1, 0.5, 0.9):
            step(work, fraction)
            made.append(fraction)
            time.sleep(0.1)
        compiled_stamp.mark_compiled()

    monkeypatch.setattr(compile_kernels, "compile_kernels", compile_slowly)
    window.finish_loading()
    wait(
        qtbot,
        lambda: any("once on this machine" in task.title and task.shown for task in window.work.active("prepare")),
    )
    assert window.isEnabled()
    wait(qtbot, compiled_stamp.are_compiled)
    assert made == [0.1, 0.5, 0.9]
    assert stamps[1].exists()
    wait(qtbot, lambda: not window.work.active("prepare"))
    window.finish_loading()
    wait(qtbot, lambda: not window.work.active("prepare"))
    assert len(made) == 3
