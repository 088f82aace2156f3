"""Good files of every kind that Late Spin reads, small, made up, to be spoilt."""

import struct
from collections.abc import Callable
from pathlib import Path

import numpy as np
import soundfile

from latespin.media.exchange.grid_files import write_grid
from latespin.media.exchange.marker_files import write_marks
from latespin.media.tags import Tags, write_tags
from latespin.media.track import open_track
from latespin.model.documents.documents import Recipe, Session, TrackReference, to_json
from latespin.model.effects.declaration import EFFECTS
from latespin.model.moments.declaration import MOMENTS
from latespin.model.moments.endings import Ending, RingOut
from latespin.model.moments.markers import Marker
from latespin.model.moments.moments import Moments
from latespin.model.timing.beat_grid import Grid
from latespin.model.timing.positions import Position
from latespin.model.version import Colour, Stages, Time, Version

RATE = 44_100
SECONDS = 0.6
SNDFILE_SONGS = {
    "wav": ("WAV", "PCM_16"), "float.wav": ("WAV", "FLOAT"), "rf64.wav": ("RF64", "PCM_24"), "w64": ("W64", "PCM_16"), "aiff": ("AIFF", "PCM_16"),
    "caf": ("CAF", "PCM_16"), "flac": ("FLAC", "PCM_16"), "ogg": ("OGG", "VORBIS"), "opus": ("OGG", "OPUS"), "mp3": ("MP3", "MPEG_LAYER_III"),
    "au": ("AU", "PCM_16"),
}  # fmt: skip
AV_SONGS = {
    "m4a": "aac",
    "mp4": "aac",
    "mkv": "pcm_s16le",
    "webm": "libopus",
    "mov": "pcm_s16le",
    "aac": "aac",
    "ts": "aac",
}


def sound(rate: int = RATE, seconds: float = SECONDS) -> np.ndarray:
    """Two channels ``[frames, 2]`` of a chord and a little noise."""
    t = np.arange(round(seconds * rate)) / rate
    rng = np.random.default_rng(5)
    wave = sum(np.sin(2 * np.pi * hz * t) for hz in (220.0, 277.2, 329.6)) * 0.15
    return np.stack((wave, 0.8 * wave), axis=1) + 0.02 * rng.standard_normal((len(t), 2))


def songs(folder: Path) -> list[Path]:
    """A song in each kind of container, tagged where it can be."""
    made = []
    for name, (container, subtype) in SNDFILE_SONGS.items():
        path = folder / f"song.{name}"
        rate = 48_000 if subtype == "OPUS" else RATE
        soundfile.write(path, sound(rate), rate, subtype=subtype, format=container)
        if path.suffix in (".wav", ".flac", ".ogg", ".opus", ".mp3") and container != "RF64":
            cover = b"\xff\xd8\xff" + bytes(range(256)) * 4
            write_tags(path, Tags({"title": ("Closing bell",), "artist": ("The Rink",)}, cover, "image/jpeg"))
        made.append(path)
    return made + [_with_av(folder / f"song.{name}", codec) for name, codec in AV_SONGS.items()]


def _with_av(path: Path, codec: str) -> Path:
    import av

    rate = 48_000 if codec == "libopus" else RATE
    formats = {"aac": "adts", "ts": "mpegts"}
    with av.open(str(path), "w", format=formats.get(path.suffix[1:])) as container:
        stream = container.add_stream(codec, rate=rate, layout="stereo")
        frame = av.AudioFrame.from_ndarray(
            np.ascontiguousarray((sound(rate) * 32767).astype(np.int16).reshape(1, -1)), format="s16", layout="stereo"
        )
        frame.sample_rate = rate
        resampler = av.AudioResampler(
            format=stream.codec_context.format or "fltp", layout="stereo", rate=rate, frame_size=1024
        )
        for part in [*resampler.resample(frame), *resampler.resample(None)]:
            container.mux(stream.encode(part))
        container.mux(stream.encode(None))
    return path


def documents(folder: Path) -> list[Path]:
    """A session and a recipe with one of everything in them."""
    start, end = Position(beat=4.0), Position(beat=8.0)
    moments = tuple(kind(id=name, start=start, end=end) for name, kind in MOMENTS.items())
    effects = tuple(kind(id=name) for name, kind in EFFECTS.items())
    stages = Stages(
        time=Time(speed=0.9),
        colour=Colour(effects=effects),
        moments=Moments(placed=moments),
        ending=Ending(way=RingOut(at=end)),
    )
    grid = Grid(bpm=92.0, first_beat_seconds=0.2, beats=tuple(np.arange(0.2, 9.0, 0.652).tolist()))
    session = Session(
        track=TrackReference(path="song.wav", sha256="0" * 64), grid=grid, chosen="a",
        versions=(Version(id="a", name="Late", stages=stages), Version(id="b", name="Early")),
        markers=(Marker(id="m", label="Bell", start=start, end=end),),
    )  # fmt: skip
    made = {
        folder / "work.latespin": to_json(session),
        folder / "mine.json": to_json(Recipe(name="mine", title="Mine", stages=stages)),
    }
    for path, data in made.items():
        path.write_bytes(data)
    return list(made)


def lists(folder: Path) -> list[Path]:
    """Markers and grids, as CSV, WAV and MIDI."""
    soundfile.write(folder / "plain.wav", sound(), RATE)
    track = open_track(folder / "plain.wav")
    marks = [("Bell", 0.1, None), ("Lights", 0.2, 0.4)]
    for name in ("marks.csv", "marks.wav"):
        write_marks(marks, folder / name, track, overwrite=True, sources=())
    grid = Grid(bpm=92.0, first_beat_seconds=0.2)
    for name in ("grid.csv", "grid.mid"):
        write_grid(grid, 30.0, folder / name, overwrite=True, sources=())
    return [folder / name for name in ("marks.csv", "marks.wav", "grid.csv", "grid.mid")]


def responses(folder: Path) -> list[Path]:
    """A room's response, and a listener's ears."""
    import h5py

    rng = np.random.default_rng(3)
    tail = rng.standard_normal((RATE // 2, 2)) * np.exp(-np.arange(RATE // 2) / 4000)[:, None]
    soundfile.write(folder / "room.wav", 0.3 * tail, RATE, subtype="FLOAT")
    azimuth = np.arange(0.0, 360.0, 30.0)
    with h5py.File(folder / "ears.sofa", "w") as file:
        file.attrs["SOFAConventions"] = "SimpleFreeFieldHRIR"
        heads = np.exp(-np.arange(64) / 6.0) * rng.standard_normal((len(azimuth), 2, 64))
        file["Data.IR"], file["Data.SamplingRate"] = heads, np.array([48_000.0])
        file["SourcePosition"] = np.stack((azimuth, 0.0 * azimuth, 1.5 + 0.0 * azimuth), axis=1)
        file["SourcePosition"].attrs["Type"] = "spherical"
        file["Data.Delay"] = np.zeros((1, 2))
    return [folder / "room.wav", folder / "ears.sofa"]


def crafted(folder: Path) -> list[Path]:
    """Files that are wrong in ways that no accident makes: each once did harm, or might."""
    made: dict[str, bytes] = {
        "playlist.m3u8": b"#EXTM3U\n#EXT-X-TARGETDURATION:9\n#EXTINF:9,\n/etc/hostname\n#EXT-X-ENDLIST\n",
        "list.ffconcat": b"ffconcat version 1.0\nfile song.wav\n",
        "deep.json": b"[" * 200_000, "deep.latespin": b'{"a":' * 100_000, "huge.json": b'{"format_version": 1' + b"0" * 5_000 + b"}",
        "nul.latespin": to_json(Session(track=TrackReference(path="a\0b", sha256="0" * 64))),
        "long.latespin": to_json(Session(track=TrackReference(path="x" * 100_000, sha256="0" * 64))),
        "smpte.mid": b"MThd\0\0\0\6\0\0\0\1\xe2\x50MTrk\0\0\0\x0b\0\xff\x51\3\7\xa1\x20\0\xff\x2f\0",
        "zero.mid": b"MThd\0\0\0\6\0\0\0\1\0\0MTrk\0\0\0\x0b\0\xff\x51\3\7\xa1\x20\0\xff\x2f\0",
        "ever.mid": b"MThd\0\0\0\6\0\0\0\1\0\1MTrk\0\0\0\x0e\0\xff\x51\3\7\xa1\x20\xff\xff\xff\x7f\xff\x2f\0",
    }  # fmt: skip
    made |= {f"{name}.wav": data for name, data in _wavs().items()}
    for name, data in made.items():
        (folder / name).write_bytes(data)
    return [folder / name for name in made]


def _wavs() -> dict[str, bytes]:
    """WAV files whose headers lie."""

    def wav(
        channels: int,
        rate: int,
        data: bytes,
        *,
        kind: int = 1,
        bits: int = 16,
        size: int | None = None,
        more: bytes = b"",
    ) -> bytes:
        align = max(1, channels * bits // 8)
        form = struct.pack(
            "<HHIIHH", kind, channels, rate & 0xFFFFFFFF, (rate * align) & 0xFFFFFFFF, align & 0xFFFF, bits
        )
        body = b"WAVEfmt " + struct.pack("<I", 16) + form + more
        body += b"data" + struct.pack("<I", len(data) if size is None else size) + data
        return b"RIFF" + struct.pack("<I", len(body)) + body

    noise = np.random.default_rng(1).integers(-9_000, 9_000, 20_000, np.int16).tobytes()
    cues = struct.pack("<I", 3) + b"".join(
        struct.pack("<II4sIII", n, 0, b"data", 0, 0, 0xFFFFFFF0 + n) for n in range(3)
    )
    absurd = np.full(9_000, 1e12, np.float32).tobytes()
    label = b"adtllabl" + struct.pack("<I", 5_000_004) + struct.pack("<I", 1) + b"x" * 5_000_000
    one_cue = struct.pack("<I", 1) + struct.pack("<II4sIII", 1, 0, b"data", 0, 0, 10)
    return {
        "no channels": wav(0, RATE, noise), "many channels": wav(60_000, RATE, noise), "no rate": wav(2, 0, noise),
        "huge rate": wav(2, 0xFFFFFFFF, noise), "one frame": wav(2, RATE, noise[:4]), "no frames": wav(2, RATE, b""),
        "unfinished": wav(2, RATE, noise, size=0), "open end": wav(2, RATE, noise, size=0xFFFFFFFF), "short": wav(2, RATE, noise, size=10**9),
        "odd bits": wav(2, RATE, noise, bits=17), "strange kind": wav(2, RATE, noise, kind=0x6789),
        "absurd": wav(2, RATE, absurd, kind=3, bits=32), "some absurd": wav(2, RATE, noise + absurd[:8], kind=3, bits=32),
        "denormal": wav(2, RATE, np.full(9_000, 1e-42, np.float32).tobytes(), kind=3, bits=32),
        "cues beyond": wav(2, RATE, noise, more=b"cue " + struct.pack("<I", len(cues)) + cues),
        "long label": wav(2, RATE, noise, more=b"cue " + struct.pack("<I", len(one_cue)) + one_cue + b"LIST" + struct.pack("<I", len(label)) + label),
        "many cues": wav(2, RATE, noise, more=b"cue " + struct.pack("<II", 4, 0xFFFFFFFF)),
    }  # fmt: skip


GOOD: dict[str, Callable[[Path], list[Path]]] = {
    "songs": songs, "documents": documents, "lists": lists, "responses": responses,
}  # fmt: skip
