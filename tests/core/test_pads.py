"""Pads: what each control does to the loop, its note in the file, and how it sounds when it is played on keys."""

import struct
from pathlib import Path

import numpy as np
import pytest
import soundfile
from click.testing import CliRunner
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from latespin.cli.pad import pad as pad_command
from latespin.dsp.arrays import Audio
from latespin.errors import Unwritable
from latespin.jobs import Quietly
from latespin.model.documents.documents import Session, read_session, to_json
from latespin.model.effects.automation import Lane, LanePoint
from latespin.model.effects.effects import Eq, Gain, Layer
from latespin.model.pad import ROOTS, Pad
from latespin.model.timing.beat_grid import Grid
from latespin.model.timing.positions import Position
from latespin.model.version import Colour, Stages, Time
from latespin.render.chain.renderer import TrackRenderer
from latespin.render.pads import effects_at, make_pad, write_pad
from latespin.render.playback.pad_instrument import RELEASE_SECONDS, VOICE_GAIN, PadInstrument
from latespin.render.playback.player import Player
from latespin.render.recipes import recipe_of
from tests.conftest import cents, frequency, level_db, noise, sine, track_of

RATE = 44_100
PLAIN = Pad(smear=2.0, hall_percent=0.0, width_percent=0.0, evenness_percent=0.0, fade_seconds=0.1)


def made(slice_: Audio, pad: Pad, **more: object) -> Audio:
    """A pad of a slice."""
    return make_pad(slice_, RATE, pad, Quietly(), **more)  # type: ignore[arg-type]


def band_db(sound: Audio, low: float, high: float) -> float:
    """Power of a band against that from 1 to 2 kHz, dB."""
    power = np.sum(np.abs(np.fft.rfft(sound, axis=1)) ** 2, axis=0)
    hz = np.fft.rfftfreq(sound.shape[1], 1.0 / RATE)
    return 10.0 * float(
        np.log10(np.sum(power[(hz >= low) & (hz < high)]) / np.sum(power[(hz >= 1_000.0) & (hz < 2_000.0)]) + 1e-12)
    )


@pytest.mark.parametrize(
    ("changed", "low", "high", "sign"),
    [({"low_cut_hz": 500.0}, 20, 250, -1), ({"high_cut_hz": 2_000.0}, 6_000, 18_000, -1), ({"low_shelf_db": 12.0}, 20, 90, 1), ({"high_shelf_db": 12.0}, 10_000, 18_000, 1)],
)  # fmt: skip
def test_its_eq_shapes_the_pad(changed: dict, low: float, high: float, sign: int) -> None:
    slice_ = noise(0.8)
    before, after = (band_db(made(slice_, pad), low, high) for pad in (PLAIN, replace(PLAIN, **changed)))
    assert sign * (after - before) > 2.0


def test_its_bands_are_evened_each_by_itself() -> None:
    """A swell in the highs is evened where their band is, and left where it is not."""
    t = np.arange(2 * RATE) / RATE
    swell = 10.0 ** ((np.sin(2 * np.pi * 0.5 * t) * 10.0 - 10.0) / 20.0)
    slice_ = np.tile(0.3 * swell * np.sin(2 * np.pi * 6_000.0 * t), (2, 1)).astype(np.float32) + sine(
        80.0, 2.0, level=0.1
    )
    even = replace(PLAIN, smear=1.0, evenness_percent=100.0)

    def swing(pad: Pad) -> float:
        loop = made(slice_, pad)[:, RATE // 4 : -RATE // 4]
        high = np.abs(np.diff(loop[0]))  # the highs: the low tone hardly changes from frame to frame
        levels = [20 * np.log10(np.sqrt(np.mean(part**2))) for part in np.array_split(high, 12)]
        return max(levels) - min(levels)

    assert swing(even) < swing(replace(even, high_even_percent=0.0)) - 3.0
    assert swing(replace(even, high_even_percent=0.0)) == pytest.approx(
        swing(replace(even, evenness_percent=0.0)), abs=0.7
    )


def test_its_echo_repeats_by_note_value() -> None:
    """A click smeared not at all comes again after a quarter, and after an eighth, of 120 BPM."""
    slice_ = np.zeros((2, 2 * RATE), np.float32)
    slice_[:, RATE // 4] = 1.0
    for value, seconds in (("1/4", 0.5), ("1/8", 0.25)):
        loop = made(slice_, replace(PLAIN, smear=1.0, echo_percent=100.0, echo_value=value), grid=Grid(bpm=120.0))
        first = int(np.argmax(np.abs(loop[0])))
        again = np.roll(loop, -first, axis=1)
        near = slice(round(seconds * RATE) - 40, round(seconds * RATE) + 40)
        assert np.abs(again[:, near]).max() > 0.05


def test_effects_as_they_are_here_have_no_automation_and_the_values_of_the_place() -> None:
    lane = Lane(
        field="gain_db",
        points=(LanePoint(at=Position(seconds=0.0), value=-20.0), LanePoint(at=Position(seconds=10.0), value=0.0)),
    )
    stages = Stages(time=Time(speed=0.5), colour=Colour(effects=(Gain(id="g", lanes=(lane,)), Eq(id="off", on=False))))
    readers = TrackRenderer(track_of(noise(10.0)), Grid(bpm=120.0))
    here = effects_at(stages, readers.context(stages), 5.0)
    assert [type(effect) for effect in here] == [Gain]
    assert here[0].gain_db == pytest.approx(-10.0, abs=0.2)
    assert not here[0].lanes
    slice_ = noise(0.5)
    heard = replace(PLAIN, effects_here=True)
    dull = (Eq(id="e", high_cut_hz=1_000.0),)
    assert (
        band_db(made(slice_, heard, here=dull), 4_000, 18_000)
        < band_db(made(slice_, PLAIN, here=dull), 4_000, 18_000) - 15.0
    )


@pytest.mark.parametrize(
    ("root", "semitones", "note"),
    [("", 0.0, 60), ("C", 0.0, 60), ("F#", 0.0, 66), ("G", 0.0, 55), ("A", 3.0, 60), ("Bb", -12.0, 46)],
)
def test_its_note_goes_into_the_file(tmp_path: Path, root: str, semitones: float, note: int) -> None:
    """The root nearest to middle C, moved by the pitch, as the unity note of the loop."""
    pad, target = Pad(root=root, semitones=semitones), tmp_path / "pad.wav"  # type: ignore[arg-type]
    assert pad.note == note
    write_pad(sine(220.0, 0.5), RATE, target, overwrite=False, sources=(), note=pad.note)
    data = target.read_bytes()
    assert struct.unpack_from("<I", data, data.index(b"smpl") + 8 + 12) == (note,)
    assert soundfile.info(target).frames == RATE // 2


def test_its_settings_are_kept_with_the_session() -> None:
    session = Session(pad=Pad(root="Eb", smear=20.0, low_even_percent=10.0))
    assert read_session(to_json(session), "a.latespin").pad == session.pad
    assert set(ROOTS) == {ROOTS[int(Pad(root=root).note) % 12] for root in ROOTS}


def test_the_command_never_writes_over_the_song_nor_a_file_of_the_recipe(tmp_path: Path) -> None:
    """With overwriting allowed, too."""
    song, rain, recipe = tmp_path / "song.wav", tmp_path / "rain.wav", tmp_path / "rainy.json"
    soundfile.write(song, noise(2.0).T, RATE)
    soundfile.write(rain, noise(1.0).T, RATE)
    layered = Stages(colour=Colour(effects=(Layer(id="l", sound="file", path=str(rain)),)))
    recipe.write_bytes(to_json(recipe_of(layered, "Rainy", parts=("colour",))))
    before = {path: path.read_bytes() for path in (song, rain)}
    for target in before:
        words = [str(song), str(target), "--from", "0", "--to", "0.5", "--recipe", str(recipe), "--overwrite"]
        done = CliRunner().invoke(pad_command, words)
        assert isinstance(done.exception, Unwritable)
    assert {path: path.read_bytes() for path in before} == before
    made = tmp_path / "pad.wav"
    words = [str(song), str(made), "--from", "0", "--to", "0.5", "--recipe", str(recipe), "--smear", "2", "--root", "A"]
    assert CliRunner().invoke(pad_command, words, catch_exceptions=False).exit_code == 0
    assert struct.unpack_from("<I", made.read_bytes(), made.read_bytes().index(b"smpl") + 8 + 12) == (57,)


# -- on keys -------------------------------------------------------------------------------------------------------


def loop_of(hz: float, periods: int = 200) -> Audio:
    """A seamless loop of a tone."""
    frames = round(periods * RATE / hz)
    return np.tile(0.4 * np.sin(2 * np.pi * periods * np.arange(frames) / frames), (2, 1)).astype(np.float32)


@pytest.mark.parametrize("note", [48, 57, 60, 64, 72])
def test_each_key_plays_its_note_in_tune_for_as_long_as_it_is_held(note: int) -> None:
    """Within half a cent, over many rounds of the loop and without a click at its seam."""
    loop = loop_of(261.63)
    keys = PadInstrument(loop, RATE, 60.0)
    keys.press(note)
    sound = np.concatenate([keys.pull(441) for _ in range(300)], axis=1)
    wanted = RATE / (loop.shape[1] / 200) * 2.0 ** ((note - 60) / 12.0)
    assert abs(cents(frequency(sound[:, RATE:], RATE, wanted), wanted)) < 0.5
    assert level_db(sound[:, RATE:]) == pytest.approx(level_db(loop) + 20 * np.log10(VOICE_GAIN), abs=0.05)
    slope = 2 * np.pi * wanted / RATE * 0.4 * VOICE_GAIN
    assert np.abs(np.diff(sound[0, 2_000:])).max() < 1.05 * slope


@given(
    st.lists(
        st.tuples(st.sampled_from(["press", "release", "all"]), st.integers(48, 72), st.integers(1, 900)), max_size=25
    )
)
def test_whatever_is_played_ends_in_silence_and_never_clicks(played: list[tuple[str, int, int]]) -> None:
    keys, parts = PadInstrument(loop_of(220.0), RATE, 57.0), []
    for what, note, frames in played:
        keys.release_all() if what == "all" else getattr(keys, what)(note)
        parts.append(keys.pull(frames))
    keys.release_all()
    parts.append(keys.pull(round(1.1 * RELEASE_SECONDS * RATE)))
    sound = np.concatenate(parts, axis=1)
    assert not keys.sounding
    assert not np.any(sound[:, -100:])
    assert np.abs(np.diff(sound[0], prepend=0.0)).max(initial=0.0) < 12 * 0.4 * float(VOICE_GAIN) * 0.09


def test_keys_are_heard_over_the_song_at_once_and_while_it_is_paused() -> None:
    player = Player(RATE)
    try:
        player.keys = PadInstrument(loop_of(440.0), RATE, 69.0)
        assert player.pull(64, only_ready=True).shape[1] == 0
        player.keys.press(69)
        heard = np.concatenate([player.pull(441, only_ready=True) for _ in range(20)], axis=1)
        assert heard.shape[1] == 20 * 441
        assert np.abs(heard[:, :441]).max() > 0.01, "in the very next block"
        player.keys.release(69)
        for _ in range(60):
            player.pull(441, only_ready=True)
        assert player.pull(441, only_ready=True).shape[1] == 0
    finally:
        player.close()
