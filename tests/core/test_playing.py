"""Moves played while the song plays: heard at once, recorded where they were played, and exported as they were heard."""

import time
from collections.abc import Iterator

import numpy as np
import pytest
from msgspec.structs import replace

from latespin.dsp.arrays import Audio
from latespin.media.track import Track
from latespin.model.documents.documents import Session, read_session, to_json
from latespin.model.documents.take_edits import deleted, merged, muted, quantised, with_take
from latespin.model.effects.automation import Lane, LanePoint
from latespin.model.effects.effects import Echo, Eq, Gain, Hall, SmallSpeaker
from latespin.model.moments.held import (
    Held,
    HeldEffect,
    HeldRepeat,
    HeldReverse,
    HeldSilence,
    HeldSpinUp,
    HeldStop,
    HeldTempo,
)
from latespin.model.moments.moments import Moments
from latespin.model.moments.takes import Ride, Take
from latespin.model.timing.beat_grid import Grid
from latespin.model.timing.positions import Position
from latespin.model.version import Colour, Stages, Time, Version
from latespin.render.chain.renderer import TrackRenderer
from latespin.render.mastering.level import LevelPlan
from latespin.render.playback.live_meter import LiveMeter, Meters
from latespin.render.playback.player import Player
from latespin.render.playback.programme import PlaybackRequest
from latespin.render.playing.hold_recorder import PlayedMove
from latespin.render.playing.live_controls import LiveControls
from latespin.render.playing.takes import lane_of, moment_of
from tests.conftest import level_db, noise, sine, track_of
from tests.core.test_effects import music

RATE = 44_100
GRID = Grid(bpm=120.0)
BLOCK = 441
NOWHERE = {"start": Position(beat=0.0), "end": Position(beat=1.0)}
EDGE = RATE // 100


class Stage:
    """A player without a device or a clock of its own: blocks are pulled by the test, so that every press has its frame."""

    def __init__(self, player: Player, programme: PlaybackRequest) -> None:
        self.player, self.heard = player, []
        player.change(programme)
        player.play()

    def run(self, seconds: float) -> None:
        """Play on, in blocks of ten milliseconds."""
        for _ in range(round(seconds * 100)):
            end = time.monotonic() + 20.0
            while self.player._busy() or self.player.live.separating:
                assert time.monotonic() < end
                with self.player._lock:
                    self.player._lock.notify_all()
                time.sleep(0.001)
            self.heard.append(self.player.pull(BLOCK))

    @property
    def sound(self) -> Audio:
        """All that was heard."""
        return np.concatenate(self.heard, axis=1)


@pytest.fixture
def player(monkeypatch: pytest.MonkeyPatch) -> Iterator[Player]:
    """A player that is closed afterwards; its meters, which nobody looks at here, stand still."""
    monkeypatch.setattr(LiveMeter, "hear", lambda *_: Meters())
    made = Player(RATE)
    yield made
    made.close()


def request_of(track: Track, stages: Stages, **more: object) -> PlaybackRequest:
    """A version to be heard, before Level."""
    return PlaybackRequest(TrackRenderer(track, GRID), "after", stages, LevelPlan(), **more)  # type: ignore[arg-type]


def with_moves(stages: Stages, moves: list[PlayedMove]) -> Stages:
    """A version with what was played."""
    made = tuple(moment_of(move, f"m{i}", "t") for i, move in enumerate(moves))
    return replace(stages, moments=Moments(placed=made))


def clear_of_edges(moves: list[PlayedMove], frames: int) -> np.ndarray:
    """Where no move begins or ends within 10 ms."""
    clear = np.ones(frames, bool)
    for move in moves:
        for edge in (move.start, move.stop):
            clear[max(0, edge - EDGE) : edge + EDGE] = False
    return clear


TAKES: dict[str, list[tuple[float, str, Held | None]]] = {
    "repeats": [
        (1.03, "a", HeldRepeat(value="1/8", **NOWHERE)), (0.4, "a", None), (0.22, "b", HeldRepeat(value="1/16t", **NOWHERE)), (0.3, "b", None),
        (0.3, "c", HeldRepeat(free=True, slice_ms=60.0, **NOWHERE)), (0.4, "c", None),
    ],
    "drums": [(1.53, "d", HeldRepeat(value="1/8", material="drums", **NOWHERE)), (1.0, "d", None)],
    "reverse": [(1.0, "r", HeldReverse(**NOWHERE)), (0.3, "s", HeldSilence(**NOWHERE)), (0.1, "s", None), (0.3, "r", None)],
    "stop": [(0.9, "s", HeldStop(slow_seconds=0.5, **NOWHERE)), (0.7, "s", None), (0.3, "u", HeldSpinUp(rise_seconds=0.3, **NOWHERE)), (0.5, "u", None)],
    "stop and go on": [
        (0.9, "s", HeldStop(slow_seconds=0.4, time="add", **NOWHERE)), (0.7, "s", None), (0.4, "a", HeldRepeat(value="1/8", **NOWHERE)), (0.3, "a", None),
    ],
    "effects": [
        (0.8, "m", HeldEffect(effect=Eq(high_cut_hz=700.0), **NOWHERE)), (0.3, "e", HeldEffect(effect=Echo(value="1/8"), **NOWHERE)),
        (0.3, "e", None), (0.1, "p", HeldEffect(effect=SmallSpeaker(), **NOWHERE)), (0.3, "m", None), (0.3, "p", None),
    ],
}  # fmt: skip


@pytest.mark.parametrize("name", TAKES)
def test_what_was_played_is_what_is_exported(player: Player, name: str) -> None:
    """Within −50 dB of the music, 10 ms around the edges of moves apart; with a gain of the level and without."""
    stages = Stages(time=Time(speed=0.9), colour=Colour(effects=(Hall(id="h", decay_seconds=1.0),)))
    programme = replace_plan(request_of(track_of(music(8.0)), stages), -3.0 if name == "effects" else 0.0)
    player.live.separates_drums = name == "drums"
    stage = Stage(player, programme)
    until_exact(player, stage)
    first = player.place()[1]
    already = stage.sound.shape[1]
    for wait, ident, moment in TAKES[name]:
        stage.run(wait)
        if moment is None:
            player.live.hand.release(ident)
        else:
            player.live.hand.press(ident, moment)
    stage.run(0.6)
    moves = player.live.hand.take_played()
    assert len(moves) == sum(moment is not None for _, _, moment in TAKES[name])
    made = with_moves(stages, moves)
    arranged = programme.readers.arrangement(made)
    assert [(placed.start, placed.stop) for placed in arranged.held] == [(move.start, move.stop) for move in moves]
    heard = stage.sound[:, already:]
    exported = programme.readers.chain(made).read(first + heard.shape[1])[:, first:] * 10 ** (
        programme.plan.gain_db / 20
    )
    clear = clear_of_edges([replace_frames(move, first) for move in moves], heard.shape[1])
    assert level_db((heard - exported)[:, clear]) < level_db(exported) - 50.0
    untouched = programme.readers.chain(stages).read(first + heard.shape[1])[:, first:]
    assert level_db(heard - untouched) > level_db(exported) - 30.0, "something was played"


def test_takes_are_kept_with_their_session_and_stay_on_their_beats() -> None:
    """Through a file, through moved paths, and when the bars are found elsewhere."""
    ride = Ride(
        effect="e",
        field="bell_db",
        start=Position(beat=4.0),
        end=Position(beat=8.0),
        points=(LanePoint(at=Position(beat=5.0), value=1.0),),
    )
    moments = Moments(
        placed=(HeldReverse(id="a", take="t", **NOWHERE),),
        takes=(Take(id="t", name="Take 1", on=False, rides=(ride,)),),
    )
    session = Session(versions=(Version(id="v", name="V", stages=Stages(moments=moments)),))
    assert read_session(to_json(session), "s") == session
    same = session.with_sounds(lambda path: path)
    assert same == session
    assert all(version is other for version, other in zip(same.versions, session.versions, strict=True)), (
        "nothing is copied"
    )
    moved = session.on_grid(Grid(bpm=120.0), Grid(bpm=120.0, first_beat_seconds=1.0)).versions[0].stages.moments
    assert moved.takes[0].rides[0].start == Position(beat=2.0)
    assert moved.takes[0].rides[0].points[0].at == Position(beat=3.0)
    assert not moments.heard


def test_a_ridden_tempo_is_exported_as_it_was_heard(player: Player) -> None:
    """Slower, faster and back, with a pad held on the way; within −50 dB of the music."""
    programme = request_of(track_of(0.5 * music(10.0)), Stages(time=Time(speed=0.95)))
    stage = Stage(player, programme)
    until_exact(player, stage)
    first, already, hand = player.place()[1], stage.sound.shape[1], player.live.hand
    for percent in (-1.0, -2.5, -4.0, -4.0, -1.5, 2.0, 5.5, 3.0):
        hand.ride(percent)
        stage.run(0.15)
    hand.press("s", HeldSilence(**NOWHERE))
    stage.run(0.2)
    hand.release("s")
    stage.run(0.2)
    hand.ride(0.0)
    stage.run(0.6)
    moves = hand.take_played()
    assert {type(move.moment) for move in moves} == {HeldSilence, HeldTempo}
    made = with_moves(programme.stages, moves)
    heard = stage.sound[:, already:]
    exported = programme.readers.chain(made).read(first + heard.shape[1])[:, first:]
    edges = [replace_frames(move, first) for move in moves]
    silent = np.flatnonzero(np.abs(heard).max(axis=0) == 0.0)
    clear = clear_of_edges(edges, heard.shape[1])
    clear[silent[0] - 2 * EDGE : silent[0]] = clear[silent[-1] : silent[-1] + 2 * EDGE] = False
    assert level_db((heard - exported)[:, clear]) < level_db(exported) - 50.0


def test_a_knob_on_a_filter_is_heard_soon_and_exported_as_it_was_turned(player: Player) -> None:
    """A cut turned down and up by steps as a control surface sends them; within −50 dB of the music, and thinned to few points."""
    filtered = Colour(effects=(Eq(id="f", high_cut_hz=16_000.0, high_slope="24"), Hall(id="h", decay_seconds=1.0)))
    programme = request_of(track_of(0.3 * music(10.0)), Stages(colour=filtered))
    controls = LiveControls(frozenset({("f", "high_cut_hz")}))
    player.set_live(controls)
    stage = Stage(player, programme)
    until_exact(player, stage)
    first, already = player.place()[1], stage.sound.shape[1]
    controls.armed = True
    for step in range(60):
        controls.turn(("f", "high_cut_hz"), 16_000.0 * 0.5 ** (4.0 * np.sin(np.pi * step / 60.0)))
        stage.run(0.03)
        if step == 30:
            stage.run(0.5)
    stage.run(0.3)
    controls.armed = False
    (turned,) = controls.take_turned()
    lane = lane_of(turned)
    assert lane is not None
    assert 10 < len(lane.points) < 60
    take = Take(id="t", name="Take 1")
    made = with_take(programme.stages, take, [], [("f", lane)])
    heard = stage.sound[:, already:]
    exported = programme.readers.chain(made).read(first + heard.shape[1])[:, first:]
    assert level_db(heard - exported) < level_db(exported) - 50.0
    untouched = programme.readers.chain(programme.stages).read(first + heard.shape[1])[:, first:]
    assert level_db(heard - untouched) > level_db(exported) - 30.0, "the filter was turned"
    assert muted(made, "t", False).colour == programme.stages.colour
    assert muted(muted(made, "t", False), "t", True) == made
    assert deleted(made, "t") == programme.stages


def test_a_knob_is_recorded_on_while_the_version_is_measured_meanwhile(player: Player) -> None:
    """Another level arrives half way through a turn: what was turned before it and after it is kept, up to the last value."""
    programme = request_of(
        track_of(sine(1000.0, 20.0, level=0.5)), Stages(colour=Colour(effects=(Gain(id="g", gain_db=0.0),)))
    )
    controls, place = LiveControls(frozenset({("g", "gain_db")})), ("g", "gain_db")
    player.set_live(controls)
    stage = Stage(player, programme)
    until_exact(player, stage)
    controls.armed = True
    for step in range(12):
        controls.turn(place, -step)
        stage.run(0.05)
        if step == 6:
            player.change(replace_plan(programme, -2.0))
    until_exact(player, stage)
    made = programme.stages
    for turned in controls.take_turned():
        lane = lane_of(turned)
        assert lane is not None
        made = with_take(made, Take(id="t", name="T"), [], [("g", lane)])
    (lane,) = made.colour.effects[0].lanes
    values = [point.value for point in lane.points]
    assert values[-1] == pytest.approx(-11.0, abs=0.01)
    assert values == sorted(values, reverse=True), "nothing jumps back"


def test_a_knob_is_heard_within_sixty_milliseconds(player: Player) -> None:
    """A gain falls by 24 dB; counted in sound that was pulled after the turn."""
    programme = request_of(track_of(sine(1000.0, 20.0, level=0.5)), Stages(colour=Colour(effects=(Gain(id="g"),))))
    controls = LiveControls(frozenset({("g", "gain_db")}))
    player.set_live(controls)
    stage = Stage(player, programme)
    until_exact(player, stage)
    for db in (-24.0, 0.0, -24.0):
        pulled = len(stage.heard)
        controls.turn(("g", "gain_db"), db)
        stage.run(0.3)
        blocks = np.abs(np.concatenate(stage.heard[pulled - 1 :], axis=1)[0]).reshape(-1, BLOCK).max(axis=1)
        changed = np.flatnonzero(np.abs(blocks[1:] / blocks[0] - 1.0) > 0.02)
        assert 0 <= changed[0] <= 5, "blocks of ten milliseconds"
        assert 20.0 * np.log10(blocks[-1] / 0.5) == pytest.approx(db, abs=0.1)


def test_a_storm_of_messages_presses_before_any_sound_and_past_the_end_leave_no_gap_and_nothing_stuck(
    player: Player,
) -> None:
    """Two hundred presses and releases in one block; a repeat before anything has sounded; a pad held over the end."""
    sound = noise(3.0)
    hand = player.live.hand
    hand.press("early", HeldRepeat(value="1/4", **NOWHERE))
    stage = Stage(player, request_of(track_of(sound), Stages()))
    stage.run(0.3)
    hand.release("early")
    stage.run(0.2)
    assert np.allclose(stage.sound[:, :BLOCK], sound[:, :BLOCK], atol=1e-6), "it takes what comes"
    for i in range(100):
        hand.press(f"pad {i % 7}", (HeldReverse(**NOWHERE), HeldSilence(**NOWHERE))[i % 2])
        hand.release(f"pad {(i + 3) % 7}")
    stage.run(0.1)
    for i in range(7):
        hand.release(f"pad {i}")
    hand.release("nobody")
    stage.run(0.2)
    assert not hand.held
    at = round(0.8 * RATE)
    assert np.allclose(stage.sound[:, at - 4 * BLOCK : at], sound[:, at - 4 * BLOCK : at], atol=1e-6)
    hand.press("late", HeldReverse(**NOWHERE))
    stage.run(3.0)
    hand.stop()
    assert not hand.held
    last = hand.take_played()[-1]
    assert last.stop == pytest.approx(3 * RATE, abs=BLOCK)
    assert player.underruns == 0
    assert stage.sound.shape[1] >= 3 * RATE


def test_a_pad_whose_effect_cannot_be_made_is_said_and_the_song_plays_on(
    player: Player, caplog: pytest.LogCaptureFixture, monkeypatch: pytest.MonkeyPatch
) -> None:
    def crack(*_: object) -> None:
        raise RuntimeError("the bell is cracked")

    monkeypatch.setattr("latespin.render.playing.hand_stage.HeldSound", crack)
    sound = noise(3.0)
    stage = Stage(player, request_of(track_of(sound), Stages()))
    stage.run(0.3)
    player.live.hand.press("a", HeldEffect(**NOWHERE))
    stage.run(0.3)
    player.live.hand.release("a")
    stage.run(0.1)
    assert player.live.hand.failure == "the bell is cracked"
    assert not player.live.hand.take_played()
    assert np.allclose(stage.sound[:, :20_000], sound[:, :20_000], atol=1e-6)
    assert "cannot be played" in caplog.text


def test_round_a_loop_a_hold_becomes_two_moves(player: Player) -> None:
    """Before the jump and after it, each within the loop; it sounds on meanwhile."""
    stage = Stage(player, request_of(track_of(noise(4.0)), Stages(), loop=(RATE, 2 * RATE)))
    player.seek(RATE)
    stage.run(0.8)
    player.live.hand.press("s", HeldSilence(**NOWHERE))
    stage.run(0.5)
    player.live.hand.release("s")
    stage.run(0.2)
    first, second = player.live.hand.take_played()
    assert first.stop == pytest.approx(2 * RATE, abs=1200)
    assert second.start == pytest.approx(RATE, abs=1200)
    assert (first.stop - first.start) + (second.stop - second.start) == pytest.approx(0.5 * RATE, abs=1200)


def test_a_quantised_repeat_keeps_its_slice_and_merged_takes_are_one() -> None:
    """Pressed at beat 4.3 for the eighth that ended at 4.0; on the beat it begins in that slice still."""
    repeat = HeldRepeat(id="a", take="t", value="1/8", back=1.6, start=Position(beat=4.3), end=Position(beat=5.3))
    on_grid = quantised(repeat, "1/4", 1.0, GRID)
    assert (on_grid.start.beat, on_grid.end.beat) == (4.0, 5.0)
    assert on_grid.start.beat - 0.5 * on_grid.back == pytest.approx(4.3 - 0.5 * 1.6)  # type: ignore[union-attr]
    half = quantised(repeat, "1/4", 0.5, GRID)
    assert half.start.beat == pytest.approx(4.15)
    assert quantised(repeat, "1/4", 1.0, None) == repeat
    lane = Lane(field="bell_db", points=tuple(LanePoint(at=Position(beat=b), value=b) for b in (1.0, 2.0)), played=True)
    over = Lane(
        field="bell_db", points=tuple(LanePoint(at=Position(beat=b), value=-b) for b in (1.5, 2.5)), played=True
    )
    base = Stages(colour=Colour(effects=(Eq(id="e"),)))
    one = with_take(base, Take(id="t", name="One"), [repeat], [("e", lane)])
    two = with_take(one, Take(id="u", name="Two"), [replace(repeat, id="b", take="u")], [("e", over)])
    both = merged(two, ["t", "u"])
    assert [take.name for take in both.moments.takes] == ["One"]
    assert {m.take for m in both.moments.placed} == {"t"}  # type: ignore[union-attr]
    assert deleted(both, "t") == base
    assert muted(muted(two, "u", False), "t", False).colour == base.colour


def replace_plan(programme: PlaybackRequest, gain_db: float) -> PlaybackRequest:
    """The same at another level."""
    return PlaybackRequest(programme.readers, programme.side, programme.stages, LevelPlan(gain_db=gain_db))


def replace_frames(move: PlayedMove, first: int) -> PlayedMove:
    """Counted from a frame on."""
    return PlayedMove(move.ident, move.moment, move.start - first, move.stop - first, move.programme)


def until_exact(player: Player, stage: Stage) -> None:
    """Play until what is heard is exact."""
    for _ in range(300):
        stage.run(0.02)
        time.sleep(0.005)
        if player.exact:
            stage.run(1.0)
            return
    raise AssertionError("it never became exact")
