"""How good the stretch is: signals with a computed right answer at five length ratios and four shifts.

Figures: rise of attacks, pre-echo, stutter, place of hits, tempo drift, pitch and flutter of steady partials, a sweep,
the phase between channels, the crest of voices, partials 17 Hz apart, a tone that begins at once, and speed. ``--character NAME`` for another than the full mix.
"""

import sys
import time
from pathlib import Path

import numpy as np
from numpy.typing import NDArray
from scipy.signal import butter, fftconvolve, firwin, hilbert, sosfiltfilt

import stretch_signals as signals
from latespin.media.track import Track
from latespin.model.version import Time
from latespin.render.sources.music_reader import MusicReader
from stretch_signals import RATE, Wave

RATIOS = (0.67, 0.8, 1.25, 1.5, 2.0)
SHIFTS = (-5.0, -3.0, 4.0, 7.0)
CHARACTER = sys.argv[sys.argv.index("--character") + 1] if "--character" in sys.argv else "full-mix"
SECONDS = 12.0


def stretched(sound: NDArray[np.float32], length_ratio: float) -> NDArray[np.float64]:
    """The sound made ``length_ratio`` times as long, pitch held."""
    return changed(sound, Time(speed=1 / length_ratio, pitch="held", character=CHARACTER))  # type: ignore[arg-type]


def shifted(sound: NDArray[np.float32], semitones: float) -> NDArray[np.float64]:
    """The sound transposed, its length kept."""
    return changed(sound, Time(pitch="held", semitones=semitones, character=CHARACTER))  # type: ignore[arg-type]


def changed(sound: NDArray[np.float32], time: Time) -> NDArray[np.float64]:
    """A version of the sound."""
    reader = MusicReader(Track(Path("bench"), np.ascontiguousarray(sound), RATE, len(sound), ""), time)
    return reader.read(0, reader.map.after_frames).astype(np.float64)


def mono(wave: Wave) -> NDArray[np.float32]:
    return wave.astype(np.float32)[None]


def envelope(wave: Wave) -> Wave:
    """Analytic envelope, smoothed over 0.3 ms."""
    kernel = np.hanning(15)
    return np.convolve(np.abs(hilbert(wave)), kernel / kernel.sum(), "same")


def attack_figures(out: Wave, truth: Wave, hits: list[tuple[int, int]]) -> dict[str, list[float]]:
    found: dict[str, list[float]] = {"rise": [], "pre-echo": [], "stutter": [], "place": []}
    shape, true_shape = envelope(out), envelope(truth)
    for frame, kind in hits:
        if frame < 5000 or frame > len(out) - 8000:
            continue
        near = shape[frame - 600 : frame + 900]
        peak = int(np.argmax(near))
        rise = near[: peak + 1]
        high = np.flatnonzero(rise < 0.9 * rise[-1])
        low = np.flatnonzero(rise < 0.1 * rise[-1])
        found["rise"].append(1000 * ((high[-1] if len(high) else 0) - (low[-1] if len(low) else 0)) / RATE)
        before = float(np.sum(out[frame - int(0.06 * RATE) : frame - int(0.003 * RATE)] ** 2))
        own = float(np.sum(out[frame : frame + int(0.028 * RATE)] ** 2))
        before_true = float(np.sum(truth[frame - int(0.06 * RATE) : frame - int(0.003 * RATE)] ** 2))
        if before_true < 1e-3 * own:  # the hit before has died away
            found["pre-echo"].append(10 * np.log10((before + 1e-12) / own))
        if kind == 0:
            after = slice(frame + int(0.045 * RATE), frame + int(0.11 * RATE))
            energies = float(np.sum(out[after] ** 2)), float(np.sum(truth[after] ** 2))
            found["stutter"].append(10 * np.log10((energies[0] + 1e-6) / (energies[1] + 1e-6)))
        true_near = true_shape[frame - 600 : frame + 900]
        lag = np.argmax(np.correlate(near, true_near, "full")) - (len(true_near) - 1)
        found["place"].append(float(lag) / RATE * 1000)
    return found


def drift_ppm(length_ratio: float) -> float:
    """By how many millionths clicks of a minute's length come apart from where they should be."""
    seconds = 60.0
    out = np.abs(stretched(mono(signals.ticks(seconds)), length_ratio)[0])
    due = np.arange(2, int(2 * seconds) - 1) * signals.TICK * length_ratio
    found = [round(at) - 2000 + int(np.argmax(out[round(at) - 2000 : round(at) + 2000])) for at in due]
    return abs(float(np.polyfit(due, found, 1)[0]) - 1.0) * 1e6


def partial_figures(out: Wave, pitch_ratio: float = 1.0) -> tuple[list[float], list[float]]:
    """Pitch error, cents, and flutter, dB, of each partial of the chord."""
    middle = out[RATE:-RATE]
    n = np.arange(len(middle))
    pitch, flutter = [], []
    for f in signals.CHORD * pitch_ratio:
        turned = middle * np.exp(-2j * np.pi * f * n / RATE)
        low = sosfiltfilt(butter(2, 8, fs=RATE, output="sos"), turned)[RATE // 4 : -RATE // 4]
        drift = np.polyfit(np.arange(len(low)), np.unwrap(np.angle(low)), 1)[0] * RATE / (2 * np.pi)
        pitch.append(abs(1200 * np.log2(1 + drift / f)))
        flutter.append(float(np.std(20 * np.log10(np.abs(low) + 1e-9))))
    return pitch, flutter


def close_figures(out: Wave) -> tuple[list[float], list[float]]:
    """As :func:`partial_figures` for partials 17 Hz apart: what is within 8 Hz of each counts."""
    middle = out[RATE:-RATE]
    low_pass = firwin(26_461, 8.0, fs=RATE, window=("kaiser", 7.0))
    pitch, flutter = [], []
    for f in signals.CLOSE:
        turned = middle * np.exp(-2j * np.pi * f * np.arange(len(middle)) / RATE)
        low = fftconvolve(turned, low_pass, "valid")[::100]
        drift = np.polyfit(np.arange(len(low)), np.unwrap(np.angle(low)), 1)[0] * RATE / (200 * np.pi)
        pitch.append(abs(1200 * np.log2(1 + drift / f)))
        flutter.append(float(np.std(20 * np.log10(np.abs(low) + 1e-9))))
    return pitch, flutter


def first_phase(length_ratio: float) -> float:
    """By how many degrees the phase of a tone's first 30 ms is off that begins at frame 0."""
    t = np.arange(2 * RATE) / RATE
    tone = 0.5 * np.sin(2 * np.pi * 440 * t + 1.0)
    first = slice(0, int(0.03 * RATE))
    carrier = np.exp(-2j * np.pi * 440 * t[first])
    was, became = np.sum(tone[first] * carrier), np.sum(stretched(mono(tone), length_ratio)[0][first] * carrier)
    return float(np.degrees(abs(np.angle(became * np.conj(was)))))


def crest_losses(length_ratio: float, vibrato_percent: float) -> list[float]:
    """Loss of crest of voices from 110 to 330 Hz."""
    voices = [signals.pulses(6.0, hertz, vibrato_percent) for hertz in (110, 165, 220, 330)]
    return [crest(voice) - crest(stretched(mono(voice), length_ratio)[0]) for voice in voices]


def sweep_figures(out: Wave, truth: Wave) -> tuple[float, float]:
    """Median pitch error, cents, and level ripple, dB, of the sweep."""
    part = slice(RATE // 2, min(len(out), len(truth)) - RATE // 2)
    a, b = hilbert(out)[part], hilbert(truth)[part]
    fa, fb = (np.convolve(np.diff(np.unwrap(np.angle(x))), np.ones(441) / 441, "same") for x in (a, b))
    level = 20 * np.log10(np.convolve(np.abs(a), np.ones(441) / 441, "valid"))
    return float(np.median(np.abs(1200 * np.log2(np.maximum(fa, 1e-6) / np.maximum(fb, 1e-6))))), float(np.std(level))


def channel_phase(out: NDArray[np.float64]) -> float:
    """Root mean square of the phase between the channels where the centre sounds, degrees."""
    centre = sosfiltfilt(butter(2, (1300, 2000), "bandpass", fs=RATE, output="sos"), out)
    left, right = hilbert(centre[0]), hilbert(centre[1])
    loud = np.abs(left) > np.quantile(np.abs(left), 0.3)
    return float(np.degrees(np.sqrt(np.mean(np.angle(left * np.conj(right))[loud] ** 2))))


def crest(wave: Wave) -> float:
    """Median crest factor, dB, of blocks of 46 ms."""
    size = int(0.046 * RATE)
    blocks = wave[RATE : RATE + (len(wave) - 2 * RATE) // size * size].reshape(-1, size)
    return float(np.median(20 * np.log10(np.abs(blocks).max(axis=1) / np.sqrt(np.mean(blocks**2, axis=1)))))


def main() -> None:
    stretched(mono(signals.chord(1.0)), 1.1)
    table("length ratio", RATIOS, stretch_rows())
    table("shift, semitones", SHIFTS, shift_rows())


def table(title: str, columns: tuple[float, ...], rows: dict[str, list[float]]) -> None:
    """Print a row for each figure, and the mean."""
    print(f"{title:44}" + "".join(f"{c:9}" for c in columns) + f"{'mean':>9}")
    for name, values in rows.items():
        print(f"{name:44}" + "".join(f"{v:9.2f}" for v in values) + f"{np.mean(values):9.2f}")
    print()


def shift_rows() -> dict[str, list[float]]:
    """The figures of transposing."""
    rows: dict[str, list[float]] = {}
    source, hits = signals.percussion(SECONDS, 1.0)
    voice = signals.voice(SECONDS)
    for semitones in SHIFTS:
        found = attack_figures(shifted(mono(source), semitones)[0], source, hits)
        pitch, flutter = partial_figures(shifted(mono(signals.chord(SECONDS)), semitones)[0], 2.0 ** (semitones / 12.0))
        out = shifted(mono(voice), semitones)[0]
        for name, value in (
            ("attack rise 10-90 %, median, ms", np.median(found["rise"])),
            ("pre-echo, median, dB", np.median(found["pre-echo"])),
            ("pre-echo, 90th percentile, dB", np.quantile(found["pre-echo"], 0.9)),
            ("place of hits, 95th percentile, ms", np.quantile(np.abs(found["place"]), 0.95)),
            ("pitch of partials, median, cents", np.median(pitch)),
            ("pitch of partials, worst, cents", max(pitch)),
            ("flutter of partials, mean, dB", np.mean(flutter)),
            ("flutter of partials, worst, dB", max(flutter)),
            ("crest loss of the voice, dB", crest(voice) - crest(out)),
        ):
            rows.setdefault(name, []).append(float(value))
    return rows


def stretch_rows() -> dict[str, list[float]]:
    """The figures of stretching."""
    rows: dict[str, list[float]] = {}

    def note(name: str, value: float) -> None:
        rows.setdefault(name, []).append(value)

    source, _ = signals.percussion(SECONDS, 1.0)
    voice = signals.voice(SECONDS)
    for ratio in RATIOS:
        truth, hits = signals.percussion(SECONDS, ratio)
        found = attack_figures(stretched(mono(source), ratio)[0], truth, hits)
        note("attack rise 10-90 %, median, ms", float(np.median(found["rise"])))
        note("pre-echo, median, dB", float(np.median(found["pre-echo"])))
        note("pre-echo, 90th percentile, dB", float(np.quantile(found["pre-echo"], 0.9)))
        note("stutter above truth, dB", float(np.median(found["stutter"])))
        note("place of hits, 95th percentile, ms", float(np.quantile(np.abs(found["place"]), 0.95)))
        note("tempo drift, ppm", drift_ppm(ratio))
        pitch, flutter = partial_figures(stretched(mono(signals.chord(SECONDS)), ratio)[0])
        note("pitch of partials, median, cents", float(np.median(pitch)))
        note("pitch of partials, worst, cents", max(pitch))
        note("flutter of partials, mean, dB", float(np.mean(flutter)))
        note("flutter of partials, worst, dB", max(flutter))
        error, ripple = sweep_figures(
            stretched(mono(signals.sweep(SECONDS, 1.0)), ratio)[0], signals.sweep(SECONDS, ratio)
        )
        note("sweep: pitch error, cents", error)
        note("sweep: level ripple, dB", ripple)
        note("phase between channels, rms, degrees", channel_phase(stretched(signals.stereo_field(SECONDS), ratio)))
        note("crest loss of the voice, dB", crest(voice) - crest(stretched(mono(voice), ratio)[0]))
        pitch, flutter = close_figures(stretched(mono(signals.close_partials(8.0)), ratio)[0])
        note("partials 17 Hz apart: pitch, worst, cents", max(pitch))
        note("partials 17 Hz apart: flutter, median, dB", float(np.median(flutter)))
        note("partials 17 Hz apart: flutter, worst, dB", max(flutter))
        for vibrato in (0.0, 0.4, 1.5):
            note(f"crest loss, vibrato {vibrato} %, worst, dB", max(crest_losses(ratio, vibrato)))
        note("a tone at frame 0: phase off, degrees", first_phase(ratio))
    field = np.tile(signals.stereo_field(SECONDS), (1, 3))
    began = time.process_time()
    stretched(field, 1.25)
    note("seconds of stereo made per CPU second", 1.25 * 3 * SECONDS / (time.process_time() - began))
    return rows


if __name__ == "__main__":
    main()
