"""Renders pieces with known beats for fitting and testing the reading; development only.

Run ``.venv/bin/python tools/make_reading_corpus.py FOLDER [PIECES] [NOTES] [WAD …]``. It needs Debian's ``fluidsynth`` and ``fluid-soundfont-gm``. It writes
NAME.flac (mono, 22 050 Hz) beside NAME.json into FOLDER/first and FOLDER/second, one for each half of the styles; PIECES is the number of seeds per style. Styles with drawn rhythms
go into FOLDER/drawn, with four times that number; from NOTES, a folder that
``notated_scores.py`` has filled, into FOLDER/notated-first and FOLDER/notated-second; from the music in game data of Debian's ``freedoom`` into FOLDER/sequenced.
"""

import json
import subprocess
import sys
import tempfile
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path

import mido
import numpy as np
import soundfile
from scipy.signal import resample_poly

from accompanied_scores import lumps, notated, sequenced
from drawn_scores import KINDS, drawn_style
from reading_scores import FIRST_HALF, SECOND_HALF, Score, composed

SOUND_FONT = "/usr/share/sounds/sf2/FluidR3_GM.sf2"
TICKS = 480  # to half a second
DRUMS = 9
NAMES = ("C", "C#", "D", "Eb", "E", "F", "F#", "G", "Ab", "A", "Bb", "B")


def main() -> None:
    """Render all styles, notated pieces and sequenced pieces."""
    folder, count = Path(sys.argv[1]), int(sys.argv[2]) if len(sys.argv) > 2 else 12
    jobs = []
    for half, styles in (("first", FIRST_HALF), ("second", SECOND_HALF)):
        (folder / half).mkdir(parents=True, exist_ok=True)
        jobs += [(folder / half, name, style, seed) for name, style in styles.items() for seed in range(count)]
    jobs += [(folder / "drawn", kind, drawn_style(kind, seed), seed) for kind in KINDS for seed in range(4 * count)]
    notes = sorted(Path(sys.argv[3]).glob("*.notes.json")) if len(sys.argv) > 3 else []
    jobs += [(folder / ("notated-first", "notated-second")[i % 2], path, None, i) for i, path in enumerate(notes)]
    for wad in map(Path, sys.argv[4:]):
        jobs += [(folder / "sequenced", f"{wad.stem}-{name}", data, 0) for name, data in lumps(wad).items()]
    with ProcessPoolExecutor() as pool:
        for done, _ in enumerate(pool.map(made, jobs), 1):
            print(f"\r{done} of {len(jobs)}", end="", flush=True)
    print()


def made(job: tuple) -> None:  # type: ignore[type-arg]
    """One piece."""
    folder, name, style, seed = job
    folder.mkdir(parents=True, exist_ok=True)
    if isinstance(name, Path):
        write(notated(name, seed), folder / f"{name.name.split('.')[0]}.flac", seed)
    elif isinstance(style, bytes):
        score = sequenced(style, name)
        if score is not None:
            write(score, folder / f"{name}.flac", seed)
    else:
        write(composed(name, style, seed), folder / f"{name}-{seed}.flac", seed)


def write(score: Score, target: Path, seed: int) -> None:
    """The sound, with a little of a room, and what is known of it."""
    sound = played(score)
    sound *= 0.3 / np.sqrt(np.mean(sound**2)) * 10 ** (np.random.default_rng(seed).uniform(-8, 0) / 20)
    soundfile.write(target, np.clip(sound, -1.0, 1.0), 22_050, subtype="PCM_16")
    tonic, mode = score.key.split() if score.key else ("0", "")
    ends = [*(float(score.times[at]) for _, at in score.sections[1:]), float(score.times[-1])] if score.sections else []
    known = {
        "beats": score.beats.round(4).tolist(), "downbeats": score.downbeats.round(4).tolist(), "metre": score.beats_per_bar,
        "key": f"{NAMES[int(tonic)]} {mode}" if mode else "", "style": score.style, **rhythm_of(score),
        "sections": [{"label": letter, "start": round(float(score.times[at]), 3), "end": round(end, 3)} for (letter, at), end in zip(score.sections, ends, strict=True)],
    }  # fmt: skip
    target.with_suffix(".json").write_text(json.dumps(known))


def rhythm_of(score: Score) -> dict[str, float | None]:
    """Where off-beats swing to, 0.5 for straight ones, and the bar line from which drums play; None where they do from the first two bars on, or never."""
    struck = [event.at for event in score.events if event.channel == DRUMS]
    bars = score.downbeats
    bar = int(np.searchsorted(bars, score.seconds_at(min(struck)) + 0.1)) - 1 if struck else 0
    return {"swing": round(score.swing, 3), "drums_enter": round(float(bars[bar]), 3) if bar >= 2 else None}


def played(score: Score) -> np.ndarray:
    """Mono sound at 22 050 Hz."""
    with tempfile.TemporaryDirectory() as folder:
        song, wav = Path(folder) / "a.mid", Path(folder) / "a.wav"
        midi_of(score).save(song)
        subprocess.run(
            ["fluidsynth", "-ni", "-q", "-r", "44100", "-g", "0.6", "-F", str(wav), SOUND_FONT, str(song)],
            check=True, capture_output=True,
        )  # fmt: skip
        sound, _ = soundfile.read(wav, dtype="float32", always_2d=True)
    end = round((score.times[-1] + 2.5) * 44_100)
    return np.asarray(resample_poly(sound[:end].mean(axis=1), 1, 2))


def midi_of(score: Score) -> mido.MidiFile:
    """The score as a MIDI file at 120 BPM, so that a tick is a fixed time."""
    messages = []
    for event in score.events:
        start = score.seconds_at(event.at)
        stop = max(start + 0.05, score.seconds_at(event.at + event.lasts))
        messages.append(
            (start, 1, mido.Message("note_on", channel=event.channel, note=event.number, velocity=event.velocity))
        )
        messages.append((stop, 0, mido.Message("note_off", channel=event.channel, note=event.number)))
    messages.sort(key=lambda message: message[:2])
    track, now = mido.MidiTrack(), 0
    for channel, program in score.programs.items():
        track.append(mido.Message("program_change", channel=channel, program=program))
    for seconds, _, message in messages:
        tick = round(seconds * 2 * TICKS)
        track.append(message.copy(time=max(0, tick - now)))
        now = max(now, tick)
    return mido.MidiFile(tracks=[track], ticks_per_beat=TICKS)


if __name__ == "__main__":
    main()
