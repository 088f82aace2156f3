"""What was played along to the demo song for *Relay race*: a performance on the practice surface, and the take it becomes."""

from pathlib import Path

import mido
from msgspec.structs import replace

from latespin.jobs import Quietly
from latespin.media.midi.midi_files import performance_bytes, read_performance
from latespin.media.track import open_track
from latespin.model.moments.held import Held
from latespin.model.playing.surface_map import practice_map
from latespin.model.timing.beat_grid import Grid
from latespin.model.version import Stages
from latespin.render.chain.renderer import TrackRenderer
from latespin.render.playing.performance import TimedMessage, performed

MOVES, TAKE = "late-moves.mid", "Take 1"
LATE_SECONDS = 0.012  # behind the grid, as hands are
#: First and last beat of the song, and the note of the pad that is held between them.
HELD = (
    (30.0, 31.0, 37), (31.0, 32.0, 38), (46.0, 48.0, 42), (63.5, 64.0, 43), (79.0, 80.0, 49), (94.0, 95.0, 36), (95.0, 95.5, 39),
    (95.5, 96.0, 41), (110.0, 112.0, 46), (126.0, 128.0, 44),
)  # fmt: skip
SWEEP = (64.0, 72.0, 80.0, 20)  # beats between which a control goes down and up again


def write_moves(file: Path, grid: Grid, speed: float) -> None:
    """Write the performance, by seconds of the version."""

    def at(beat: float) -> float:
        return float(grid.seconds_of(beat)) / speed + LATE_SECONDS

    messages = [(at(start), mido.Message("note_on", note=note, velocity=100)) for start, _, note in HELD]
    messages += [(at(end), mido.Message("note_on", note=note, velocity=0)) for _, end, note in HELD]
    begin, turn, end, control = SWEEP
    for step in range(65):
        beat = begin + (end - begin) * step / 64.0
        value = 127 - round(100 * (1.0 - abs(beat - turn) / (turn - begin)))
        messages.append((at(beat), mido.Message("control_change", control=control, value=value)))
    file.write_bytes(performance_bytes(messages, "Relay race"))


def with_moves(stages: Stages, song: Path, grid: Grid, file: Path) -> Stages:
    """The version with the performance as a take whose ids are the same every time."""
    readers = TrackRenderer(open_track(song, Quietly()), grid)
    messages = [TimedMessage(seconds, message) for seconds, message in read_performance(file)]
    made = performed(stages, readers, messages, practice_map(), TAKE)
    (take,) = made.moments.takes
    held = [moment for moment in made.moments.placed if isinstance(moment, Held)]
    named = {number + 36: pad.title for number, pad in enumerate(practice_map().pads)}
    placed = tuple(
        replace(moment, id=f"move-{i + 1}", take="relay-take", label=named[note])
        for i, (moment, (_, _, note)) in enumerate(zip(held, HELD, strict=True))
    )
    return replace(made, moments=replace(made.moments, placed=placed, takes=(replace(take, id="relay-take"),)))
