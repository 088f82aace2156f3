"""The parameters of the effects, declared as in :mod:`latespin.model.values.parameters`, which has those of the hall."""

from dataclasses import replace

from latespin.model.values.parameters import Parameter

SEED = Parameter(
    "Variation", "", 1.0, 999.0, 1.0, 1.0, 0, "Each number gives the same kind of noise with its events at other times."
)


def amount(default: float, sentence: str, label: str = "Amount") -> Parameter:
    """The amount of an effect: 0 leaves the song untouched."""
    return Parameter(label, "%", 0.0, 100.0, default, 1.0, 0, sentence)


def share(label: str, sentence: str) -> Parameter:
    """A detail, in percent of what the effect sets by itself."""
    return Parameter(label, "%", 0.0, 200.0, 100.0, 5.0, 0, sentence)


MODULATION = Parameter(
    "Modulation",
    "%",
    0.0,
    100.0,
    35.0,
    5.0,
    0,
    "Moves the reverb’s delays: more is softer and less metallic, none is exact.",
)
STRETCH = Parameter(
    "Decay",
    "×",
    0.25,
    4.0,
    1.0,
    1.05,
    2,
    "Stretches the decay of the impulse response: 1 is as recorded.",
    logarithmic=True,
)
HIGH_CUT = Parameter(
    "High cut",
    "Hz",
    1000.0,
    20000.0,
    12000.0,
    1.05,
    0,
    "Removes the reverb’s highs above this frequency.",
    logarithmic=True,
)

WEAR = Parameter(
    "Wear", "%", 0.0, 100.0, 35.0, 1.0, 0, "From new to played for forty years. All the details below follow it."
)
CRACKLE = share("Crackle", "Surface noise, dust and fine crackle.")
POPS = share("Pops", "Louder pops, now and then.")
SCRATCH = share("Scratch", "Ticks that come back once per turn, from a wear of 30 % on.")
RUMBLE = share("Rumble", "Low noise of the turntable’s bearing, felt more than heard.")
WOW = share("Wow", "Slow speed variation, once per turn.")
FLUTTER = share("Flutter", "Fast speed variation.")
DULLNESS = share("Dullness", "How much of the highs has worn off.")
SATURATION_SHARE = share("Saturation", "How much peaks are rounded off.")
MONO_BELOW = Parameter(
    "Mono below",
    "Hz",
    20.0,
    500.0,
    140.0,
    1.05,
    0,
    "Sums the bass below this frequency to mono, as on cut records.",
    logarithmic=True,
)
HISS = share("Hiss", "The tape’s own noise.")
BUMP = share("Head bump", "The low-bass boost of a playback head.")
DROPOUTS = share("Drop-outs", "Short losses where the tape lifts off the head.")

DEEP_HZ = Parameter(
    "Cut-off at full depth",
    "Hz",
    120.0,
    1500.0,
    320.0,
    1.05,
    0,
    "The low-pass frequency at full depth. Lower is darker.",
    logarithmic=True,
)
RESONANCE = Parameter("Resonance", "%", 0.0, 100.0, 15.0, 5.0, 0, "Emphasises the frequencies at the cut-off.")
DRIFT = Parameter("Drift", "ct", 0.0, 30.0, 5.0, 0.5, 1, "How far the pitch drifts, slowly.")
BED_DB = Parameter(
    "Water", "dB", -48.0, 0.0, -26.0, 1.0, 0, "Level of the water sound against the song, at full depth."
)
LEVEL_DROP = Parameter(
    "Level drop", "dB", 0.0, 24.0, 0.0, 0.5, 1, "How much quieter the song is at full depth. Keep level does not take this back."
)  # fmt: skip
SPLASH_DB = Parameter("Splash", "dB", -30.0, 12.0, -4.0, 1.0, 0, "Level of the splash against the song.")

TREBLE = Parameter(
    "Treble", "dB", -12.0, 12.0, 0.0, 0.5, 1, "Boosts or cuts the highest frequencies this loudspeaker plays."
)
SPEAKER_RESONANCE = share("Resonance", "How much its box or horn resonates.")
NOISE = share("Noise", "The loudspeaker’s own hiss, where it has any.")
UNDER_DB = Parameter(
    "Undertone",
    "dB",
    -60.0,
    0.0,
    -22.0,
    1.0,
    0,
    "Mixes the low-passed song in beneath, so that it does not sound thin; −60 is none.",
)
UNDER_HZ = Parameter(
    "Undertone below",
    "Hz",
    60.0,
    600.0,
    220.0,
    1.05,
    0,
    "The undertone is the song below this frequency.",
    logarithmic=True,
)

PERIOD_SECONDS = Parameter(
    "One turn takes", "s", 1.0, 120.0, 10.0, 1.05, 2, "Time for one turn around the head.", logarithmic=True
)
PERIOD_BARS = Parameter("One turn takes", "bars", 0.25, 64.0, 4.0, 1.0, 2, "Bars for one turn around the head.")
START_ANGLE = Parameter(
    "Starts at", "°", -180.0, 180.0, 0.0, 5.0, 0, "Where the first turn begins: 0 is ahead, 90 is right, 180 is behind."
)
ELEVATION = Parameter(
    "Elevation", "°", 0.0, 60.0, 10.0, 1.0, 0, "Tilts the turn: it rises on one side and falls on the other."
)
DISTANCE = Parameter(
    "Distance",
    "m",
    0.5,
    4.0,
    1.0,
    1.05,
    2,
    "Distance of the song: farther away, the room is louder against it.",
    logarithmic=True,
)
ROOM_SHARE = Parameter(
    "Room", "%", 0.0, 100.0, 35.0, 1.0, 0, "Level of early reflections, which move the song out of the head."
)
STILL_BELOW = Parameter(
    "Bass stays centred below",
    "Hz",
    40.0,
    400.0,
    120.0,
    1.05,
    0,
    "Bass below this frequency does not move.",
    logarithmic=True,
)

DELAY_MS = Parameter(
    "Delay",
    "ms",
    0.0,
    30.0,
    12.0,
    0.5,
    1,
    "Delays one side. A few milliseconds sound wide, not like an echo.",
)
SIDES = Parameter(
    "Sides", "%", 0.0, 200.0, 110.0, 5.0, 0, "Level of the side signal: 0 is mono, 100 leaves it as it is."
)
ECHO_FEEDBACK = Parameter(
    "Feedback", "%", 0.0, 95.0, 35.0, 1.0, 0, "How much of each repeat is fed back: more repeats for longer."
)
ECHO_LOW = Parameter(
    "Low cut",
    "Hz",
    20.0,
    2000.0,
    180.0,
    1.05,
    0,
    "Removes the lows of each repeat below this frequency.",
    logarithmic=True,
)
ECHO_HIGH = Parameter(
    "High cut",
    "Hz",
    500.0,
    16000.0,
    4500.0,
    1.05,
    0,
    "Removes the highs of each repeat above this frequency.",
    logarithmic=True,
)
ECHO_RATE = Parameter(
    "Rate", "%", 1.0, 400.0, 100.0, 1.02, 0, "Speed of the echo’s tape. Automate it, and repeats glide in pitch; at 1 % the tape stands still.",
    logarithmic=True,
)  # fmt: skip
ECHO_WOW = Parameter("Wow", "%", 0.0, 100.0, 10.0, 5.0, 0, "Speed variation of the echo’s tape.")

CUT_LOW = Parameter(
    "Low cut",
    "Hz",
    20.0,
    2000.0,
    20.0,
    1.05,
    0,
    "Removes everything below this frequency; 20 Hz is off.",
    logarithmic=True,
)
CUT_HIGH = Parameter(
    "High cut",
    "Hz",
    500.0,
    20000.0,
    20000.0,
    1.05,
    0,
    "Removes everything above this frequency; 20 kHz is off.",
    logarithmic=True,
)
LOW_SHELF_HZ = Parameter(
    "Low shelf at", "Hz", 30.0, 1000.0, 120.0, 1.05, 0, "Corner frequency of the low shelf.", logarithmic=True
)
LOW_SHELF_DB = Parameter("Low shelf", "dB", -18.0, 18.0, 0.0, 0.5, 1, "Boosts or cuts the lows.")
BELL_HZ = Parameter("Bell at", "Hz", 30.0, 18000.0, 350.0, 1.05, 0, "Centre frequency of the bell.", logarithmic=True)
BELL2_HZ = Parameter(
    "Second bell at", "Hz", 30.0, 18000.0, 3000.0, 1.05, 0, "Centre frequency of the second bell.", logarithmic=True
)
BELL_DB = Parameter("Bell", "dB", -18.0, 18.0, 0.0, 0.5, 1, "Boosts or cuts around the bell’s frequency.")
BELL2_DB = Parameter(
    "Second bell", "dB", -18.0, 18.0, 0.0, 0.5, 1, "Boosts or cuts around the second bell’s frequency."
)
BELL_Q = Parameter("Bell Q", "", 0.2, 12.0, 1.0, 1.1, 2, "Higher is narrower.", logarithmic=True)
BELL2_Q = Parameter("Second bell Q", "", 0.2, 12.0, 1.0, 1.1, 2, "Higher is narrower.", logarithmic=True)
HIGH_SHELF_HZ = Parameter(
    "High shelf at", "Hz", 1000.0, 16000.0, 8000.0, 1.05, 0, "Corner frequency of the high shelf.", logarithmic=True
)
HIGH_SHELF_DB = Parameter("High shelf", "dB", -18.0, 18.0, 0.0, 0.5, 1, "Boosts or cuts the highs.")

GAIN_DB = Parameter("Gain", "dB", -60.0, 24.0, -3.0, 0.5, 1, "Louder or quieter by this; −60 dB is silence.")
THRESHOLD = Parameter(
    "Threshold",
    "dB",
    -30.0,
    12.0,
    -2.0,
    0.5,
    1,
    "Turns down what is louder than this, relative to the song’s loudness.",
)
RATIO = Parameter(
    "Ratio",
    ": 1",
    1.0,
    20.0,
    2.0,
    1.05,
    2,
    "At 2 : 1, each 2 dB above the threshold come out as 1 dB.",
    logarithmic=True,
)
ATTACK_MS = Parameter(
    "Attack",
    "ms",
    0.5,
    200.0,
    15.0,
    1.1,
    1,
    "Time until it turns down. Longer lets the start of each hit through.",
    logarithmic=True,
)
RELEASE_MS = Parameter(
    "Release",
    "ms",
    20.0,
    2000.0,
    180.0,
    1.1,
    0,
    "Time until it recovers. Shorter is denser, longer is smoother.",
    logarithmic=True,
)
KNEE_DB = Parameter("Knee", "dB", 0.0, 24.0, 6.0, 1.0, 0, "Width of the bend at the threshold. 0 is a hard knee.")
MAKEUP_DB = Parameter("Make-up gain", "dB", -12.0, 24.0, 0.0, 0.5, 1, "Gain after the compression.")
PART_AMOUNT = Parameter("Amount", "%", 0.0, 100.0, 100.0, 1.0, 0, "How much of this part’s change you hear.")
LOW_CROSSOVER = Parameter(
    "Low crossover", "Hz", 60.0, 800.0, 150.0, 1.05, 0, "Lows are below this, mids above.", logarithmic=True
)
HIGH_CROSSOVER = Parameter(
    "High crossover", "Hz", 1000.0, 12_000.0, 2500.0, 1.05, 0, "Mids are below this, highs above.", logarithmic=True
)


def of_part(part: str, parameter: Parameter) -> Parameter:
    """A parameter of one part of the song, such as its side or its lows."""
    label = f"{part} {parameter.label[0].lower()}{parameter.label[1:]}"
    return replace(
        parameter, label=label, sentence=parameter.sentence.replace("the song’s loudness", "this part’s usual level")
    )


HARSH_HZ = Parameter(
    "Shelf at", "Hz", 1500.0, 12000.0, 5000.0, 1.05, 0, "Corner frequency of the shelf.", logarithmic=True
)
HARSH_OVER = Parameter(
    "Threshold",
    "dB",
    -12.0,
    18.0,
    3.0,
    0.5,
    1,
    "Turns the highs down where they are louder than this, relative to their usual level in the song.",
)
GENTLE_CUT = Parameter(
    "Gentle high cut", "Hz", 500.0, 20000.0, 20000.0, 1.05, 0, "A low-pass of 6 dB per octave beside the shelf; 20 kHz is off.",
    logarithmic=True,
)  # fmt: skip
MOST = Parameter("Maximum reduction", "dB", 1.0, 24.0, 8.0, 0.5, 1, "The shelf goes down by this at most.")

DRIVE = Parameter("Drive", "dB", -12.0, 24.0, 3.0, 0.5, 1, "Level into the curve. More drive adds more harmonics.")
TILT = Parameter("Tilt", "dB", -9.0, 9.0, 0.0, 0.5, 1, "Above 0 saturates the highs more, below 0 the lows.")
WOBBLE_HZ = Parameter(
    "Rate", "Hz", 0.05, 20.0, 0.6, 1.05, 2, "Swings per second. Fast and shallow is flutter.", logarithmic=True
)
WOBBLE_CENTS = Parameter("Depth", "ct", 0.0, 200.0, 18.0, 1.0, 1, "How far the pitch swings.")
BITS = Parameter("Bits", "", 2.0, 16.0, 10.0, 0.5, 1, "Bit depth. Fewer bits add noise and grit.")
CRUSH_HZ = Parameter(
    "Sample rate",
    "Hz",
    1000.0,
    48000.0,
    16000.0,
    1.05,
    0,
    "Lower rates are duller and add aliasing.",
    logarithmic=True,
)

LAYER_DB = Parameter("Gain", "dB", -60.0, 12.0, -22.0, 0.5, 1, "Level of the layer against the song.")
LAYER_DUCK = Parameter("Ducking", "dB", 0.0, 24.0, 0.0, 0.5, 1, "Turns the layer down while the song is loud.")
LAYER_HIGH = Parameter(
    "Muffle",
    "Hz",
    200.0,
    20000.0,
    20000.0,
    1.05,
    0,
    "Removes the layer’s highs above this frequency; 20 kHz is off.",
    logarithmic=True,
)
LAYER_FADE_IN = Parameter("Fade in", "s", 0.0, 60.0, 1.0, 0.5, 1, "Fade-in of the layer at the version’s start.")
LAYER_FADE_OUT = Parameter("Fade out", "s", 0.0, 60.0, 2.0, 0.5, 1, "Fade-out of the layer at the version’s end.")
CROSSFADE = Parameter("Loop crossfade", "s", 0.0, 20.0, 1.0, 0.1, 1, "Crossfade from the file’s end to its start.")
