"""Wow and flutter of worn records and tapes, measured as the standards do: on a tone of 3150 Hz, unweighted and weighted.

Peaks that are exceeded 5 % of the time (2 sigma). Weighting: IEC 60386 (as DIN 45507), interpolated between its values.
"""

import numpy as np
from scipy.signal import butter, sosfilt

from latespin.dsp.control.automation import Automation
from latespin.dsp.effects.tape import TapeWear, tape
from latespin.dsp.effects.vinyl import VinylWear, vinyl
from latespin.dsp.effects.worn_playback import WornPlayback

RATE, SECONDS, TONE_HZ, STEP = 44_100, 60, 3150.0, 50
WEIGHTS = (
    (0.1, -48.0), (0.2, -30.6), (0.315, -19.7), (0.4, -15.0), (0.63, -8.4), (0.8, -6.0), (1.0, -4.2), (1.6, -1.8), (2.0, -0.9),
    (4.0, 0.0), (6.3, -0.9), (10.0, -2.1), (20.0, -5.9), (40.0, -10.4), (63.0, -14.2), (100.0, -17.3), (200.0, -23.0),
)  # fmt: skip


def main() -> None:
    print("wear %   record: unweighted, weighted %   tape: unweighted, weighted %")
    for wear in (0.0, 0.35, 0.41, 0.72, 1.0):
        record = vinyl(RATE, VinylWear(wear, crackle=0.0, pops=0.0, rumble=0.0, scratch=0.0, drive=0.0), 0.1)
        ribbon = tape(RATE, TapeWear(wear, hiss=0.0, dropouts=0.0, drive=0.0), 0.1)
        figures = [f"{value:8.3f}" for settings in (record, ribbon) for value in uneven(WornPlayback(RATE, settings))]
        print(f"{100 * wear:6.0f}   " + "  ".join(figures))


def uneven(playback: WornPlayback) -> tuple[float, float]:
    """Per cent of the speed, unweighted and weighted."""
    tone = 0.5 * np.sin(2 * np.pi * TONE_HZ * np.arange(SECONDS * RATE) / RATE)
    out = playback.process(np.stack((tone, tone)).astype(np.float32), 0, Automation(1.0))[0, RATE:]
    down = out * np.exp(-2j * np.pi * TONE_HZ * np.arange(len(out)) / RATE)
    slow = sosfilt(butter(3, 200.0, fs=RATE, output="sos"), down)[RATE::STEP]
    speed = np.diff(np.unwrap(np.angle(slow))) * RATE / STEP / (2 * np.pi * TONE_HZ)
    speed -= speed.mean()
    hz, weights = np.array(WEIGHTS).T
    spectrum = np.fft.rfft(speed)
    places = np.fft.rfftfreq(len(speed), STEP / RATE)
    gains = 10 ** (np.interp(np.log(np.maximum(places, 0.05)), np.log(hz), weights) / 20)
    weighted = np.fft.irfft(spectrum * gains, len(speed))
    return 100 * float(np.quantile(np.abs(speed), 0.95)), 100 * float(np.quantile(np.abs(weighted), 0.95))


if __name__ == "__main__":
    main()
