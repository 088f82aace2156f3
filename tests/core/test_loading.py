"""What is loaded for what: a version needs only its own parts of the program, a command only its own."""

import os
import re
import subprocess
import sys
from pathlib import Path

import pytest
import soundfile

import latespin
from latespin.cli.main import ELSEWHERE, all_commands
from latespin.model.effects.declaration import EFFECTS
from latespin.render import compiled_stamp
from latespin.render.effects.factory import DECLARED_IN, PROCESSORS
from tests.conftest import noise

HEAVY = ("scipy.signal", "scipy.stats", "scipy.linalg", "scipy.fft", "scipy.ndimage", "cffi", "av", "PySide6", "mido")
PARTS = {
    "stretch": "latespin.dsp.stretching.phase_vocoder", "reading": "latespin.analysis.reading", "drums": "latespin.dsp.filters.percussive",
    "convolution": "latespin.render.effects.processors.convolution", "held moments": "latespin.render.chain.played_chain",
    "hall": "latespin.dsp.reverb.hall",
}  # fmt: skip


def loaded_by(*words: str) -> set[str]:
    """Which of these modules a command line loads."""
    code = (
        "import sys; from latespin.cli.main import main\n"
        "try: main()\n"
        "except SystemExit as end: assert not end.code, end.code\n"
        f"print('loaded', *[m for m in {[*HEAVY, *PARTS.values()]} if m in sys.modules])"
    )
    done = subprocess.run([sys.executable, "-c", code, *words], capture_output=True, text=True, check=True)
    return set(done.stdout.splitlines()[-1].split()[1:])


@pytest.mark.parametrize(
    ("options", "parts"),
    [
        (("--recipe", "slowed-reverb"), {"hall"}),
        (("--speed", "1.2"), {"hall"}),
        (("--speed", "0.9", "--hold-pitch"), {"hall", "stretch"}),
    ],
)
def test_a_render_loads_what_its_version_needs(options: tuple[str, ...], parts: set[str], tmp_path: Path) -> None:
    """Overlays have halls of their own, which are loaded with the chain."""
    soundfile.write(tmp_path / "song.wav", noise(0.5).T, 44_100)
    found = loaded_by("render", str(tmp_path / "song.wav"), str(tmp_path / "made.wav"), *options)
    assert {name for name, module in PARTS.items() if module in found} == parts
    assert not found & set(HEAVY) - {"scipy.fft", "scipy.ndimage"}
    if "stretch" not in parts:
        assert not found & set(HEAVY)


def test_what_kernels_do_without_can_still_be_loaded() -> None:
    """Numba is kept from loading it; others are not."""
    code = (
        "import sys, numpy as np\n"
        "from latespin.dsp.metering.loudness import measure_loudness\n"
        "measure_loudness(np.zeros((2, 44100), np.float32), 44100)\n"
        "assert not {'scipy.linalg', 'cffi'} & set(sys.modules) and None not in sys.modules.values()\n"
        "import scipy.linalg.cython_blas, cffi\n"
        "assert np.allclose(scipy.linalg.solve([[2.0, 0.0], [0.0, 4.0]], [1.0, 1.0]), [0.5, 0.25])\n"
        "cffi.FFI().cdef('int puts(const char *);')\n"
    )
    subprocess.run([sys.executable, "-c", code], check=True)


def test_a_kernel_is_compiled_once_and_loaded_without_what_compiles_it(tmp_path: Path) -> None:
    """Two processes with a cache of their own: the first compiles, the second loads, and both compute the same."""
    code = (
        "import sys, numpy as np\n"
        "from latespin.dsp import dither\n"
        "made = dither.Quantiser(16).process(np.linspace(-1.0, 1.0, 999, dtype=np.float32)[None])\n"
        "stats = dither._quantise.stats\n"
        "print(sum(stats.cache_hits.values()), sum(stats.cache_misses.values()), 'numba.misc.gdb_hook' in sys.modules, made.sum())\n"
    )
    environment = {**os.environ, "NUMBA_CACHE_DIR": str(tmp_path)}
    runs = [
        subprocess.run([sys.executable, "-c", code], check=True, capture_output=True, text=True, env=environment)
        for _ in range(2)
    ]
    (*first, made), (*second, made_again) = (run.stdout.split() for run in runs)
    assert (first, second) == (["0", "1", "True"], ["1", "0", "False"])
    assert made == made_again


def test_only_one_module_has_numba_compile() -> None:
    """Others would have it look for what no kernel uses."""
    source = Path(latespin.__file__).parent
    using = {
        path.name for path in source.rglob("*.py") if re.search(r"^\s*(from|import) numba", path.read_text(), re.M)
    }
    assert using == {"kernels.py"}


def test_a_kernel_that_changes_is_compiled_again_before_it_is_heard() -> None:
    """The stamp of what has been compiled covers every folder that has kernels."""
    having = {path for path in compiled_stamp.ROOT.rglob("*.py") if "@kernel(" in path.read_text()}
    covered = {path for folder in compiled_stamp.SOURCES for path in (compiled_stamp.ROOT / folder).rglob("*.py")}
    assert len(having) > 30
    assert having <= covered


def test_listing_recipes_loads_neither_kernels_nor_codecs() -> None:
    assert loaded_by("recipes") == set()


def test_every_effect_names_the_module_that_declares_its_factory() -> None:
    """And no module is named that has none of it."""
    assert set(DECLARED_IN) == set(EFFECTS.values())
    for kind, module in DECLARED_IN.items():
        text = (
            (Path(__file__).parents[2] / "src" / Path(*f"{PROCESSORS}.{module}".split(".")))
            .with_suffix(".py")
            .read_text()
        )
        assert f"m.{kind.__name__}" in text.split("@processor_for(", 1)[1]


def test_every_command_that_is_elsewhere_is_there_under_its_name() -> None:
    commands = all_commands()
    assert {name: command.name for name, command in commands.items()} == {name: name for name in commands}
    assert set(ELSEWHERE) < set(commands)
    assert all(command.help for command in commands.values())


def test_the_window_is_there_before_kernels_and_codecs_are_loaded() -> None:
    """All modules that a first window is made from, and the window itself."""
    code = (
        "import sys; import latespin.desktop.app as app; from latespin.desktop.session.settings import Settings\n"
        "made = app.make_app(), app.Window(Settings())\n"
        "print('loaded', *[m for m in ('numba', 'scipy', 'av', 'soundfile', 'PySide6.QtMultimedia', 'jeepney') if m in sys.modules])"
    )
    environment = {**os.environ, "QT_QPA_PLATFORM": "offscreen"}
    done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True, env=environment)
    assert done.stdout.splitlines()[-1] == "loaded"


OPENED = """
import sys
from latespin.desktop.session.loading import prepare_kernels
from latespin.jobs import Quietly
prepare_kernels(Quietly())
before = set(sys.modules)
import numpy as np
from pathlib import Path
from latespin.analysis.reading import read_song
from latespin.desktop.session.loading import FIRST_RECIPE
from latespin.media.track import open_track
from latespin.render.chain.renderer import TrackRenderer
from latespin.render.mastering.level import LevelPlan
from latespin.render.mastering.measure import measure
from latespin.render.playback.programme import PlaybackRequest
from latespin.render.recipes import find_recipe
track, work = open_track(Path(sys.argv[1]), Quietly()), Quietly()
readers, stages = TrackRenderer(track), find_recipe(FIRST_RECIPE).stages
PlaybackRequest(readers, "after", stages, LevelPlan()).open().read(4096)
measure(readers, stages, work)
read_song(track.sound, track.rate, work)
print("loaded", *sorted(m for m in set(sys.modules) - before if m.startswith(("latespin.dsp", "latespin.render", "latespin.analysis"))))
"""


def test_a_song_that_is_opened_finds_all_loaded_that_it_needs(tmp_path: Path) -> None:
    """Else the player would load it while the window paints the song for the first time."""
    soundfile.write(tmp_path / "song.wav", noise(14.0).T, 44_100)
    done = subprocess.run(
        [sys.executable, "-c", OPENED, str(tmp_path / "song.wav")], capture_output=True, text=True, check=True
    )
    assert done.stdout.splitlines()[-1] == "loaded"
