"""Facts and peaks found while a song is being decoded are those of the decoded song; long songs are written once."""

import threading
from pathlib import Path

import numpy as np
import pytest
import soundfile
from hypothesis import given, settings
from hypothesis import strategies as st

from latespin import memory
from latespin.analysis.facts import facts_of
from latespin.demo import demo_folder
from latespin.errors import Cancelled, Unreadable
from latespin.jobs import Quietly
from latespin.media.audio import decode
from latespin.media.audio.peaks import BIN_FRAMES, Outline, PeakMeter, find_peaks
from latespin.media.track import open_track
from latespin.memory import Growing
from latespin.render.hearing import Hearing
from tests.conftest import noise

RATE = 44_100


def not_numbers() -> np.ndarray:
    """Noise with samples that are none."""
    sound = noise(1.0)
    sound[0, 1000:1003] = np.nan, np.inf, 1e9
    return sound


@pytest.mark.parametrize(
    "sound", [noise(2.0), noise(2.0)[:1], np.tile(noise(2.0), (3, 1)), noise(0.0007), not_numbers(), np.zeros((2, 5000), np.float32)],
    ids=["stereo", "mono", "six channels", "thirty frames", "not numbers", "silence"],
)  # fmt: skip
def test_what_is_heard_is_what_the_track_is(tmp_path: Path, sound: np.ndarray) -> None:
    path = tmp_path / "song.wav"
    soundfile.write(path, sound.T, RATE, subtype="FLOAT")
    with Hearing() as hearing:
        track = open_track(path, listener=hearing)
        facts, peaks = hearing.result(track)
    assert facts == facts_of(track.sound, track.rate)
    assert np.array_equal(peaks.highest, find_peaks(track.sound, track.rate).highest)
    assert peaks.frames == track.frames


def test_a_compressed_song_is_heard_to_its_last_frame() -> None:
    with Hearing() as hearing:
        track = open_track(demo_folder() / "lantern-light.ogg", listener=hearing)
        facts, _ = hearing.result(track)
    assert facts == facts_of(track.sound, track.rate)


@pytest.mark.parametrize("content", [b"no song", b"RIFF"], ids=["text", "header alone"])
def test_a_song_that_cannot_be_opened_leaves_no_thread(tmp_path: Path, content: bytes) -> None:
    (tmp_path / "song.wav").write_bytes(content)
    with Hearing() as hearing, pytest.raises(Unreadable):
        open_track(tmp_path / "song.wav", listener=hearing)
    assert not [thread for thread in threading.enumerate() if thread.name.startswith("hearing")]


class _GivesUp(Quietly):
    """Cancelled at half."""

    fraction = 0.0

    def report(self, fraction: float) -> None:
        self.fraction = fraction

    def cancelled(self) -> bool:
        return self.fraction > 0.5


def test_cancelling_stops_hearing_too(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(decode, "BLOCK_FRAMES", 4096)
    soundfile.write(tmp_path / "song.wav", noise(5.0).T, RATE)
    with Hearing() as hearing, pytest.raises(Cancelled):
        open_track(tmp_path / "song.wav", _GivesUp(), listener=hearing)
    assert not [thread for thread in threading.enumerate() if thread.name.startswith("hearing")]


@given(frames=st.integers(1, 9000), expected=st.integers(0, 9000), cut=st.integers(1, 4000))
@settings(max_examples=40, deadline=None)
def test_long_sound_is_the_same_whatever_length_was_expected(frames: int, expected: int, cut: int) -> None:
    """Right, too short or too long: in memory, in the room made for it, and gathered again; it can be read while it grows."""
    sound = noise(0.3)[:, :frames]
    limit, memory.IN_MEMORY_BYTES = memory.IN_MEMORY_BYTES, 16_000
    try:
        gathered = Growing(2, expected)
        for start in range(0, frames, cut):
            gathered.append(sound[:, start : start + cut])
            there = min(frames, start + cut)
            at = (start * 7) % there
            assert np.array_equal(gathered.read(at, 2 * cut), sound[:, at : min(there, at + 2 * cut)])
        assert gathered.frames == frames
        found = gathered.sound()
        assert np.array_equal(gathered.read(0, frames), sound), "it can still be read"
    finally:
        memory.IN_MEMORY_BYTES = limit
    assert found.flags.c_contiguous
    assert np.array_equal(found, sound)


def test_no_room_is_taken_for_what_a_header_cannot_keep(tmp_path: Path) -> None:
    """A few bytes that claim to be hours."""
    path = tmp_path / "liar.wav"
    soundfile.write(path, noise(0.5).T, RATE)
    data = bytearray(path.read_bytes())
    data[4:8] = data[40:44] = (0x7FFFFF00).to_bytes(4, "little")
    path.write_bytes(data)
    assert decode._expected(path, 3 * 3600 * RATE, 2, RATE) == 0
    assert decode._expected(path, 22_050, 2, RATE) == 22_050
    assert open_track(path).seconds == pytest.approx(0.5, abs=0.01)


@given(cuts=st.lists(st.integers(1, 90_000), min_size=1, max_size=12), asked=st.integers(1, 4))
@settings(max_examples=20, deadline=None)
def test_an_outline_grows_to_that_of_the_whole_however_often_it_is_asked_for(cuts: list[int], asked: int) -> None:
    sound = np.tile(noise(2.0), (1, 8))
    meter = PeakMeter(RATE)
    outline, done = Outline(meter), 0
    for n, cut in enumerate(cuts):
        meter.push(sound[:, done : done + cut])
        done = min(sound.shape[1], done + cut)
        if n % asked == 0:
            outline.peaks()
    found, fine = outline.peaks(), find_peaks(sound[:, :done], RATE)
    parts = done // BIN_FRAMES // 64
    assert len(found.highest) == parts
    assert np.array_equal(found.highest, fine.highest[: 64 * parts].reshape(parts, 64).max(axis=1))
    assert np.allclose(found.rms**2, (fine.rms[: 64 * parts] ** 2).reshape(parts, 64).mean(axis=1), rtol=1e-4)
