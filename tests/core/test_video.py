"""Versions of songs that came from videos: pictures stay with their sound, whatever happens to time."""

import subprocess
from collections.abc import Callable
from fractions import Fraction
from pathlib import Path

import av
import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from latespin.errors import Cancelled, Unreadable, Unusable, Unwritable
from latespin.jobs import Quietly, Work
from latespin.media.audio.sound_tracks import sound_tracks
from latespin.media.tags import read_tags
from latespin.media.track import open_track
from latespin.media.video.clip import clip_of
from latespin.media.video.frames import Frames
from latespin.media.video.timing import PictureTimes
from latespin.model.documents.documents import Session, TrackReference, to_json
from latespin.model.moments.endings import Ending, RingOut, TapeStopEnd
from latespin.model.moments.moments import Moments, Reverse, TapeStop
from latespin.model.timing.positions import Position
from latespin.model.timing.tempo_curve import CurvePoint
from latespin.model.timing.time_map import compile_time_map
from latespin.model.version import Level, Stages, Time, Version
from latespin.render.chain.renderer import TrackRenderer
from latespin.render.export import video
from latespin.render.export.video import OwnPictures, export_video
from latespin.render.mastering.excerpt import Excerpt
from tests.clips import HUM_HZ, PICTURES, apart_ms, beeps, flashes, hum_hz, make_clip, turn

HALF_PICTURE_MS = 500.0 / PICTURES
TOGETHER_MS = 20.0
OFF = Level(on=False)


def at(seconds: float) -> Position:
    """A place in the song."""
    return Position(seconds=seconds)


def stopped(*, start: float, end: float) -> Moments:
    """A tape stop."""
    return Moments(placed=(TapeStop(id="t", start=at(start), end=at(end)),))


CURVE = tuple(CurvePoint(place=place, speed=speed) for place, speed in ((0.0, 0.8), (0.5, 1.0), (1.0, 1.25)))
RUN_ON = {
    "slowed": Stages(time=Time(speed=0.8), level=OFF),
    "quicker, pitch held": Stages(time=Time(speed=1.3, pitch="held"), level=OFF),
    "curve": Stages(time=Time(curve=CURVE), level=OFF),
    "rung out": Stages(time=Time(speed=0.9), ending=Ending(way=RingOut(at=at(6.5))), level=OFF),
    "stopped at the end": Stages(ending=Ending(way=TapeStopEnd(at=at(6.5))), level=OFF),
}
JUMPS = {
    "stopped": Stages(moments=stopped(start=3.4, end=4.6), level=OFF),
    "backwards": Stages(moments=Moments(placed=(Reverse(id="r", start=at(3.5), end=at(5.5)),)), level=OFF),
}


@pytest.fixture(scope="module")
def clips(tmp_path_factory: pytest.TempPathFactory) -> dict[str, Path]:
    """A clip in each container; the one in Matroska unevenly spaced."""
    folder = tmp_path_factory.mktemp("clips")
    return {
        suffix: make_clip(folder / f"clip{suffix}", uneven=suffix == ".mkv")
        for suffix in (".mp4", ".mov", ".mkv", ".webm")
    }


def made(clip: Path, stages: Stages, target: Path, **more: object) -> Path:
    """A version of a clip."""
    readers = TrackRenderer(open_track(clip))
    export_video(readers, stages, target, Quietly(), OwnPictures(), **more)  # type: ignore[arg-type]
    return target


def packets(path: Path) -> list[bytes]:
    """The coded pictures of a file."""
    with av.open(str(path)) as container:
        return [bytes(packet) for packet in container.demux(video=0) if packet.size]


@pytest.mark.parametrize("name", RUN_ON)
def test_pictures_whose_time_runs_on_are_copied_and_stay_with_their_sound(
    clips: dict[str, Path], tmp_path: Path, name: str
) -> None:
    out = made(clips[".mp4"], RUN_ON[name], tmp_path / "out.mp4")
    within = flashes(out)
    within = within[within < beeps(out)[-1] + 0.5]
    assert len(within) >= 6
    assert apart_ms(within, beeps(out)).max() < 1.0, "each picture keeps the time of its sound, rounded to 1/90 ms"
    kept = packets(out)
    assert kept == packets(clips[".mp4"])[: len(kept)], "not encoded again"
    with av.open(str(out)) as container:
        seen, heard = (
            float(s.duration * s.time_base) for s in (container.streams.video[0], container.streams.audio[0])
        )
    assert seen == pytest.approx(heard, abs=0.001 + HALF_PICTURE_MS / 1000), "the last picture stays until the end"


@pytest.mark.parametrize("suffix", [".mov", ".mkv", ".webm"])
def test_every_container_keeps_pictures_and_sound_together(clips: dict[str, Path], tmp_path: Path, suffix: str) -> None:
    out = made(clips[suffix], RUN_ON["curve"], tmp_path / f"out{suffix}")
    assert len(flashes(out)) == 7
    assert apart_ms(flashes(out), beeps(out)).max() < 1.5
    assert packets(out) == packets(clips[suffix])


@pytest.mark.parametrize("name", JUMPS)
def test_where_time_jumps_pictures_follow(clips: dict[str, Path], tmp_path: Path, name: str) -> None:
    out = made(clips[".mp4"], JUMPS[name], tmp_path / "out.mp4")
    assert len(flashes(out)) >= 6
    assert apart_ms(flashes(out), beeps(out)).max() < TOGETHER_MS
    assert packets(out) != packets(clips[".mp4"])


def test_pictures_may_run_on_where_time_jumps(clips: dict[str, Path], tmp_path: Path) -> None:
    readers = TrackRenderer(open_track(clips[".mp4"]))
    out = tmp_path / "out.mp4"
    export_video(readers, JUMPS["backwards"], out, Quietly(), OwnPictures(follow=False))
    assert flashes(out) == pytest.approx(np.arange(1.0, 8.0), abs=0.001)
    assert packets(out) == packets(clips[".mp4"])


def test_an_excerpt_has_the_pictures_of_its_sound(clips: dict[str, Path], tmp_path: Path) -> None:
    out = made(clips[".mp4"], RUN_ON["slowed"], tmp_path / "out.mp4", excerpt=Excerpt(2.6, 7.2))
    assert beeps(out) == pytest.approx([3.75 - 2.6, 5.0 - 2.6, 6.25 - 2.6], abs=0.002)
    assert apart_ms(flashes(out), beeps(out)).max() <= HALF_PICTURE_MS + 0.5


def test_a_video_has_the_sound_and_the_tags_of_the_export(clips: dict[str, Path], tmp_path: Path) -> None:
    readers = TrackRenderer(open_track(clips[".mp4"]))
    result = export_video(
        readers, Stages(level=Level(target_lufs=-18.0)), tmp_path / "out.mp4", Quietly(), OwnPictures()
    )
    assert result.facts.loudness.integrated_lufs == pytest.approx(-18.0, abs=0.1)
    track = open_track(tmp_path / "out.mp4")
    assert track.frames == result.facts.frames, "the coder's run-in is not heard"
    assert read_tags(tmp_path / "out.mp4")[0].first("title") == "clip"


def test_each_sound_track_of_a_video_can_be_the_song(
    tmp_path: Path, here: Callable[..., subprocess.CompletedProcess[str]]
) -> None:
    """In the core, by a session and on the command line; and readings are kept for each."""
    clip = make_clip(tmp_path / "rink.mkv", 3, sounds=2)
    first, second = (open_track(clip, sound_track=number) for number in (1, 2))
    assert [hum_hz(track.sound, track.rate) for track in (first, second)] == pytest.approx([HUM_HZ, 2 * HUM_HZ], abs=3)
    assert (first.content_id, second.content_id) == (first.sha256, f"{first.sha256}-2")
    assert first.sound_tracks == second.sound_tracks == 2
    assert not any("sound tracks" in said for said in second.warnings)
    assert [words.split(", ")[:3] for words in sound_tracks(clip)] == [
        ["1: Hum 1", "stereo", "48 kHz"], ["2: Hum 2", "stereo", "48 kHz"],
    ]  # fmt: skip
    with pytest.raises(Unreadable, match=r"rink\.mkv has no sound track 3; it has 2"):
        open_track(clip, sound_track=3)
    session = Session(
        track=TrackReference(path=clip.name, sha256=first.sha256, sound_track=2), versions=(Version(id="v", name="V"),)
    )
    saved = tmp_path / "rink.latespin"
    saved.write_bytes(to_json(session))
    out, from_session = tmp_path / "out.wav", tmp_path / "session.wav"
    here("render", clip, out, "--sound-track", 2, "--loudness", "off")
    here("render", saved, from_session)
    for made_file in (out, from_session):
        track = open_track(made_file)
        assert hum_hz(track.sound, track.rate) == pytest.approx(2 * HUM_HZ, abs=3)
    refused = here("render", saved, out, "--sound-track", 2)
    assert (refused.returncode, "leave out --sound-track" in refused.stderr) == (2, True)


def test_odd_clips_are_read_or_refused(tmp_path: Path, clips: dict[str, Path]) -> None:
    """Ten bits a colour, several sounds, a cover that does not move, no pictures, no sound, another kind of file."""
    deep = make_clip(tmp_path / "deep.mp4", 3, ten_bit=True, sounds=2)
    out = made(
        deep,
        JUMPS["backwards"].__class__(moments=Moments(placed=(Reverse(id="r", start=at(1.0), end=at(2.0)),)), level=OFF),
        tmp_path / "a.mp4",
    )
    with av.open(str(out)) as container:
        assert container.streams.video[0].pix_fmt == "yuv420p"
    assert any("2 sound tracks; the first one is used" in said for said in open_track(deep).warnings)
    copied = made(deep, RUN_ON["slowed"], tmp_path / "b.mp4")
    assert packets(copied) == packets(deep)
    clip = clip_of(deep)
    assert clip is not None
    assert (clip.width, clip.height, clip.rate, clip.turned) == (160, 90, Fraction(30), 0)
    with pytest.raises(Unwritable, match=r"pictures of the kind h264. Write a \.mkv"):
        made(clips[".mp4"], RUN_ON["slowed"], tmp_path / "c.webm")
    with pytest.raises(Unwritable, match="no ending of a video"):
        made(clips[".mp4"], RUN_ON["slowed"], tmp_path / "c.avi")
    song = made_song(tmp_path / "song.m4a")
    assert clip_of(song) is None
    with pytest.raises(Unusable, match="no moving pictures"):
        made(song, Stages(level=OFF), tmp_path / "c.mp4")
    with pytest.raises(Unwritable, match="already exists"):
        made(clips[".mp4"], Stages(level=OFF), out)
    silent = tmp_path / "silent.mp4"
    with av.open(str(clips[".mp4"])) as source, av.open(str(silent), "w") as target:
        stream = target.add_stream_from_template(source.streams.video[0])
        for packet in source.demux(video=0):
            if packet.size:
                packet.stream = stream
                target.mux(packet)
    with pytest.raises(Unreadable, match="no sound"):
        open_track(silent)
    assert not [path for path in tmp_path.iterdir() if path.name.startswith(".")]


def test_pictures_that_players_turn_stay_turned(tmp_path: Path) -> None:
    """Copied, the file still says so; encoded again, they are upright: what was at the left is at the top."""
    source = turn(make_clip(tmp_path / "turned.mp4", 4))
    clip = clip_of(source)
    assert clip is not None
    assert (clip.width, clip.height, clip.turned) == (90, 160, 90)
    with av.open(str(made(source, RUN_ON["slowed"], tmp_path / "a.mp4"))) as container:
        frame = next(container.decode(video=0))
        assert (frame.rotation, frame.width, frame.height) == (-90, 160, 90)
    backwards = Stages(moments=Moments(placed=(Reverse(id="r", start=at(1.0), end=at(2.0)),)), level=OFF)
    with av.open(str(made(source, backwards, tmp_path / "b.mp4"))) as container:
        pictures = container.decode(video=0)
        frame = [next(pictures) for _ in range(15)][-1]
        assert (frame.rotation, frame.width, frame.height) == (0, 90, 160)
        red = frame.to_ndarray(format="rgb24")[:, :, 0].mean(axis=1)
    assert red[5] > red[-5] + 30.0


def made_song(path: Path) -> Path:
    """Sound alone."""
    from latespin.media.audio.encode import encode
    from latespin.media.tags import Tags
    from tests.conftest import noise

    encode(path, [noise(1.0)], rate=44_100, channels=2, tags=Tags(), overwrite=False, sources=())
    return path


def test_pictures_that_end_before_the_sound_stay(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """Encoded again, the last picture is not looked for anew for every moment after it."""
    source = make_clip(tmp_path / "short.mp4", 9, shown=3)
    looked: list[float] = []
    seek = Frames._seek
    monkeypatch.setattr(Frames, "_seek", lambda self, seconds: (looked.append(seconds), seek(self, seconds))[1])
    out = made(source, JUMPS["stopped"], tmp_path / "out.mp4")
    assert len(looked) < 8
    assert flashes(out) == pytest.approx([1.0, 2.0], abs=0.02)
    with av.open(str(out)) as container:
        assert float(container.streams.video[0].duration * container.streams.video[0].time_base) == pytest.approx(
            9.0, abs=0.1
        )


@pytest.mark.parametrize(
    ("words", "says"),
    [(("clip.mp4", "a.mp4", "--still"), "--still is for cards"), (("clip.mp4", "a.m4a", "--shape", "1:1"), "--shape is for videos"),
     (("clip.mp4", "a.mp4", "--picture", "card", "--run-on"), "--run-on is for the song"), (("clip.mp4", "a.m4a", "--fade", "1"), "--fade is for excerpts"),
     (("clip.mp4", "a.webm"), "cannot hold pictures of the kind h264"), (("clip.mp4", "a.webm", "--depth", "16"), "Opus cannot hold depth 16"),
     (("clip.mp4", "a.mp4", "--picture", "none.png"), "not a picture that can be read")],
)  # fmt: skip
def test_what_a_command_asks_for_in_vain_is_said_before_the_work(
    clips: dict[str, Path], tmp_path: Path, here: Callable[..., subprocess.CompletedProcess[str]], words: tuple[str, ...], says: str,
    monkeypatch: pytest.MonkeyPatch,
) -> None:  # fmt: skip
    def never(*_: object, **__: object) -> None:
        raise AssertionError("nothing may be rendered")

    monkeypatch.setattr(video, "export", never)
    monkeypatch.chdir(tmp_path)
    (tmp_path / "clip.mp4").write_bytes(clips[".mp4"].read_bytes())
    done = here("render", *words)
    assert done.returncode == 2
    assert says in done.stderr, done.stderr
    assert [path.name for path in tmp_path.iterdir()] == ["clip.mp4"]


def test_a_cancelled_video_leaves_nothing(clips: dict[str, Path], tmp_path: Path) -> None:
    class Stopping:
        """Stops once the pictures are being made."""

        def __init__(self) -> None:
            self.said = 0.0

        def report(self, fraction: float) -> None:
            self.said = fraction

        def cancelled(self) -> bool:
            return self.said > 0.5

    work: Work = Stopping()
    for stages in (RUN_ON["slowed"], JUMPS["backwards"]):
        with pytest.raises(Cancelled):
            export_video(TrackRenderer(open_track(clips[".mp4"])), stages, tmp_path / "out.mp4", work, OwnPictures())
    assert not list(tmp_path.iterdir())


@given(speed=st.floats(0.5, 2.0), begins=st.floats(0.0, 5.0), song=st.floats(-1.0, 9.0))
@settings(deadline=None)
def test_times_of_pictures_go_both_ways(speed: float, begins: float, song: float) -> None:
    rate, seconds = 1000, 8
    times = PictureTimes(
        compile_time_map(Time(speed=speed), seconds * rate, rate), rate, seconds / speed - begins, begins
    )
    assert times.runs_on
    there = times.after(np.array([song]))
    inside = 0.05 < song < seconds - 0.05 and begins < song / speed - 0.05
    if inside:
        assert there[0] == pytest.approx(song / speed - begins, abs=0.002)
        assert times.before(there)[0] == pytest.approx(song, abs=0.005)
    order = times.after(np.sort(np.array([song, 0.0, 4.0, 8.0])))
    assert np.all(np.diff(order) >= 0.0)
