"""The numbers of all colours but the hall's first ones, declared as in :mod:`latespin.model.values.parameters`."""

from latespin.model.values.parameters import Parameter

SEED = Parameter(
    "Take", "", 1.0, 999.0, 1.0, 1.0, 0, "Another number gives the same kind of noise with its events elsewhere."
)


def amount(default: float, sentence: str, label: str = "Amount") -> Parameter:
    """How much of a colour is heard: 0 is the song untouched."""
    return Parameter(label, "%", 0.0, 100.0, default, 1.0, 0, sentence)


def share(label: str, sentence: str) -> Parameter:
    """A detail, as a share of what the colour would bring by itself."""
    return Parameter(label, "%", 0.0, 200.0, 100.0, 5.0, 0, sentence)


MODULATION = Parameter(
    "Movement",
    "%",
    0.0,
    100.0,
    35.0,
    5.0,
    0,
    "How much the room moves within itself: more is softer and less metallic, none is exact.",
)
STRETCH = Parameter(
    "Decay",
    "×",
    0.25,
    4.0,
    1.0,
    1.05,
    2,
    "How long the room rings, against how long it did when it was recorded.",
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
    "What of the wet sound is above it is taken away.",
    logarithmic=True,
)

WEAR = Parameter(
    "Wear", "%", 0.0, 100.0, 35.0, 1.0, 0, "From new to played for forty years: everything below goes with it."
)
CRACKLE = share("Crackle", "Surface noise, dust and fine crackle.")
POPS = share("Pops", "Now and then a louder pop.")
RUMBLE = share("Rumble", "The turntable’s bearing, felt rather than heard.")
WOW = share("Wow", "Slow unevenness of the speed, once in every turn.")
FLUTTER = share("Flutter", "Quick unevenness of the speed.")
DULLNESS = share("Dullness", "How much of the highs is worn away.")
DRIVE_SHARE = share("Rounding", "How much peaks are rounded off.")
MONO_BELOW = Parameter(
    "Mono below",
    "Hz",
    20.0,
    500.0,
    140.0,
    1.05,
    0,
    "Basses below it sit in the middle, as they are cut on records.",
    logarithmic=True,
)
HISS = share("Hiss", "The tape’s own noise.")
BUMP = share("Head bump", "A swell in the low bass, as playback heads have it.")
DROPOUTS = share("Drop-outs", "Moments at which the tape lifts off its head.")

DEEP_HZ = Parameter(
    "At the bottom", "Hz", 120.0, 1500.0, 320.0, 1.05, 0, "What is left of the highs at full depth.", logarithmic=True
)
RESONANCE = Parameter("Resonance", "%", 0.0, 100.0, 15.0, 5.0, 0, "How much the water rings where the highs end.")
DRIFT = Parameter("Drift", "ct", 0.0, 30.0, 5.0, 0.5, 1, "How far the pitch wanders, slowly.")
BED_DB = Parameter("Water", "dB", -48.0, 0.0, -26.0, 1.0, 0, "How loud the water is, against the song, at full depth.")
SPLASH_DB = Parameter(
    "Splash", "dB", -30.0, 12.0, -4.0, 1.0, 0, "How loud the plunge through the surface is, against the song."
)

TREBLE = Parameter("Treble", "dB", -12.0, 12.0, 0.0, 0.5, 1, "More or less of the highest that this loudspeaker gives.")
RINGING = share("Ringing", "How much its box or horn rings.")
NOISE = share("Noise", "Its own hiss, where it has any.")
UNDER_DB = Parameter(
    "Undertone",
    "dB",
    -60.0,
    0.0,
    -22.0,
    1.0,
    0,
    "How much of the low-passed song lies beneath, so that it does not sound empty; −60 is none.",
)
UNDER_HZ = Parameter(
    "Undertone below", "Hz", 60.0, 600.0, 220.0, 1.05, 0, "What of the song lies beneath.", logarithmic=True
)

PERIOD_SECONDS = Parameter(
    "Once round in", "s", 1.0, 120.0, 10.0, 1.05, 2, "How long one way round the head takes.", logarithmic=True
)
PERIOD_BARS = Parameter("Once round in", "bars", 0.25, 64.0, 4.0, 1.0, 2, "How many bars one way round the head takes.")
START_ANGLE = Parameter(
    "Starts at", "°", -180.0, 180.0, 0.0, 5.0, 0, "Where the way begins: 0 is ahead, 90 is right, 180 is behind."
)
ELEVATION = Parameter(
    "Rises", "°", 0.0, 60.0, 10.0, 1.0, 0, "How far the way rises on one side and falls on the other."
)
DISTANCE = Parameter(
    "Distance",
    "m",
    0.5,
    4.0,
    1.0,
    1.05,
    2,
    "How far away the song is: farther is quieter than its room.",
    logarithmic=True,
)
ROOM_SHARE = Parameter(
    "Room", "%", 0.0, 100.0, 35.0, 1.0, 0, "A few reflections, so that it is heard outside the head."
)
STILL_BELOW = Parameter(
    "Still below", "Hz", 40.0, 400.0, 120.0, 1.05, 0, "Basses below it stay in the middle.", logarithmic=True
)

DELAY_MS = Parameter(
    "Delay",
    "ms",
    0.0,
    30.0,
    12.0,
    0.5,
    1,
    "How much later one side is; a few milliseconds are heard as width, not as echo.",
)
SIDES = Parameter(
    "Sides", "%", 0.0, 200.0, 110.0, 5.0, 0, "What differs between left and right: 0 is mono, 100 as it is."
)
ECHO_FEEDBACK = Parameter("Feedback", "%", 0.0, 95.0, 35.0, 1.0, 0, "How much of each repeat is heard again.")
ECHO_LOW = Parameter(
    "Low cut", "Hz", 20.0, 2000.0, 180.0, 1.05, 0, "What of a repeat is below it is not heard again.", logarithmic=True
)
ECHO_HIGH = Parameter(
    "High cut",
    "Hz",
    500.0,
    16000.0,
    4500.0,
    1.05,
    0,
    "What of a repeat is above it is not heard again.",
    logarithmic=True,
)
ECHO_RATE = Parameter(
    "Rate",
    "%",
    25.0,
    400.0,
    100.0,
    1.02,
    0,
    "How fast the echo’s tape runs: changed over the song, repeats glide in pitch as it does.",
    logarithmic=True,
)
SWAY = Parameter("Sway", "%", 0.0, 100.0, 10.0, 5.0, 0, "How unevenly the echo’s tape runs.")

CUT_LOW = Parameter(
    "Low cut", "Hz", 20.0, 2000.0, 20.0, 1.05, 0, "What is below it is taken away; 20 leaves all.", logarithmic=True
)
CUT_HIGH = Parameter(
    "High cut",
    "Hz",
    500.0,
    20000.0,
    20000.0,
    1.05,
    0,
    "What is above it is taken away; 20 kHz leaves all.",
    logarithmic=True,
)
LOW_SHELF_HZ = Parameter(
    "Lows to", "Hz", 30.0, 1000.0, 120.0, 1.05, 0, "Below it lies the low shelf.", logarithmic=True
)
LOW_SHELF_DB = Parameter("Lows", "dB", -18.0, 18.0, 0.0, 0.5, 1, "More or less of the lows.")
BELL_HZ = Parameter("Bell at", "Hz", 30.0, 18000.0, 350.0, 1.05, 0, "Where the bell lies.", logarithmic=True)
BELL2_HZ = Parameter(
    "Second bell at", "Hz", 30.0, 18000.0, 3000.0, 1.05, 0, "Where the second bell lies.", logarithmic=True
)
BELL_DB = Parameter("Bell", "dB", -18.0, 18.0, 0.0, 0.5, 1, "More or less around the bell.")
BELL2_DB = Parameter("Second bell", "dB", -18.0, 18.0, 0.0, 0.5, 1, "More or less around the second bell.")
BELL_Q = Parameter("Bell’s Q", "", 0.2, 12.0, 1.0, 1.1, 2, "How narrow the bell is.", logarithmic=True)
BELL2_Q = Parameter("Second bell’s Q", "", 0.2, 12.0, 1.0, 1.1, 2, "How narrow the second bell is.", logarithmic=True)
HIGH_SHELF_HZ = Parameter(
    "Highs from", "Hz", 1000.0, 16000.0, 8000.0, 1.05, 0, "Above it lies the high shelf.", logarithmic=True
)
HIGH_SHELF_DB = Parameter("Highs", "dB", -18.0, 18.0, 0.0, 0.5, 1, "More or less of the highs.")

THRESHOLD = Parameter(
    "Above", "dB", -30.0, 12.0, -2.0, 0.5, 1, "What is louder than this, against the song’s loudness, is turned down."
)
RATIO = Parameter(
    "Ratio",
    ": 1",
    1.0,
    20.0,
    2.0,
    1.05,
    2,
    "By how much: at 2 : 1, two decibels more come out as one.",
    logarithmic=True,
)
ATTACK_MS = Parameter("Attack", "ms", 0.5, 200.0, 15.0, 1.1, 1, "How soon it acts.", logarithmic=True)
RELEASE_MS = Parameter("Release", "ms", 20.0, 2000.0, 180.0, 1.1, 0, "How soon it lets go.", logarithmic=True)
HARSH_HZ = Parameter(
    "From", "Hz", 1500.0, 12000.0, 5000.0, 1.05, 0, "Above it lie the highs that are watched.", logarithmic=True
)
HARSH_OVER = Parameter(
    "Above",
    "dB",
    -12.0,
    18.0,
    3.0,
    0.5,
    1,
    "Highs louder than this, against how loud they usually are in this song, are turned down.",
)
MOST = Parameter("At most", "dB", 1.0, 24.0, 8.0, 0.5, 1, "The most that is taken away.")

DRIVE = Parameter("Drive", "dB", -12.0, 24.0, 3.0, 0.5, 1, "How far the song’s loudness lies into the curve.")
TILT = Parameter("Brightness", "dB", -9.0, 9.0, 0.0, 0.5, 1, "Whether highs are rounded more or less than lows.")
WOBBLE_HZ = Parameter(
    "Rate", "Hz", 0.05, 20.0, 0.6, 1.05, 2, "How often the pitch swings; fast and shallow is flutter.", logarithmic=True
)
WOBBLE_CENTS = Parameter("Depth", "ct", 0.0, 200.0, 18.0, 1.0, 1, "How far the pitch swings.")
BITS = Parameter("Bits", "", 2.0, 16.0, 10.0, 0.5, 1, "How finely each value is stored.")
CRUSH_HZ = Parameter(
    "Values a second",
    "Hz",
    1000.0,
    48000.0,
    16000.0,
    1.05,
    0,
    "How often the song is sampled; what is higher folds back.",
    logarithmic=True,
)

LAYER_DB = Parameter("Gain", "dB", -60.0, 12.0, -22.0, 0.5, 1, "How loud the layer is, against the song.")
LAYER_DUCK = Parameter(
    "Give way", "dB", 0.0, 24.0, 0.0, 0.5, 1, "How much quieter the layer is while the song is loud."
)
LAYER_HIGH = Parameter(
    "Muffle",
    "Hz",
    200.0,
    20000.0,
    20000.0,
    1.05,
    0,
    "What of the layer is above it is taken away; 20 kHz leaves all.",
    logarithmic=True,
)
LAYER_FADE_IN = Parameter(
    "Fade in", "s", 0.0, 60.0, 1.0, 0.5, 1, "Over how long the layer comes at the version’s start."
)
LAYER_FADE_OUT = Parameter(
    "Fade out", "s", 0.0, 60.0, 2.0, 0.5, 1, "Over how long the layer goes at the version’s end."
)
CROSSFADE = Parameter(
    "Loop fade", "s", 0.0, 20.0, 1.0, 0.1, 1, "Over how long a file’s end is faded into its beginning."
)
