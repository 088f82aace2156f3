"""Control surfaces: maps, messages, learning, the socket and the sequencer, MIDI clock, and performances from files."""

import os
import socket
import sys
import tempfile
import time
from pathlib import Path
from types import SimpleNamespace
from typing import Any, ClassVar

import mido
import msgspec
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from latespin.errors import Unreadable, Unusable
from latespin.media.midi import ports
from latespin.media.midi.clock import MidiClock
from latespin.media.midi.midi_files import performance_bytes, read_performance, write_performance
from latespin.media.midi.ports import Surfaces
from latespin.media.midi.surface_link import SurfaceLink
from latespin.media.midi.surface_reader import KnobEvent, PadEvent, SurfaceReader, learnt, light
from latespin.media.midi.surface_socket import SurfaceSocket, connect, socket_path
from latespin.media.storage.config import all_surfaces, keep_surface, load_surface
from latespin.model.effects.effects import Eq, Hall
from latespin.model.moments.held import HeldEffect, HeldRepeat
from latespin.model.playing.surface_map import (
    EffectTarget,
    Knob,
    Source,
    SurfaceMap,
    nowhere,
    practice_map,
    read_surface,
    to_json,
)
from latespin.model.timing.beat_grid import Grid
from latespin.model.version import Colour, Stages
from latespin.render.chain.renderer import TrackRenderer
from latespin.render.playing.live_controls import LiveControls
from latespin.render.playing.performance import TimedMessage, performed
from latespin.render.playing.performer import Performer
from latespin.render.playing.take_files import messages_of
from tests.conftest import noise, track_of

RATE = 44_100
GRID = Grid(bpm=120.0)


def note(number: int, velocity: int = 100, channel: int = 0) -> mido.Message:
    return mido.Message("note_on", note=number, velocity=velocity, channel=channel)


def control(number: int, value: int, channel: int = 0) -> mido.Message:
    return mido.Message("control_change", control=number, value=value, channel=channel)


def knob_map(source: Source) -> SurfaceMap:
    """A map of one knob."""
    return SurfaceMap(name="one", title="One", pads=(), knobs=(Knob(source=source),))


@pytest.fixture(autouse=True)
def _own_folders(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """A socket and a configuration folder of the test's own."""
    (tmp_path / "run").mkdir(mode=0o700)
    monkeypatch.setenv("XDG_RUNTIME_DIR", str(tmp_path / "run"))
    monkeypatch.setenv("LATESPIN_CONFIG", str(tmp_path / "config"))


def until(condition: Any, seconds: float = 10.0) -> None:
    """Wait for a state."""
    end = time.monotonic() + seconds
    while not condition():
        assert time.monotonic() < end, "it never came to that"
        time.sleep(0.002)


# -- maps ------------------------------------------------------------------------------------------------------------


def test_the_practice_map_has_its_pads_and_knobs_and_survives_its_file() -> None:
    surface = practice_map()
    assert [pad.source for pad in surface.pads] == [Source(kind="note", number=36 + i) for i in range(16)]
    assert [knob.source for knob in surface.knobs] == [Source(kind="control", number=20 + i) for i in range(8)]
    assert read_surface(to_json(surface), "again.json") == surface
    assert b'"start"' not in to_json(surface), "pads have no place"


def test_own_maps_are_kept_found_and_never_overwritten_unasked() -> None:
    own = replace(practice_map(), name="rink", title="The rink")
    keep_surface(own)
    assert load_surface("rink") == own
    assert [surface.title for surface in all_surfaces()] == ["Practice surface", "The rink"]
    with pytest.raises(Exception, match="rink"):
        keep_surface(own)
    with pytest.raises(Unreadable, match=r"no map “pond”.* practice, rink"):
        load_surface("pond")


def spoilt(*path: str | int, value: Any) -> bytes:
    """The practice map with one value replaced."""
    plain = msgspec.json.decode(to_json(practice_map()))
    place = plain
    for step in path[:-1]:
        place = place[step]
    place[path[-1]] = value
    return msgspec.json.encode(plain)


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (b"\xff{", "not JSON"),
        (b"[1]", "its format should be"),
        (spoilt("format_version", value=9), "format_version 9"),
        (spoilt("pads", 3, "source", "number", value=200), r"pads\[3\].source.number"),
        (spoilt("pads", 0, "move", "kind", value="held-kazoo"), r"pads\[0\].move"),
        (spoilt("pads", 5, "move", "slice_ms", value=1e9), r"pads\[5\].*slice_ms is 1e\+09 ms; it can be 4 to 2000"),
        (spoilt("knobs", 1, "target", "effect", value="kazoo"), "there is no effect “kazoo”"),
        (spoilt("knobs", 1, "target", "field", value="colour"), "“colour” of eq cannot be turned"),
        (spoilt("knobs", 1, "source", value={"kind": "control-14", "number": 90}), "14 bits has 0 to 31"),
        (spoilt("pads", value=msgspec.json.decode(to_json(practice_map()))["pads"] * 2), "up to 16"),
        (spoilt("wheels", value=[]), "wheels"),
    ],
)
def test_a_map_that_is_wrong_is_refused_by_the_name_of_the_field(data: bytes, says: str) -> None:
    with pytest.raises(Unreadable, match=says):
        read_surface(data, "map.json")


# -- messages --------------------------------------------------------------------------------------------------------


def test_notes_press_and_let_go_and_control_changes_turn() -> None:
    reader = SurfaceReader(practice_map())
    assert reader.read(note(36)) == [PadEvent(0, held=True)]
    assert reader.read(note(36, 0)) == [PadEvent(0, held=False)]
    assert reader.read(mido.Message("note_off", note=51)) == [PadEvent(15, held=False)]
    assert reader.read(control(22, 127)) == [KnobEvent(2, 1.0)]
    assert reader.read(note(35)) == reader.read(control(7, 1)) == reader.read(mido.Message("sysex", data=[1])) == []


def test_wider_controls_bend_and_steps() -> None:
    fine = SurfaceReader(knob_map(Source(kind="control-14", number=3, channel=2)))
    assert fine.read(control(3, 64)) == [], "another channel"
    assert fine.read(control(3, 64, 1)) == [KnobEvent(0, 128 * 64 / 16383)]
    assert fine.read(control(35, 5, 1)) == [KnobEvent(0, (128 * 64 + 5) / 16383)]
    bend = SurfaceReader(knob_map(Source(kind="pitch-bend")))
    assert [bend.read(mido.Message("pitchwheel", pitch=p))[0].share for p in (-8192, 8191)] == [0.0, 1.0]
    steps = SurfaceReader(knob_map(Source(kind="relative", number=9)))
    assert [steps.read(control(9, v))[0].by * 128 for v in (1, 3, 127, 120)] == [1, 3, -1, -8]


@pytest.mark.parametrize(
    ("messages", "knob", "found"),
    [
        ([note(40, channel=9)], False, Source(kind="note", number=40, channel=10)),
        ([control(30, 127)], False, Source(kind="control", number=30, channel=1)),
        ([control(20, v) for v in (50, 51, 53)], True, Source(kind="control", number=20, channel=1)),
        ([control(20, v) for v in (1, 2, 4, 5)], True, Source(kind="control", number=20, channel=1)),
        ([control(20, v) for v in (1, 1, 2, 1)], True, Source(kind="relative", number=20, channel=1)),
        ([control(20, v) for v in (127, 127, 1, 126)], True, Source(kind="relative", number=20, channel=1)),
        ([control(5, 3), control(37, 60), control(5, 3)], True, Source(kind="control-14", number=5, channel=1)),
        ([mido.Message("pitchwheel", pitch=9, channel=1)], True, Source(kind="pitch-bend", channel=2)),
        ([note(40), control(20, 9)], True, Source(kind="control", number=20, channel=1)),
        ([mido.Message("clock"), note(40, 0)], False, None),
    ],
)
def test_what_a_pad_or_knob_sends_is_learnt(messages: list[mido.Message], knob: bool, found: Source | None) -> None:
    assert learnt(messages, knob=knob) == found


def test_a_source_belongs_to_one_pad_or_knob_only_and_lights_it() -> None:
    source = Source(kind="note", number=60, channel=3)
    surface = practice_map().with_pad(2, replace(practice_map().pads[2], source=source))
    surface = surface.with_pad(5, replace(surface.pads[5], source=source))
    assert [pad.source for pad in surface.pads].count(source) == 1
    assert light(source, True) == note(60, 127, 2)
    assert light(source, False) == note(60, 0, 2)
    assert light(Source(kind="control", number=9), True) == control(9, 127)
    assert light(Source(kind="pitch-bend"), True) is None


def test_clock_messages_give_the_tempo() -> None:
    clock = MidiClock()
    for i in range(60):
        clock.tick(10.0 + i * 60.0 / 93.7 / 24.0)
    last = 10.0 + 59 * 60.0 / 93.7 / 24.0
    assert clock.bpm(last) == pytest.approx(93.7, abs=0.05)
    assert clock.bpm(last + 2.0) is None, "it has stopped"
    clock.tick(last + 5.0)
    assert clock.bpm(last + 5.0) is None, "a pause begins anew"


# -- knobs and pads --------------------------------------------------------------------------------------------------


class Noted:
    """A hand that notes what it is asked."""

    def __init__(self) -> None:
        self.asked: list[tuple[str, ...]] = []

    def press(self, ident: str, moment: object, *, coming: bool = False) -> None:
        self.asked.append(("press", ident))

    def release(self, ident: str) -> None:
        self.asked.append(("release", ident))

    def cut(self, ident: str, value: str) -> None:
        self.asked.append(("cut", ident, value))


def performer_on(surface: SurfaceMap, *effects: Any) -> tuple[Performer, Noted, LiveControls]:
    hand = Noted()
    controls = LiveControls(frozenset((effect.id, "amount_percent") for effect in effects))
    return Performer(surface, hand, controls, lambda: effects), hand, controls


def test_a_knob_never_jumps_and_one_without_ends_goes_on_from_where_the_control_is() -> None:
    target = EffectTarget(effect="hall", field="amount_percent")
    absolute = SurfaceMap(name="a", title="A", pads=(), knobs=(Knob(target=target),))
    performer, _, controls = performer_on(absolute, Hall(id="h", amount_percent=40.0))
    place = "h", "amount_percent"
    for share, value in ((0.9, None), (0.8, None), (0.35, 35.0), (0.2, 20.0)):
        performer.turn(KnobEvent(0, share))
        assert controls.value(place) == (None if value is None else pytest.approx(value))
    performer.forget_knobs()
    controls.turn(place, 70.0)
    performer.turn(KnobEvent(0, 0.3))
    assert controls.value(place) == 70.0
    performer.turn(KnobEvent(0, None, 0.1))
    assert controls.value(place) == pytest.approx(80.0)
    performer.turn(KnobEvent(0, None, 9.0))
    assert controls.value(place) == 100.0
    performer.turn(KnobEvent(7, 0.5))


def test_pads_hold_latch_and_repeats_are_cut_by_a_knob() -> None:
    surface = practice_map()
    latched = surface.with_pad(1, replace(surface.pads[1], latched=True))
    performer, hand, _ = performer_on(latched)
    for event in (PadEvent(0, True), PadEvent(1, True), PadEvent(1, False), PadEvent(0, False), PadEvent(99, True)):
        performer.handle(event)
    assert hand.asked == [("press", "pad 0"), ("press", "pad 1"), ("release", "pad 0")]
    performer.handle(KnobEvent(7, 0.7))
    assert hand.asked[-1] == ("cut", "pad 1", "1/16t")
    performer.handle(KnobEvent(7, 0.71))
    performer.handle(PadEvent(1, True))
    assert hand.asked[-2:] == [("cut", "pad 1", "1/16t"), ("release", "pad 1")]


# -- connections -----------------------------------------------------------------------------------------------------


def test_messages_go_both_ways_over_the_socket_and_a_surface_may_come_and_go() -> None:
    heard: list[tuple[str, mido.Message]] = []
    lights: list[mido.Message] = []
    listening = SurfaceSocket(lambda name, message: heard.append((name, message)), lambda: None)
    link = SurfaceLink(lights.append, lambda: None)
    until(lambda: link.connected and listening.names)
    link.send(note(36))
    link.send(control(20, 99))
    until(lambda: len(heard) == 2)
    (name,) = listening.names
    assert heard == [(name, note(36)), (name, control(20, 99))]
    listening.send(name, note(36, 127))
    until(lambda: lights)
    assert lights == [note(36, 127)]
    link.close()
    until(lambda: not listening.names)
    listening.send(name, note(36, 0))
    listening.close()
    assert not socket_path().exists()


@given(st.binary(max_size=200))
def test_bytes_that_are_no_messages_are_passed_over(data: bytes) -> None:
    parser = mido.Parser()
    parser.feed(data)
    reader = SurfaceReader(practice_map())
    for message in parser:
        reader.read(message)


def test_a_second_listener_says_why_and_a_socket_left_behind_is_taken_over() -> None:
    first = SurfaceSocket(lambda *_: None, lambda: None)
    second = SurfaceSocket(lambda *_: None, lambda: None)
    assert not first.problem
    assert second.problem
    second.close()
    first.close()
    with socket.socket(socket.AF_UNIX, socket.SOCK_STREAM) as left:
        left.bind(str(socket_path()))
    third = SurfaceSocket(lambda *_: None, lambda: None)
    assert not third.problem
    with connect() as surface:
        surface.sendall(b"\x00\xff\xf4garbage\x90\x24")
        surface.sendall(b"\x40")
    third.close()
    with pytest.raises(OSError, match=r"."):
        connect()


def test_without_a_runtime_folder_nothing_is_printed_and_a_folder_that_cannot_be_is_said(
    monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    monkeypatch.delenv("XDG_RUNTIME_DIR")
    monkeypatch.setenv("TMPDIR", str(tmp_path))
    monkeypatch.setattr(tempfile, "tempdir", None)
    assert socket_path().parts[-2:] == ("late-spin", "surface.sock")
    monkeypatch.setattr("latespin.media.midi.surface_socket.socket_path", refuse)
    deaf = SurfaceSocket(lambda *_: None, lambda: None)
    assert "no room at the rink" in deaf.problem
    deaf.close()


def refuse() -> Path:
    """A runtime folder that is not private."""
    raise PermissionError(1, "no room at the rink")


class FakeMidi:
    """A sequencer port as python-rtmidi has them, with devices that a test plugs in."""

    there: tuple[str, ...] = ()
    broken: ClassVar[set[str]] = set()
    inputs: ClassVar[dict[str, "FakeMidi"]] = {}
    sent: ClassVar[list[list[int]]] = []

    def __init__(self, *_: object) -> None:
        self.callback: Any = None

    def get_ports(self) -> list[str]:
        return list(self.there)

    def open_port(self, number: int) -> None:
        if self.there[number] in self.broken:
            raise RuntimeError("in use")
        FakeMidi.inputs.setdefault(self.there[number], self)

    def set_callback(self, callback: Any) -> None:
        self.callback = callback

    def send_message(self, data: list[int]) -> None:
        FakeMidi.sent.append(data)

    def ignore_types(self, **_: bool) -> None: ...
    def close_port(self) -> None: ...
    def delete(self) -> None: ...


def test_devices_of_the_sequencer_are_plugged_in_heard_lit_and_pulled_out(
    monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    fake = SimpleNamespace(MidiIn=FakeMidi, MidiOut=FakeMidi, API_LINUX_ALSA=1)
    monkeypatch.setitem(sys.modules, "rtmidi", fake)
    monkeypatch.setattr(ports, "SEQUENCER", tmp_path)
    monkeypatch.setattr(ports, "LOOK_SECONDS", 0.01)
    FakeMidi.there, FakeMidi.inputs, FakeMidi.sent = ("Midi Through 14:0", "Sixteen pads 20:0"), {}, []
    heard: list[tuple[str, mido.Message]] = []
    surfaces = Surfaces(lambda name, message: heard.append((name, message)), lambda: None)
    until(lambda: surfaces.names == ("Sixteen pads 20:0",))
    FakeMidi.inputs["Sixteen pads 20:0"].callback(([0x90, 36, 90], 0.0), None)
    assert heard == [("Sixteen pads 20:0", note(36, 90))]
    surfaces.send("Sixteen pads 20:0", note(36, 127))
    assert FakeMidi.sent == [[0x90, 36, 127]]
    FakeMidi.there = ()
    until(lambda: not surfaces.names)
    surfaces.send("Sixteen pads 20:0", note(36, 127))
    FakeMidi.there, FakeMidi.broken = ("Broken wheel 24:0", "Eight knobs 28:0"), {"Broken wheel 24:0"}
    until(lambda: surfaces.names == ("Eight knobs 28:0",))
    FakeMidi.broken = set()
    until(lambda: len(surfaces.names) == 2)
    surfaces.close()
    assert not surfaces.names


def test_a_computer_without_a_sequencer_or_rights_to_it_is_told_so(
    monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    monkeypatch.setattr(ports, "SEQUENCER", tmp_path / "seq")
    assert "no ALSA sequencer" in ports.sequencer_problem()
    monkeypatch.setattr(ports, "SEQUENCER", tmp_path)

    def refuse(*_: object) -> None:
        raise RuntimeError("denied")

    monkeypatch.setitem(sys.modules, "rtmidi", SimpleNamespace(MidiIn=refuse, API_LINUX_ALSA=1))
    assert "group “audio”" in ports.sequencer_problem()
    monkeypatch.setitem(sys.modules, "rtmidi", None)
    assert "python-rtmidi is missing" in ports.sequencer_problem()


# -- files -----------------------------------------------------------------------------------------------------------


def test_a_performance_survives_its_file_and_follows_a_tempo_map(tmp_path: Path) -> None:
    played = [(0.25, note(36)), (0.75, note(36, 0)), (0.75, control(20, 3)), (10.0, note(37))]
    write_performance(tmp_path / "take.mid", played, "Late session ♪")
    again = read_performance(tmp_path / "take.mid")
    assert [message for _, message in again] == [message for _, message in played]
    assert [seconds for seconds, _ in again] == pytest.approx([seconds for seconds, _ in played], abs=0.0006)
    tempi, notes = mido.MidiTrack(), mido.MidiTrack()
    tempi += [mido.MetaMessage("set_tempo", tempo=1_000_000), mido.MetaMessage("set_tempo", tempo=250_000, time=480)]
    notes += [note(36).copy(time=480), note(36, 0).copy(time=480)]
    file = mido.MidiFile(type=1, ticks_per_beat=480, tracks=[tempi, notes])
    file.save(tmp_path / "two.mid")
    assert [seconds for seconds, _ in read_performance(tmp_path / "two.mid")] == pytest.approx([1.0, 1.25])


@pytest.mark.parametrize("data", [b"", b"MThd", os.urandom(300), performance_bytes([], "nothing")])
def test_files_that_are_no_performance_are_refused(data: bytes, tmp_path: Path) -> None:
    (tmp_path / "a.mid").write_bytes(data)
    with pytest.raises(Unreadable, match=r"a\.mid .* Choose (another|a) file"):
        read_performance(tmp_path / "a.mid")


def timed(*messages: tuple[float, mido.Message]) -> list[TimedMessage]:
    return [TimedMessage(seconds, message) for seconds, message in messages]


def test_a_performance_becomes_moves_and_automation_where_it_was_played() -> None:
    stages = Stages(colour=Colour(effects=(Eq(id="e"), Hall(id="h", amount_percent=0.0))))
    readers = TrackRenderer(track_of(noise(6.0)), GRID)
    script = timed(
        (1.05, note(37)), (1.5, note(37, 0)), (2.0, note(46)), (2.5, note(46, 0)),
        (3.0, control(22, 1)), (3.1, control(22, 60)), (3.5, control(22, 127)), (5.9, note(50)), (7.0, note(36)),
    )  # fmt: skip
    made = performed(stages, readers, script, practice_map(), "Closing time")
    repeat, muffle, throw = readers.arrangement(made).held
    assert (repeat.start, repeat.stop) == (round(1.05 * RATE), round(1.5 * RATE))
    assert isinstance(repeat.moment, HeldRepeat)
    assert repeat.moment.back == pytest.approx(1.2, abs=1e-3), "pressed a fifth of an eighth after it had sounded"
    assert isinstance(muffle.moment, HeldEffect)
    assert throw.stop == 6 * RATE, "what is still held ends with the song"
    hall = made.colour.find("h")
    assert hall is not None
    (lane,) = hall.lanes
    values = [(round(point.at.beat * 0.5, 2), round(point.value)) for point in lane.points]
    assert values[-1][1] == 100
    assert any(seconds == pytest.approx(3.13, abs=0.05) and value == 47 for seconds, value in values)
    (take,) = made.moments.takes
    assert take.name == "Closing time"
    with pytest.raises(Unusable, match=r"No message of moves\.mid is in the map"):
        performed(stages, readers, timed((1.0, note(1))), practice_map(), "moves.mid")


def test_a_take_survives_a_midi_file(tmp_path: Path) -> None:
    """The moves come back to the frame, whatever the clock of the file; a knob within a step of its seven bits."""
    stages = Stages(colour=Colour(effects=(Eq(id="e"), Hall(id="h", amount_percent=0.0))))
    readers = TrackRenderer(track_of(noise(6.0)), GRID)
    script = timed(
        (1.1, note(37)), (1.5, note(37, 0)), (2.0, note(46)), (2.5, note(46, 0)), (3.0, control(22, 2)),
        *((3.1 + 0.05 * i, control(22, 2 + 5 * i)) for i in range(20)), (4.5, note(41)), (4.8, note(41, 0)),
    )  # fmt: skip
    made = performed(stages, readers, script, practice_map(), "Take 1")
    (take,) = made.moments.takes
    messages, missing = messages_of(made, readers, practice_map(), take.id)
    assert missing == 0
    write_performance(tmp_path / "take.mid", messages, "Take 1")
    read = [TimedMessage(seconds, message) for seconds, message in read_performance(tmp_path / "take.mid")]
    again = performed(stages, readers, read, practice_map(), "Take 1")
    before, after = (readers.arrangement(version).held for version in (made, again))
    assert [type(placed.moment) for placed in after] == [type(placed.moment) for placed in before]
    edges = np.array([[(p.start, p.stop) for p in held] for held in (before, after)])
    assert np.abs(edges[0] - edges[1]).max() <= 12, "a quarter of a millisecond"
    lanes = [version.colour.find("h").lanes[0] for version in (made, again)]  # type: ignore[union-attr]
    beats = np.linspace(6.3, 8.0, 40)
    curves = [np.interp(beats, [p.at.beat for p in lane.points], [p.value for p in lane.points]) for lane in lanes]
    assert np.abs(curves[0] - curves[1]).max() < 3.0
    other = practice_map().with_pad(1, replace(practice_map().pads[1], move=nowhere(HeldRepeat, value="1/4d")))
    assert messages_of(made, readers, other, take.id)[1] == 1, "no pad of that map plays the repeat"


def test_the_command_plays_a_file_on_a_song(here: Any, tmp_path: Path) -> None:
    import soundfile

    sound = noise(4.0)
    soundfile.write(tmp_path / "song.wav", sound.T, RATE, subtype="FLOAT")
    write_performance(tmp_path / "moves.mid", [(1.0, note(51)), (2.0, note(51, 0))], "moves")
    done = here(
        "perform",
        tmp_path / "song.wav",
        tmp_path / "moves.mid",
        tmp_path / "out.wav",
        "--source-bpm",
        "120",
        "--loudness",
        "off",
    )
    assert done.returncode == 0, done.stderr
    out = soundfile.read(tmp_path / "out.wav", always_2d=True)[0].T
    assert np.allclose(out[:, :RATE], sound[:, :RATE], atol=1e-6)
    assert not out[:, RATE + 200 : 2 * RATE].any(), "note 51 is silence"
    assert np.allclose(out[:, 2 * RATE + 200 :], sound[:, 2 * RATE + 200 :], atol=1e-6)
    refused = here("perform", tmp_path / "song.wav", tmp_path / "moves.mid", tmp_path / "moves.mid", "--overwrite")
    assert refused.returncode == 2
