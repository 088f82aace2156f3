"""Opening and writing files: every format, broken ones, tags, and writing whole or not at all."""

import contextlib
import errno
import mmap
import os
import shutil
import signal
import stat
import subprocess
import sys
import tempfile
from collections.abc import Iterable, Iterator
from pathlib import Path
from types import FrameType
from typing import Any

import av
import mutagen
import numpy as np
import pytest
import soundfile
from hypothesis import given, settings
from hypothesis import strategies as st
from mutagen.ogg import OggPage

from latespin import memory
from latespin.errors import Cancelled, Unreadable, Unwritable
from latespin.jobs import Quietly
from latespin.media.audio import encode as encoding
from latespin.media.audio.downmix import fold_to_stereo
from latespin.media.audio.encode import encode
from latespin.media.audio.formats import FORMATS, Encoding, format_of
from latespin.media.audio.peaks import BIN_FRAMES, PeakMeter, find_peaks
from latespin.media.files.atomic import written_whole
from latespin.media.storage.bundle import collect
from latespin.media.tags import Tags, read_tags
from latespin.media.track import Track, open_track
from latespin.model.documents.documents import Session, TrackReference, read_session
from latespin.model.effects.effects import ConvolutionReverb, Layer
from latespin.model.tone_match import Tone
from latespin.model.version import Colour, Level, Stages, Time, Version
from latespin.render.chain.renderer import TrackRenderer
from latespin.render.export.export import export
from latespin.render.mastering.measure import measure, render_whole
from tests.conftest import cents, frequency, level_db, noise, sine

RATE = 44_100
TAGS = Tags({"title": ("Paper Moon Skate",), "artist": ("The Paper Moths",), "album": ("Late",), "date": ("2026",), "tracknumber": ("3",)},
            b"\x89PNG made up", "image/png")  # fmt: skip


def write(path: Path, sound: np.ndarray, rate: int = RATE, **more: object) -> Path:
    """Write a file as somebody else would."""
    soundfile.write(path, sound.T, rate, **more)
    return path


def written(path: Path, blocks: Iterable[np.ndarray], rate: int = RATE, **more: Any) -> int:
    """Write a stereo file without tags as the application does; returns the number of clipped samples."""
    return encode(
        path, blocks, **{"rate": rate, "channels": 2, "tags": Tags(), "overwrite": False, "sources": ()} | more
    )


def encode_with_av(path: Path, codec: str, sound: np.ndarray, rate: int = RATE) -> Path:
    """A file of a kind that libsndfile does not know."""
    with av.open(str(path), "w") as container:
        stream = container.add_stream(codec, rate=rate)
        stream.layout = "stereo"
        frame = av.AudioFrame.from_ndarray(np.ascontiguousarray(sound), format="fltp", layout="stereo")
        frame.rate = rate
        fifo = av.AudioFifo()
        fifo.write(frame)
        for part in fifo.read_many(stream.frame_size or 1024, partial=True):
            container.mux(stream.encode(part))
        container.mux(stream.encode(None))
    return path


@pytest.mark.parametrize("suffix", FORMATS)
@pytest.mark.parametrize("rate", [44_100, 48_000])
def test_what_is_written_opens_again_with_its_sound_and_tags(tmp_path: Path, suffix: str, rate: int) -> None:
    sound = sine(1000, 2.0, rate)
    target = tmp_path / f"version{suffix}"
    clipped = encode(
        target,
        [sound[:, :9000], sound[:, 9000:]],
        rate=rate,
        channels=2,
        tags=TAGS,
        overwrite=False,
        sources=(),
    )
    track = open_track(target)
    assert clipped == 0
    assert track.rate == (48_000 if suffix == ".opus" else rate)
    assert abs(cents(frequency(track.sound, track.rate, 1000), 1000)) < 0.1
    assert level_db(track.sound[:, 4000:-4000]) == pytest.approx(level_db(sound), abs=0.2)
    assert track.seconds == pytest.approx(2.0, abs=0.06 if suffix == ".mp3" else 0.001)
    assert {name: track.tags.first(name) for name in TAGS.text} == {
        name: values[0] for name, values in TAGS.text.items()
    }
    assert track.tags.cover == TAGS.cover
    assert list(tmp_path.iterdir()) == [target]
    assert stat.S_IMODE(target.stat().st_mode) == 0o666 & ~_umask()


def _umask() -> int:
    mask = os.umask(0)
    os.umask(mask)
    return mask


@pytest.mark.parametrize(
    ("suffix", "depth", "floor"),
    [
        (".wav", "16", -90),
        (".wav", "24", -135),
        (".wav", "float", -200),
        (".flac", "16", -90),
        (".flac", "24", -135),
        (".m4a", "16", -90),
        (".m4a", "24", -135),
    ],
)
def test_bit_depths_cost_no_more_than_they_must(tmp_path: Path, suffix: str, depth: str, floor: float) -> None:
    sound = noise(0.5)
    written(tmp_path / f"v{suffix}", [sound], encoding=Encoding(depth=depth))  # type: ignore[arg-type]
    assert level_db(open_track(tmp_path / f"v{suffix}").sound - sound) < floor


@pytest.mark.parametrize("suffix", [".mp3", ".m4a", ".opus"])
@pytest.mark.parametrize("kbps", [96, 192, 320])
def test_a_lossy_file_has_the_bitrate_asked_for(tmp_path: Path, suffix: str, kbps: int) -> None:
    path, seconds = tmp_path / f"a{suffix}", 10.0
    written(path, [noise(seconds)], encoding=Encoding(kbps=kbps))
    assert path.stat().st_size * 8 / seconds / 1000 == pytest.approx(kbps, rel=0.08)


@pytest.mark.parametrize("kbps", [None, 64, 128, 176, 208, 240, 320])
def test_an_mp3_is_as_loud_as_its_sound_at_every_bitrate(tmp_path: Path, kbps: int | None) -> None:
    """Up to full scale: the room that its encoder leaves for peaks is made up for."""
    for rate in (22_050, 44_100):
        sound = sine(997.0, 3.0, rate, level=0.98)
        written(tmp_path / "a.mp3", [sound], rate=rate, encoding=Encoding(kbps=kbps), overwrite=True)
        heard = open_track(tmp_path / "a.mp3").sound[:, rate : 2 * rate]
        assert level_db(heard) == pytest.approx(level_db(sound), abs=0.01)


@pytest.mark.parametrize(
    ("rate", "kbps", "expected"),
    [(44_100, 32, 32), (48_000, 512, 320), (22_050, 32, 32), (22_050, 96, 96), (16_000, 320, 160), (8_000, 64, 64), (11_025, 128, 64)],
)  # fmt: skip
def test_an_mp3_has_the_bitrate_asked_for_at_every_rate_or_the_nearest(
    tmp_path: Path, rate: int, kbps: int, expected: int
) -> None:
    written(tmp_path / "a.mp3", [noise(6.0, rate=rate)], rate=rate, encoding=Encoding(kbps=kbps))
    assert (tmp_path / "a.mp3").stat().st_size * 8 / 6.0 / 1000 == pytest.approx(expected, rel=0.05)


@pytest.mark.parametrize("suffix", [name for name, kind in FORMATS.items() if kind.is_lossy(Encoding())])
def test_the_best_lossy_file_has_about_the_bitrate_that_is_told(tmp_path: Path, lantern: Track, suffix: str) -> None:
    """Of a song; encoders of a variable bitrate need less where there is less."""
    path, seconds = tmp_path / f"a{suffix}", 20.0
    written(path, [lantern.sound[:, : round(seconds * lantern.rate)]], rate=lantern.rate)
    assert 0.6 < path.stat().st_size * 8 / seconds / 1000 / FORMATS[suffix].best_kbps < 1.2


@pytest.mark.parametrize("suffix", [".wav", ".flac", ".m4a"])
@pytest.mark.parametrize("rate", [44_100, 96_000])
def test_a_file_has_the_sample_rate_asked_for_and_the_same_sound(tmp_path: Path, suffix: str, rate: int) -> None:
    path = tmp_path / f"a{suffix}"
    encoding = Encoding(depth="24", rate=rate)
    written(path, [sine(1000, 2.0, 48_000)], rate=48_000, encoding=encoding)
    track = open_track(path)
    assert track.rate == rate
    assert track.frames == 2 * rate
    assert abs(cents(frequency(track.sound, rate, 1000), 1000)) < 0.01
    assert level_db(track.sound) == pytest.approx(level_db(sine(1000, 2.0, 48_000)), abs=0.01)


@given(frames=st.integers(1, 5000), cut=st.integers(0, 5000))
@settings(max_examples=15, deadline=None)
def test_an_m4a_is_as_long_as_its_sound_and_starts_with_it(frames: int, cut: int) -> None:
    """Its coder works in frames of 1024 and begins early; the file says what of that counts."""
    sound = noise(0.2)[:, :frames]
    with tempfile.TemporaryDirectory() as folder:
        for depth in (None, "16"):
            path = Path(folder) / "a.m4a"
            blocks = [sound[:, :cut], sound[:, cut:]]
            written(path, blocks, encoding=Encoding(depth=depth), overwrite=True)  # type: ignore[arg-type]
            found = open_track(path).sound
            assert found.shape == sound.shape
            if depth:
                assert level_db(found - sound) < -90.0


@given(
    frames=st.integers(1, 5000),
    cut=st.integers(0, 5000),
    channels=st.sampled_from([1, 2]),
    kbps=st.sampled_from([24, 96, 512]),
)
@settings(max_examples=15, deadline=None)
def test_an_opus_file_is_as_long_as_its_sound_and_the_same_each_time(
    frames: int, cut: int, channels: int, kbps: int
) -> None:
    """Its coder works in frames of 960 and begins 312 early. Other readers than ours agree on the length; no page ends inside a packet."""
    sound = noise(0.2, rate=48_000)[:channels, :frames]
    how: dict[str, Any] = {"rate": 48_000, "channels": channels, "overwrite": True, "encoding": Encoding(kbps=kbps)}
    with tempfile.TemporaryDirectory() as folder:
        path, again = Path(folder) / "a.opus", Path(folder) / "b.opus"
        written(path, [sound[:, :cut], sound[:, cut:]], **how)
        written(again, [sound], **how)
        assert path.read_bytes() == again.read_bytes()
        assert open_track(path, fold=False).sound.shape == sound.shape
        assert soundfile.info(path).frames == frames
        assert round(mutagen.File(path).info.length * 48_000) == frames
        with path.open("rb") as file, contextlib.suppress(EOFError):
            while True:
                assert OggPage(file).complete


@pytest.mark.parametrize("suffix", [".m4a", ".opus"])
def test_one_channel_takes_half_the_bits_of_two(tmp_path: Path, suffix: str) -> None:
    sound, sizes = noise(5.0, rate=48_000), []
    for channels in (1, 2):
        path = tmp_path / f"{channels}{suffix}"
        written(path, [sound[:channels]], rate=48_000, channels=channels)
        sizes.append(path.stat().st_size)
    assert sizes[0] / sizes[1] == pytest.approx(0.5, rel=0.1)


@pytest.mark.parametrize(
    ("name", "encoding", "says"),
    [("a.mp3", Encoding(rate=96_000), "cannot hold 96,000 Hz"), ("a.flac", Encoding(kbps=128), "lossless"),
     ("a.flac", Encoding(depth="float"), "cannot hold depth float. Use one of 24, 16"), ("a.ogg", Encoding(depth="24"), "Leave it out"),
     ("a.m4a", Encoding(depth="16", kbps=96), "lossless")],
)  # fmt: skip
def test_what_a_format_cannot_be_is_refused(name: str, encoding: Encoding, says: str) -> None:
    kind = format_of(Path(name))
    with pytest.raises(Unwritable, match=says):
        kind.rate_for(44_100, encoding), kind.subtype(encoding)


@pytest.mark.parametrize(
    ("name", "subtype"), [("a.aiff", "PCM_16"), ("a.caf", "PCM_24"), ("a.wav", "ULAW"), ("a.wav", "DOUBLE")]
)
def test_other_formats_open(tmp_path: Path, name: str, subtype: str) -> None:
    track = open_track(write(tmp_path / name, sine(500, 1.0), subtype=subtype))
    assert track.frames == RATE
    assert abs(cents(frequency(track.sound, RATE, 500), 500)) < 0.5
    assert not track.warnings


@pytest.mark.parametrize(
    ("name", "codec", "rate"),
    [
        ("song.m4a", "aac", 44_100),
        ("song.webm", "libopus", 48_000),
        ("film.mp4", "aac", 48_000),
        ("bare.aac", "aac", 44_100),
    ],
)
def test_what_libsndfile_does_not_know_opens_too(tmp_path: Path, name: str, codec: str, rate: int) -> None:
    track = open_track(encode_with_av(tmp_path / name, codec, sine(700, 2.0, rate), rate))
    assert track.rate == rate
    assert track.seconds == pytest.approx(2.0, abs=0.06)
    assert abs(cents(frequency(track.sound, rate, 700), 700)) < 0.2


@pytest.mark.parametrize("rate", [8_000, 11_025, 96_000, 192_000])
def test_all_sample_rates_open(tmp_path: Path, rate: int) -> None:
    assert open_track(write(tmp_path / "r.wav", sine(300, 0.5, rate), rate)).rate == rate


def test_more_channels_are_folded_by_the_itu_levels() -> None:
    six = np.eye(6, dtype=np.float32)
    folded = fold_to_stereo(six)
    share = np.sqrt(0.5)
    assert folded == pytest.approx(np.array([[1, 0, share, 0, share, 0], [0, 1, share, 0, 0, share]]), abs=1e-6)
    for channels in (3, 4, 5, 7, 8, 10):
        assert fold_to_stereo(np.ones((channels, 4), np.float32)).shape == (2, 4)


def broken(folder: Path) -> dict[str, Path]:
    """Files that cannot be opened, by what is wrong with them."""
    paths = {name: folder / f"{name}.wav" for name in ("text", "empty", "nothing", "slow", "fast", "secret")}
    paths["dice"] = folder / "dice.flac"
    paths["dice"].write_bytes(np.random.default_rng(1).bytes(60_000))
    paths["text"].write_bytes(b"This is no song at all.\n" * 200)
    paths["empty"].write_bytes(b"")
    write(paths["nothing"], np.zeros((2, 0)))
    write(paths["slow"], sine(100, 0.2, 4_000), 4_000)
    write(paths["fast"], sine(100, 0.2, 200_000), 200_000)
    paths["missing"], paths["folder"] = folder / "none.wav", folder
    return paths


WORDS = {
    "dice": "not a sound",
    "text": "not a sound",
    "empty": "empty",
    "nothing": "no sound",
    "slow": "4,000 Hz",
    "fast": "200,000 Hz",
    "missing": "does not exist",
    "folder": "is a folder",
}


@pytest.mark.parametrize("what", WORDS)
def test_broken_files_are_refused_in_words(tmp_path: Path, what: str) -> None:
    with pytest.raises(Unreadable, match=WORDS[what]):
        open_track(broken(tmp_path)[what])


def test_a_file_without_permission_is_refused_in_words(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    path = write(tmp_path / "secret.wav", sine(100, 0.1))

    def refuse(*_: object, **__: object) -> None:
        raise PermissionError(errno.EACCES, "Permission denied")

    monkeypatch.setattr(os, "open", refuse)  # root may read everything, so the refusal is played
    with pytest.raises(Unreadable, match="permission"):
        open_track(path)


@pytest.mark.parametrize("suffix", [".wav", ".flac", ".ogg", ".opus", ".aiff", ".mp3"])
def test_a_file_that_is_cut_off_opens_as_far_as_it_goes(tmp_path: Path, suffix: str) -> None:
    whole = tmp_path / f"whole{suffix}"
    if suffix == ".aiff":
        write(whole, noise(4))
    else:
        written(whole, [noise(4)])
    cut = tmp_path / f"cut{suffix}"
    cut.write_bytes(whole.read_bytes()[: int(whole.stat().st_size * 0.6)])
    track = open_track(cut)
    assert 1.0 < track.seconds < 3.5
    assert any("cut off" in warning for warning in track.warnings)
    assert not open_track(whole).warnings


def test_samples_that_are_not_numbers_are_silenced_and_counted(tmp_path: Path) -> None:
    sound = noise(0.2)
    sound[0, 10], sound[1, 20], sound[1, 21] = np.nan, np.inf, -np.inf
    track = open_track(write(tmp_path / "bad.wav", sound, subtype="FLOAT"))
    assert np.isfinite(track.sound).all()
    assert "3 samples" in track.warnings[0]


def test_one_sample_is_a_song(tmp_path: Path) -> None:
    assert open_track(write(tmp_path / "one.wav", np.full((1, 1), 0.5))).frames == 1


def failing(error: Exception) -> object:
    """Blocks that end in an error."""
    yield noise(0.5)
    raise error


@pytest.mark.parametrize(
    "error", [Cancelled(), OSError(errno.ENOSPC, "No space left on device"), RuntimeError("a fault of ours")]
)
def test_a_failed_export_leaves_nothing_and_touches_nothing(tmp_path: Path, error: Exception) -> None:
    kept = tmp_path / "kept.wav"
    kept.write_bytes(b"precious")
    for target, overwrite in ((tmp_path / "new.wav", False), (kept, True)):
        with pytest.raises((type(error), Unwritable)):
            encode(target, failing(error), rate=RATE, channels=2, tags=TAGS, overwrite=overwrite, sources=())  # type: ignore[arg-type]
    assert [p.name for p in tmp_path.iterdir()] == ["kept.wav"]
    assert kept.read_bytes() == b"precious"


def test_what_a_killed_process_left_goes_with_the_next_try(tmp_path: Path) -> None:
    """And only that: not what one that is at work has there, nor other files that begin with a dot."""
    script = (
        "import os, signal, sys; from pathlib import Path; from latespin.media.files.atomic import written_whole\n"
        "with written_whole(Path(sys.argv[1]), overwrite=False, sources=()) as file:\n"
        "    file.write_bytes(b'half'); os.kill(os.getpid(), signal.SIGKILL)"
    )
    target = tmp_path / "song.one.wav"
    assert subprocess.run([sys.executable, "-c", script, str(target)], check=False).returncode == -signal.SIGKILL
    assert len(list(tmp_path.glob(".song.one.*.wav"))) == 1
    (tmp_path / ".song.one.mine.wav").write_bytes(b"kept")
    with written_whole(tmp_path / "song.one.wav", overwrite=False, sources=()) as busy:
        with written_whole(target, overwrite=False, sources=()) as file:
            file.write_bytes(b"whole")
        assert busy.exists()
        target.unlink()
    assert sorted(p.name for p in tmp_path.iterdir()) == [".song.one.mine.wav", "song.one.wav"]


@contextlib.contextmanager
def interrupted_at(line: int) -> Iterator[list[int]]:
    """An interruption before the nth line that the writer of whole files runs; the lines that were run."""
    run: list[int] = []

    def trace(frame: FrameType, event: str, _: object) -> Any:
        if not frame.f_code.co_filename.endswith("files/atomic.py"):
            return None
        if event == "line":
            run.append(frame.f_lineno)
            if len(run) == line:
                raise KeyboardInterrupt
        return trace

    before = sys.gettrace()
    sys.settrace(trace)
    try:
        yield run
    finally:
        sys.settrace(before)


@pytest.mark.filterwarnings("ignore:unclosed file:ResourceWarning")  # where the interruption comes as one is closed
def test_an_interruption_at_any_line_leaves_the_old_file_or_the_new_one_and_nothing_else(tmp_path: Path) -> None:
    target, line, outcomes = tmp_path / "song.wav", 0, []
    while not outcomes or outcomes[-1] != "done":
        target.write_bytes(b"old")
        line += 1
        with interrupted_at(line) as run:
            try:
                with written_whole(target, overwrite=True, sources=()) as file:
                    file.write_bytes(b"new")
                outcomes.append("done")
            except KeyboardInterrupt:
                outcomes.append(target.read_bytes().decode())
        assert [path.name for path in tmp_path.iterdir()] == ["song.wav"], f"interrupted at line {run[-1]}"
    assert {"old", "new", "done"} == set(outcomes)
    assert len(outcomes) > 20


def test_a_full_disk_is_said_to_be_full(tmp_path: Path) -> None:
    with (
        pytest.raises(Unwritable, match="no room left"),
        written_whole(tmp_path / "a.wav", overwrite=False, sources=()),
    ):
        raise OSError(errno.ENOSPC, "No space left on device")


@pytest.mark.skipif(not Path("/dev/full").exists(), reason="needs a device that is always full")
def test_a_disk_that_fills_up_while_encoding_is_said_to_be_full(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    real = soundfile.SoundFile
    monkeypatch.setattr(soundfile, "SoundFile", lambda path, *a, **k: real("/dev/full", *a, **k))
    monkeypatch.setattr(encoding, "_why", lambda _: OSError(errno.ENOSPC, "full"))
    with pytest.raises(Unwritable, match="no room left"):
        written(tmp_path / "a.wav", [noise(3)])
    assert not list(tmp_path.iterdir())


def test_targets_that_cannot_be_are_refused_in_words(tmp_path: Path) -> None:
    (tmp_path / "there.flac").write_bytes(b"x")
    for target, words in (
        (tmp_path / "there.flac", "already exists"),
        (tmp_path / "no" / "a.wav", "does not exist"),
        (tmp_path / "a.doc", "ending"),
    ):
        with pytest.raises(Unwritable, match=words):
            written(target, [noise(0.1)])
    with pytest.raises(Unwritable, match="cannot hold depth float"):
        written(tmp_path / "a.flac", [noise(0.1)], encoding=Encoding(depth="float"))


def test_clipped_samples_are_counted_and_float_never_clips(tmp_path: Path) -> None:
    loud = np.full((2, 1000), 1.5, np.float32)
    assert written(tmp_path / "a.flac", [loud]) == 2000
    assert written(tmp_path / "a.wav", [loud], encoding=Encoding(depth="float")) == 0
    assert open_track(tmp_path / "a.wav").sound.max() == 1.5


def test_tags_of_mp4_and_broken_tags(tmp_path: Path) -> None:
    path = encode_with_av(tmp_path / "t.m4a", "aac", sine(500, 1.0))
    file = mutagen.File(path)
    file["\xa9nam"], file["\xa9ART"] = "Round Again", "Marquee Comet"
    file.save()
    assert read_tags(path)[0].text == {"title": ("Round Again",), "artist": ("Marquee Comet",)} | {
        k: v for k, v in read_tags(path)[0].text.items() if k not in ("title", "artist")
    }
    (tmp_path / "junk.mp3").write_bytes(b"ID3\x04\x00\x00\x7f\x7f\x7f\x7fjunk")
    assert read_tags(tmp_path / "junk.mp3") == (Tags(), ())


def test_peaks_are_those_of_the_sound_however_it_is_cut(lantern: Track) -> None:
    sound = lantern.sound[:, :100_000]
    whole, gatherer = find_peaks(sound, RATE), PeakMeter(RATE)
    for start in range(0, 100_000, 777):
        gatherer.push(sound[:, start : start + 777])
    pieces = gatherer.result()
    assert np.array_equal(whole.highest, pieces.highest)
    assert pieces.rms == pytest.approx(whole.rms, rel=1e-5)
    assert whole.highest[3] == np.abs(sound[:, 3 * BIN_FRAMES : 4 * BIN_FRAMES]).max()
    assert len(whole.highest) == -(-100_000 // BIN_FRAMES)


def test_opening_can_be_cancelled(tmp_path: Path) -> None:
    class Impatient(Quietly):
        def cancelled(self) -> bool:
            return True

    with pytest.raises(Cancelled):
        open_track(write(tmp_path / "long.wav", noise(10)), Impatient())


def test_long_sounds_lie_in_a_file_and_are_the_same(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setenv("XDG_CACHE_HOME", str(tmp_path / "cache"))
    sound = noise(4.0)
    soundfile.write(tmp_path / "long.wav", sound.T, 44_100, subtype="FLOAT")
    soundfile.write(tmp_path / "many.wav", np.concatenate((sound, sound, sound)).T, 44_100, subtype="FLOAT")
    stages = Stages(time=Time(speed=0.9, pitch="held"), level=Level(target_lufs=-9.0))

    def all_of_it() -> tuple[Track, Track, np.ndarray, object]:
        track = open_track(tmp_path / "long.wav")
        rendered, _ = render_whole(TrackRenderer(track), stages, Quietly())
        return (
            track,
            open_track(tmp_path / "many.wav"),
            rendered,
            measure(TrackRenderer(track), stages, Quietly()).facts,
        )

    short = all_of_it()
    monkeypatch.setattr(memory, "IN_MEMORY_BYTES", 200_000)
    monkeypatch.setattr(memory, "COPY_FRAMES", 5_000)
    long = all_of_it()
    assert isinstance(root_of(long[0].sound), mmap.mmap)
    assert not isinstance(root_of(short[0].sound), mmap.mmap)
    assert np.array_equal(short[0].sound, long[0].sound)
    assert np.abs(short[1].sound - long[1].sound).max() < 1e-6
    assert np.array_equal(short[2], long[2])
    assert short[3] == long[3]
    assert not any((tmp_path / "cache" / "late-spin").iterdir()), "nothing is left behind"


def root_of(sound: np.ndarray) -> object:
    """What holds an array's numbers."""
    holder: object = sound
    while isinstance(holder, np.ndarray):
        holder = holder.base
    return holder


def test_a_full_disk_is_said_before_a_long_song_is_read(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    def full(*_: object) -> None:
        raise OSError(errno.ENOSPC, "No space left on device")

    monkeypatch.setenv("XDG_CACHE_HOME", str(tmp_path))
    monkeypatch.setattr(memory, "IN_MEMORY_BYTES", 1000)
    monkeypatch.setattr(memory.os, "posix_fallocate", full)
    with pytest.raises(Unwritable, match=r"needs 0\.1 GB in .*late-spin while it is open: No space left"):
        memory.room_for(2, 10_000_000)


def test_a_session_is_collected_with_all_its_files(tmp_path: Path) -> None:
    """Song, layer, response, dropped-in sound and reference; two of the same name; one that is gone."""
    (tmp_path / "a").mkdir()
    (tmp_path / "b").mkdir()
    paths = [tmp_path / "a" / "song.flac", tmp_path / "b" / "song.flac", tmp_path / "room.wav"]
    for n, path in enumerate(paths):
        soundfile.write(path, noise(0.2, seed=n).T, RATE)
    gone = tmp_path / "gone.wav"
    reference = Tone(title="R", path=str(paths[1]), mid_db=(-20.0,) * 120, side_db=(-20.0,) * 120)
    effects = (ConvolutionReverb(id="r", room="file", path=str(paths[2])), Layer(id="l", sound="file", path=str(gone)))
    version = Version(id="v", name="V", stages=Stages(colour=Colour(effects=effects)))
    session = Session(
        track=TrackReference(path=str(paths[0]), sha256="x"), versions=(version,), references=(reference,)
    )
    target = tmp_path / "out" / "late.latespin"
    target.parent.mkdir()
    assert collect(session, target, Quietly()) == (3, [str(gone)])
    found = read_session(target.read_bytes(), "late")
    assert found.track is not None
    for original, kept in zip(
        paths,
        (found.track.path, found.references[0].path, found.versions[0].stages.colour.effects[0].path),
        strict=True,
    ):  # type: ignore[union-attr]
        assert (target.parent / kept).read_bytes() == original.read_bytes()
    assert found.versions[0].stages.colour.effects[1].path == str(gone)  # type: ignore[union-attr]
    assert collect(session, target, Quietly(), overwrite=True)[0] == 0, "what is there already is not copied again"
    with pytest.raises(Unwritable, match="already exists"):
        collect(session, target, Quietly())


@pytest.mark.parametrize(("free", "total", "refused"), [(1_000, 10**9, True), (10**9, 10**9, False), (0, 0, False)])
def test_room_on_the_disk_is_looked_at_before_the_work(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, free: int, total: int, refused: bool
) -> None:
    """A file system that does not say how large it is refuses nothing."""
    usage = shutil.disk_usage(tmp_path)._replace(free=free, total=total)
    monkeypatch.setattr(shutil, "disk_usage", lambda _: usage)
    readers = TrackRenderer(Track(tmp_path / "song.flac", noise(1.0), RATE, 2, ""))
    stages = Stages(level=Level(on=False))
    if not refused:
        export(readers, stages, tmp_path / "a.wav", Quietly())
        return
    with pytest.raises(Unwritable, match=r"not enough room in .*: a\.wav would take about 0 MB, and 0 MB are free"):
        export(readers, stages, tmp_path / "a.wav", Quietly())
    assert not list(tmp_path.iterdir())


@pytest.mark.parametrize("suffix", [".wav", ".flac", ".m4a", ".mp3"])
def test_files_are_about_as_large_as_is_said_beforehand(tmp_path: Path, lantern: Track, suffix: str) -> None:
    sound, path = lantern.sound[:, 20 * RATE : 50 * RATE], tmp_path / f"a{suffix}"
    written(path, [sound])
    said = format_of(path).bytes_for(30.0, RATE, 2, Encoding())
    assert path.stat().st_size == pytest.approx(said, rel=0.35)
