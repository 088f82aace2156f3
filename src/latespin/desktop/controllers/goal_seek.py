"""Goal seek: find the stage settings that give a typed result."""

import math

from msgspec.structs import replace

from latespin.analysis.results import Key
from latespin.desktop.session.document import Document
from latespin.desktop.translation import tr
from latespin.model.text.describe import shift_semitones
from latespin.model.timing.beat_grid import Grid, grid_of_beats
from latespin.model.timing.tempo_curve import between, scaled_between, with_end
from latespin.model.timing.time_map import compile_time_map, fitted_speed
from latespin.model.values.key_names import parse_key, relative_tonic, spoken_key
from latespin.model.values.parameters import (
    ALLOWANCE,
    BEATS_PER_BAR,
    BPM,
    CEILING,
    FIRST_BEAT,
    SEMITONES,
    SPEED,
    TARGET,
    Parameter,
)
from latespin.model.values.units import clock, number, parse_length, parse_value
from latespin.model.version import Level, Stages, Time, speed_limits

LENGTH_ROUNDS = 12
LEAST_COST_SEMITONES = 0.2
LIMITED_DB_FOR_LU = 1.4  # decibels that a limiter has to take off more for one more loudness unit, about
GRID_ASKED = ("source-bpm", "first-beat", "beats", "beats-as")


def apply(document: Document, asked: str, text: str, marked: tuple[float, float] | None) -> None:
    """Edit the document so that it gives the typed result. Raises ValueError with the reason if that is impossible.

    asked : what :func:`solve` or :func:`solve_grid` know, or fit, the length of the marked range (seconds of Before).
    """
    if asked in GRID_ASKED:
        document.set_grid(tr("Track’s beats"), solve_grid(document, asked, text))
    elif asked == "fit":
        document.edit_stages(tr("Fit to a length"), fit_range(document, marked, text))
    else:
        document.edit_stages(tr("Ask for {0}").format(asked), solve(document, asked, text))


def side_effects(before: Stages, after: Stages) -> tuple[str, Stages, str] | None:
    """The side effect of an answer, the stages that avoid it, and their label; None without one.

    A speed that was asked for moves a linked pitch with it.
    """
    low, high = shift_semitones(after.time.heard)
    if before.time.speed == after.time.speed or after.time.pitch != "linked" or high - low > 0.05:
        return None
    moved = low - shift_semitones(before.time.heard)[0]
    if abs(moved) < LEAST_COST_SEMITONES:
        return None
    kept = replace(after.time, pitch="held", semitones=_fit(SEMITONES, shift_semitones(before.time.heard)[0]))
    far = number(abs(moved), 1)
    if moved < 0.0:
        says = tr("The pitch is {0} semitones lower than before: it follows the speed.").format(far)
    else:
        says = tr("The pitch is {0} semitones higher than before: it follows the speed.").format(far)
    return says, replace(after, time=kept), "Hold the pitch"


def kept_mode(document: Document, text: str) -> tuple[str, Stages, str] | None:
    """For a key of the other mode: a note on the key used instead, stages for the same tonic, and their label."""
    assert document.loaded is not None
    tonic, mode = parse_key(text)
    reading = document.reading
    if reading is None or not reading.keys or mode in (None, reading.keys[0].mode):
        return None
    own = reading.keys[0]
    names = [spoken_key(Key(tonic=at, mode=own.mode, confidence=1.0)) for at in (relative_tonic(tonic, mode), tonic)]
    asked = spoken_key(Key(tonic=tonic, mode=mode, confidence=1.0))
    says = tr("The song is in {0} and stays so: it is now in {1}, which has the notes of {2}.").format(
        tr("major") if own.mode == "major" else tr("minor"), names[0], asked
    )
    stages = document.stages
    return says, replace(stages, time=_in_key(document, stages.time, names[1])), f"{names[1]} instead"


def more_allowance(level: Level, reached_lufs: float, target_lufs: float) -> Level | None:
    """A Level stage whose limiter may do what a target needs, nearly; None where it may do all it can already."""
    needed = level.allowance_db + LIMITED_DB_FOR_LU * (target_lufs - reached_lufs)
    allowed = min(ALLOWANCE.high, math.ceil(2.0 * needed) / 2.0)
    return replace(level, allowance_db=allowed) if allowed > level.allowance_db else None


def solve(document: Document, asked: str, text: str) -> Stages:
    """The stages of the chosen version changed so that they give the result asked for.

    asked : percent, tempo (in BPM), length (of the music), total (with its tail), pitch, key, ratio, loudness, peak; start or end, the
    speeds there.
    Raises ValueError with what cannot be done, in words.
    """
    assert document.loaded is not None
    stages = document.stages
    time, level = stages.time, stages.level
    if asked == "loudness":
        level = replace(level, on=True, as_before=False, target_lufs=_fit(TARGET, parse_value(text, "LUFS")))
    elif asked == "peak":
        level = replace(level, on=True, ceiling_dbtp=_fit(CEILING, parse_value(text, "dBTP")))
    elif asked == "pitch":
        time = _at_pitch(time, parse_value(text, "st"))
    elif asked == "key":
        time = _in_key(document, time, text)
    elif asked == "ratio":
        ratio = parse_value(text, "×")
        if ratio <= 0.0:
            raise ValueError("A ratio is above 0; 2 is an octave up, 0.5 an octave down.")
        time = _at_pitch(time, 12.0 * math.log2(ratio))
    elif asked == "tempo":
        grid = document.grid
        if grid is None:
            raise ValueError("The track’s own BPM is not known yet. Type it in the header, in the row of Before.")
        bpm_at_speed_1 = grid.bpm * replace(time, on=True, speed=1.0, curve=()).speeds[0]
        time = replace(time, on=True, speed=_fit(speed_limits(time), parse_value(text, "BPM") / bpm_at_speed_1))
    elif asked in ("start", "end"):
        speed = _fit(SPEED, parse_value(text, "×"))
        time = replace(time, on=True, curve=with_end(time.curve, asked, _fit(SPEED, speed / time.speed)))  # type: ignore[arg-type]
    elif asked == "percent":
        time = replace(time, on=True, speed=_fit(speed_limits(time), parse_value(_in_per_cent(text), "×")))
    else:
        wanted = parse_length(text)
        tail = document.tail_seconds() if asked == "total" else 0.0
        if wanted <= tail:
            raise ValueError(
                f"The reverb tail alone lasts {number(tail, 1)} s. Ask for a longer version, or a shorter decay."
            )
        track = document.loaded.track
        speed = _speed_for_length(document, time, (wanted - tail) * track.rate)
        time = replace(time, on=True, speed=_fit(speed_limits(time), speed))
    return replace(stages, time=time, level=level)


def _in_per_cent(text: str) -> str:
    """A typed percentage, with its sign."""
    return text if text.strip().endswith("%") else f"{text} %"


def _speed_for_length(document: Document, time: Time, frames: float) -> float:
    """The speed at which the version, with its moments and ending, lasts ``frames``."""
    assert document.loaded is not None
    speed = fitted_speed(time, document.loaded.track.frames, frames)
    for _ in range(LENGTH_ROUNDS):
        if not speed_limits(time).low <= speed <= speed_limits(time).high:
            break
        made = document.time_map(replace(document.stages, time=replace(time, on=True, speed=speed)))
        if made is None or abs(made.after_frames - frames) <= 1.0:
            break
        speed *= made.after_frames / frames
    return speed


def _at_pitch(time: Time, semitones: float) -> Time:
    """A Time stage transposed so that its pitch, without a curve, is that far from the track's."""
    plain = replace(time, on=True, semitones=0.0, curve=())
    return replace(time, on=True, semitones=_fit(SEMITONES, semitones - shift_semitones(plain)[0]))


def _in_key(document: Document, time: Time, text: str) -> Time:
    """A Time stage transposed, the nearer way, so that the song is in a key, tuned to concert pitch.

    Of a key in the other mode than the song's, which a transposition cannot give, in its relative key.
    """
    reading = document.reading
    if reading is None or not reading.keys:
        raise ValueError(
            "The track’s own key is not known, so no key can be asked for. Type semitones as the pitch instead."
        )
    tonic, mode = parse_key(text)
    own_mode = reading.keys[0].mode
    if mode not in (None, own_mode):
        tonic = relative_tonic(tonic, mode)
    low, high = shift_semitones(replace(time, on=True))
    if high - low > 0.05:
        raise ValueError(
            "The pitch moves along the song here. Clear the tempo curve, or hold the pitch, to ask for a key."
        )
    own = reading.keys[0].tonic + reading.tuning_cents / 100.0
    away = (tonic - own - low + 6.0) % 12.0 - 6.0
    return _at_pitch(time, round(low + away, 2))


def fit_range(document: Document, marked: tuple[float, float] | None, text: str) -> Stages:
    """The stages whose curve gives the marked range (seconds of Before), or the whole song, the typed length.

    Raises ValueError with what cannot be done.
    """
    assert document.loaded is not None
    track, stages = document.loaded.track, document.stages
    if marked is None:
        return solve(document, "length", text)
    wanted = parse_length(text)
    if wanted <= 0.0:
        raise ValueError("A length is above zero, such as 0:08.")
    time = replace(stages.time, on=True)
    time_map = compile_time_map(time, track.frames, track.rate)
    first, last = (seconds * track.rate for seconds in marked)
    lasts = (time_map.after_at(last) - time_map.after_at(first)) / track.rate
    start, stop = first / track.frames, last / track.frames
    low, high = replace(time, curve=between(time.curve, start, stop)).speeds
    if not (SPEED.low <= low * lasts / wanted and high * lasts / wanted <= SPEED.high):
        shortest, longest = (clock(lasts * speed / limit, 1) for speed, limit in ((high, SPEED.high), (low, SPEED.low)))
        raise ValueError(f"That range can last {shortest} to {longest}, not {clock(wanted, 1)}.")
    return replace(stages, time=replace(time, curve=scaled_between(time.curve, start, stop, lasts / wanted)))


def solve_grid(document: Document, asked: str, text: str) -> Grid:
    """The grid with a typed fact: source-bpm, first-beat or beats; or another way to hear the beats, by its number. Raises ValueError."""
    grid = document.grid
    if asked == "source-bpm":
        bpm = _fit(BPM, parse_value(text, "BPM"))
        return grid.steady(bpm) if grid else Grid(bpm=bpm)
    if asked == "beats-as" and document.reading is not None:
        return grid_of_beats(document.reading.ways[int(text)])
    if grid is None:
        raise ValueError("Type the track’s BPM first.")
    if asked == "first-beat":
        return grid.shifted(_fit(FIRST_BEAT, parse_length(text)) - grid.first_beat_seconds)
    return replace(grid, beats_per_bar=round(_fit(BEATS_PER_BAR, parse_value(text, ""))))


def _fit(parameter: Parameter, value: float) -> float:
    if not parameter.low <= value <= parameter.high:
        raise ValueError(
            f"That would need {parameter.label.lower()} {number(value, parameter.decimals)} {parameter.unit}; "
            f"it can be {number(parameter.low, 2)} to {number(parameter.high, 2)} {parameter.unit}."
        )
    return value
