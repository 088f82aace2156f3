"""Whatever is given: one clear sentence, in bounded time and memory, and nothing but a regular file is ever opened."""

import os
import resource
import struct
import subprocess
import sys
import zlib
from collections.abc import Callable
from pathlib import Path

import h5py
import numpy as np
import pytest
import soundfile
from tools.torture.samples import crafted, responses

from latespin.dsp.effects.ambience import Looped
from latespin.errors import LateSpinError, Unreadable, shortened
from latespin.jobs import Quietly
from latespin.media.audio.decode import ABSURD, DEMUXERS
from latespin.media.exchange.grid_files import read_grid
from latespin.media.exchange.marker_files import read_marks
from latespin.media.exchange.sofa import read_ears
from latespin.media.storage.autosave import Journal, left_behind
from latespin.media.tags import MOST_TAG_BYTES, read_tags
from latespin.media.track import open_track
from latespin.model.documents.documents import Session, TrackReference, read_session, to_json
from latespin.model.effects.declaration import EFFECTS
from latespin.model.version import Colour, Level, Stages
from latespin.render.chain.renderer import TrackRenderer
from latespin.render.mastering.measure import measure
from latespin.render.recipes import find_recipe, read_file, shipped_recipes
from tests.conftest import noise, sine, track_of

RATE = 44_100


# -- samples and headers -------------------------------------------------------------------------------------------


def test_a_header_that_says_nothing_is_read_to_the_end(tmp_path: Path) -> None:
    """As recorders leave it when their batteries go: 0, or as much as there can be."""
    sound = sine(440, 1.0)
    soundfile.write(tmp_path / "whole.wav", sound.T, RATE, subtype="PCM_16")
    data = (tmp_path / "whole.wav").read_bytes()
    at = data.index(b"data") + 4
    for length in (0, 0xFFFFFFFF):
        (tmp_path / "left.wav").write_bytes(data[:at] + struct.pack("<I", length) + data[at + 4 :])
        track = open_track(tmp_path / "left.wav")
        assert not track.warnings
        assert (track.sound == open_track(tmp_path / "whole.wav").sound).all()
    soundfile.write(tmp_path / "empty.wav", np.zeros((0, 2)), RATE)
    with pytest.raises(Unreadable, match="0 frames"):
        open_track(tmp_path / "empty.wav")


def test_absurd_samples_are_no_sound(tmp_path: Path) -> None:
    sound = sine(440, 0.5)
    sound[0, 100] = 2 * ABSURD
    soundfile.write(tmp_path / "some.wav", sound.T, RATE, subtype="FLOAT")
    track = open_track(tmp_path / "some.wav")
    assert np.abs(track.sound).max() < 1.0
    assert "1 samples" in track.warnings[0]
    soundfile.write(tmp_path / "all.wav", (sound * 1e9).T, RATE, subtype="FLOAT")
    with pytest.raises(Unreadable, match="times full scale"):
        open_track(tmp_path / "all.wav")


def test_more_than_eight_channels_of_ffmpegs_are_read_right(tmp_path: Path) -> None:
    """In planes of their own the ninth and later ones lay beyond the decoder's memory."""
    import av

    wave = np.arange(12)[:, None] * 100 + np.zeros((12, 4_800))
    path = tmp_path / "twelve.mka"
    with av.open(str(path), "w", format="matroska") as container:
        stream = container.add_stream("pcm_s16le", rate=48_000, layout="12c")
        frame = av.AudioFrame.from_ndarray(wave.astype(np.int16).T.reshape(1, -1).copy(), format="s16", layout="12c")
        frame.sample_rate = 48_000
        container.mux(stream.encode(frame))
        container.mux(stream.encode(None))
    path = path.rename(path.with_suffix(".mkv"))
    track = open_track(path, fold=False)
    assert np.allclose(track.sound, wave / 32_768.0, atol=1e-6)


@pytest.mark.parametrize(
    "sound", [noise(1 / RATE), np.full((2, RATE), 1e-40, np.float32)], ids=["one frame", "denormal"]
)
def test_every_recipe_and_colour_takes_a_song_of_next_to_nothing(sound: np.ndarray) -> None:
    readers = TrackRenderer(track_of(sound))
    for recipe in shipped_recipes():
        made = readers.chain(recipe.on(readers.layout).stages).read(RATE // 2)
        assert np.isfinite(made).all(), recipe.name
    every = Colour(effects=tuple(kind(id=name) for name, kind in EFFECTS.items()))
    measured = measure(readers, Stages(colour=every, level=Level()), Quietly())
    assert measured.facts.frames >= sound.shape[1]
    assert np.isfinite(measured.plan.gain_db)
    assert np.isfinite(readers.chain(Stages(colour=every)).read(RATE // 2)).all()


def test_a_layer_of_one_frame_is_read_anywhere() -> None:
    """Indices are wrapped round by arithmetic: one by one it took the longer the later in the song, here longer than anybody lives."""
    one = Looped(np.array([[0.5], [0.25]], np.float32), 0)
    assert (one.read(10**15, 1000) == np.array([[0.5], [0.25]], np.float32)).all()
    three = Looped(np.array([[1.0, 2.0, 3.0]] * 2, np.float32), 0)
    assert three.read(3 * 10**14 + 1, 4)[0].tolist() == [2.0, 3.0, 1.0, 2.0]


# -- what is no file -----------------------------------------------------------------------------------------------


@pytest.fixture
def no_files(tmp_path: Path) -> list[Path]:
    """Everything that has a name and is no regular file, or whose name is none."""
    os.mkfifo(tmp_path / "pipe")
    (tmp_path / "folder").mkdir()
    (tmp_path / "round").symlink_to("round")
    (tmp_path / "dangling").symlink_to("nothing")
    names = [tmp_path / name for name in ("pipe", "folder", "round", "dangling", "x" * 300, "y/" * 3000 + "z")]
    return [*names, Path("/dev/zero"), Path("/dev/stdin"), Path("nul\0byte"), tmp_path / "folder" / ".." / "nothing"]


READERS: dict[str, Callable[[Path], object]] = {
    "song": open_track, "markers": read_marks, "grid": read_grid, "ears": read_ears, "recipe": read_file,
}  # fmt: skip


@pytest.mark.parametrize("kind", READERS)
def test_only_regular_files_are_opened_and_none_is_waited_for(kind: str, no_files: list[Path]) -> None:
    for path in no_files:
        with pytest.raises(LateSpinError) as refused:
            READERS[kind](path)
        assert 10 < len(str(refused.value)) < 500, path
        assert "\0" not in str(refused.value)


def test_files_that_read_other_files_are_refused(tmp_path: Path) -> None:
    secret = tmp_path / "song.wav"
    soundfile.write(secret, sine(440, 1.0).T, RATE)
    lists = {
        "list.m3u8": f"#EXTM3U\n#EXT-X-TARGETDURATION:9\n#EXTINF:9,\n{secret}\n#EXT-X-ENDLIST\n", "list.ffconcat": "ffconcat version 1.0\nfile song.wav\n",
        "disguised.mp3": f"#EXTM3U\n#EXTINF:9,\n{secret}\n", "scene.sdp": "v=0\nm=audio 9 RTP/AVP 0\nc=IN IP4 127.0.0.1\n",
    }  # fmt: skip
    for name, text in lists.items():
        (tmp_path / name).write_text(text)
        with pytest.raises(Unreadable):
            open_track(tmp_path / name)
    assert not {"hls", "concat", "sdp", "rtsp", "tty", "lavfi", "image2"} & set(DEMUXERS)


def test_ears_in_other_files_are_refused(tmp_path: Path) -> None:
    good = responses(tmp_path)[1]
    assert read_ears(good).rate == 48_000
    (tmp_path / "raw").write_bytes(np.zeros(12 * 2 * 64).tobytes())

    def changed(name: str, change: Callable[[h5py.File], object]) -> Path:
        path = tmp_path / f"{name}.sofa"
        path.write_bytes(good.read_bytes())
        with h5py.File(path, "r+") as file:
            change(file)
        return path

    def external(file: h5py.File) -> None:
        del file["Data.IR"]
        file.create_dataset("Data.IR", (12, 2, 64), "f8", external=[(str(tmp_path / "raw"), 0, h5py.h5f.UNLIMITED)])

    def linked(file: h5py.File) -> None:
        del file["Data.IR"]
        file["Data.IR"] = h5py.ExternalLink(str(good), "Data.IR")

    def replaced(name: str, value: object) -> Callable[[h5py.File], None]:
        def change(file: h5py.File) -> None:
            del file[name]
            file[name] = value

        return change

    ways = {
        "external": external, "linked": linked, "text": replaced("Data.IR", "words"), "flat": replaced("SourcePosition", np.zeros(12)),
        "nowhere": replaced("SourcePosition", np.full((12, 3), np.nan)), "late": replaced("Data.Delay", np.array([[np.inf, 0.0]])),
        "odd": replaced("Data.Delay", np.zeros((5, 3))), "no rate": replaced("Data.SamplingRate", np.zeros(0)), "loud": replaced("Data.IR", np.full((12, 2, 64), 1e200)),
        "none": replaced("Data.IR", np.zeros((12, 2, 0))),
    }  # fmt: skip
    for name, change in ways.items():
        with pytest.raises(Unreadable, match=r"\."):
            read_ears(changed(name, change))


# -- bombs ---------------------------------------------------------------------------------------------------------


def id3(*frames: bytes, version: int = 4) -> bytes:
    """An ID3 tag of frames."""
    body = b"".join(frames)
    size = len(body)
    safe = bytes((size >> shift) & 0x7F for shift in (21, 14, 7, 0))
    return b"ID3" + bytes((version, 0, 0)) + safe + body


def test_tags_that_unpack_to_gigabytes_are_left_out_and_the_sound_opens(tmp_path: Path) -> None:
    soundfile.write(tmp_path / "plain.mp3", sine(440, 1.0).T, RATE, format="MP3")
    packed = zlib.compress(b"\3" + b"x" * (4 * MOST_TAG_BYTES), 9)
    size = len(packed) + 4
    safe = bytes((size >> shift) & 0x7F for shift in (21, 14, 7, 0))
    frame = b"TIT2" + safe + b"\0\x09" + bytes((0x0F, 0x7F, 0x7F, 0x7F)) + packed
    (tmp_path / "bomb.mp3").write_bytes(id3(frame) + (tmp_path / "plain.mp3").read_bytes())
    before = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
    track = open_track(tmp_path / "bomb.mp3")
    assert track.frames > 0
    assert "too large" in track.warnings[0]
    assert (resource.getrusage(resource.RUSAGE_SELF).ru_maxrss - before) < 400_000, "kilobytes"


def test_tags_of_megabytes_are_left_out(tmp_path: Path) -> None:
    import mutagen
    from mutagen.flac import Picture

    path = tmp_path / "song.flac"
    soundfile.write(path, sine(440, 0.5).T, RATE)
    file = mutagen.File(path)
    file["title"], file["comment"], file["artist"] = "Bell", "y" * 5_000_000, ["z"] * 5_000
    picture = Picture()
    picture.data, picture.mime, picture.type = b"\xff\xd8" + b"0" * 5_000_000, "image/jpeg", 3
    file.add_picture(picture)
    file.save()
    tags, warnings = read_tags(path)
    assert tags.text == {"title": ("Bell",)}
    assert len(tags.cover) > 5_000_000, "a cover of a few megabytes is one"
    assert "comment" in warnings[0]
    assert "artist" in warnings[0]


def test_a_label_of_megabytes_is_cut_and_a_long_recording_not_read_for_its_marks(tmp_path: Path) -> None:
    made = {path.name: path for path in crafted(tmp_path)}
    marks = read_marks(made["long label.wav"])
    assert len(marks) == 1
    assert len(marks[0][0]) == 200
    beyond = [mark for mark in read_marks(made["cues beyond.wav"]) if mark[1] > 1.0]
    assert len(beyond) == 3, "they are read as they are; what lies past the song is said when it is placed"


def test_numbers_of_midi_files_have_their_limits(tmp_path: Path) -> None:
    made = {path.name: path for path in crafted(tmp_path)}
    for name, words in (("smpte.mid", "frames of film"), ("zero.mid", "frames of film"), ("ever.mid", "more than")):
        with pytest.raises(Unreadable, match=words):
            read_grid(made[name])


@pytest.mark.parametrize("name", ["deep.json", "deep.latespin", "huge.json", "nul.latespin", "long.latespin"])
def test_documents_of_any_depth_and_length_are_read_or_refused(tmp_path: Path, name: str) -> None:
    data = {path.name: path for path in crafted(tmp_path)}[name].read_bytes()
    if name.startswith(("nul", "long")):
        session = read_session(data, name)
        assert read_session(to_json(session), name) == session, "the path of a song may be anything; it is not there"
        return
    with pytest.raises(Unreadable) as refused:
        read_session(data, name)
    assert len(str(refused.value)) < 600


def test_one_bad_autosave_keeps_nothing_from_starting(tmp_path: Path) -> None:
    good = Journal(tmp_path)
    session = Session(track=TrackReference(path="a", sha256="0" * 64))
    good.write(session, None, 1e300)
    assert good._lock is not None
    os.close(good._lock)
    for n, data in enumerate((b"", b"[" * 300_000, b"\xff" * 50, b'{"format": 3}', os.urandom(5_000))):
        (tmp_path / f"bad{n}.unsaved").write_bytes(data)
    (tmp_path / "dir.unsaved").mkdir()
    os.mkfifo(tmp_path / "pipe.unsaved")
    (tmp_path / "stale.lock").touch()
    (tmp_path / f".{good.file.stem}.{os.uname().nodename[:40]}.999999.x.unsaved").touch()
    left = left_behind(tmp_path)
    assert [one.session for one in left] == [session]
    assert left[0].saved_at == 0.0, "a clock cannot have said that"
    assert not (tmp_path / "stale.lock").exists(), "what killed windows left is swept"
    assert not list(tmp_path.glob(".*"))
    assert (tmp_path / "bad1.unsaved").exists(), "and what cannot be read stays"


def test_a_lock_swept_away_while_it_is_taken_is_taken_anew(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    import fcntl

    real, swept = fcntl.flock, []

    def flock(handle: int, how: int) -> None:
        real(handle, how)
        if not swept:
            swept.extend(tmp_path.glob("*.lock"))
            swept[0].unlink()

    monkeypatch.setattr(fcntl, "flock", flock)
    window = Journal(tmp_path)
    window.write(Session(), None, 1.0)
    monkeypatch.undo()
    assert swept
    assert left_behind(tmp_path) == [], "its window still runs"
    window.close()


# -- what is said --------------------------------------------------------------------------------------------------


def test_messages_repeat_no_more_than_a_line_of_what_was_given(tmp_path: Path) -> None:
    long = "x" * 5_000
    for words in (
        ["render", long, "o.wav"],
        ["inspect", str(tmp_path / long)],
        ["render", "a.wav", "b.wav", "--source-bpm", long],
        ["recipes", long],
    ):
        done = subprocess.run([sys.executable, "-m", "latespin", *words], capture_output=True, text=True, check=False)
        assert done.returncode == 2
        assert done.stderr.count("\n") == 1
        assert len(done.stderr) < 700
    assert shortened("a\nb\0c" + "ü" * 300) == "a�b�c" + "ü" * 194 + "…"
    with pytest.raises(LateSpinError) as refused:
        find_recipe(long)
    assert len(str(refused.value)) < 800


@pytest.mark.parametrize("words", [("recipes",), ("inspect", "SONG", "--json")])
def test_output_that_cannot_be_printed_is_said_in_a_sentence(tmp_path: Path, words: tuple[str, ...]) -> None:
    soundfile.write(tmp_path / "song.wav", sine(440, 1.0).T, RATE)
    given = [str(tmp_path / "song.wav") if word == "SONG" else word for word in words]
    with Path("/dev/full").open("w") as full:
        done = subprocess.run(
            [sys.executable, "-m", "latespin", *given],
            stdout=full,
            stderr=subprocess.PIPE,
            text=True,
            check=False,
        )
    assert done.returncode == 2
    assert done.stderr.count("\n") == 1
    assert "No space left" in done.stderr


def test_files_larger_than_may_be_are_said_to_be(tmp_path: Path) -> None:
    soundfile.write(tmp_path / "song.wav", noise(5.0).T, RATE)
    limited = 'ulimit -f 200; exec "$@"'
    done = subprocess.run(
        ["bash", "-c", limited, "-", sys.executable, "-m", "latespin", "render", str(tmp_path / "song.wav"), str(tmp_path / "o.wav")],
        capture_output=True, text=True, check=False, env={**os.environ, "XDG_CACHE_HOME": str(tmp_path / "cache")},
    )  # fmt: skip
    assert done.returncode == 2
    assert "larger than files may be" in done.stderr
    assert [path.name for path in tmp_path.iterdir() if path.suffix == ".wav"] == ["song.wav"]
