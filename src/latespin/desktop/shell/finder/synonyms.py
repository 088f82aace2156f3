"""Words people say for what has another name here.

By the kind of thing and its name in files: commands, recipes, effects, moments, endings, parameters. Words of the trade
are English in every language; those of another language are added to them.
"""

from types import ModuleType

from PySide6.QtCore import QLocale

from latespin.desktop.shell.finder import synonyms_de

COMMANDS = {
    "export": "save mp3 bounce render download wav",
    "export_video": "mp4 movie visualizer visualiser upload reel short clip",
    "batch": "queue many folder",
    "undo": "back revert",
    "compare": "a/b ab test blind",
    "beats": "bpm tempo grid time signature metre meter downbeat",
    "play_along": "pads finger drumming perform live midi controller",
    "click": "metronome",
    "loudest": "chorus drop hook",
    "loop": "repeat cycle",
    "recipes": "presets templates",
    "start": "beginning rewind",
}
RECIPES = {
    "slowed-reverb": "daycore chopped screwed slow",
    "sped-up": "nightcore fast chipmunk",
    "halftime": "half speed trap",
    "lofi-vinyl": "lo-fi chill study record crackle old",
    "underwater": "muffled next room bathroom behind door",
    "8d-spin": "8d audio autopan around head binaural surround",
    "ambient-pad": "drone smear stretch",
    "small-speaker": "phone radio megaphone telephone",
    "vintage-opening": "old radio intro gramophone",
    "tape-stop-ending": "vinyl brake power down",
    "echo-ending": "delay out",
    "ring-out-ending": "reverb tail",
    "clean-edit": "censor swear words radio edit",
}
EFFECTS = {
    "hall": "reverb room space church cathedral wet",
    "room": "reverb impulse response ir convolution space",
    "eq": "equalizer equaliser bass treble boost cut filter low high pass",
    "vinyl": "record crackle dust needle turntable lo-fi",
    "tape": "cassette wow flutter hiss saturation",
    "underwater": "muffled low pass lowpass submerged next room",
    "speaker": "phone radio telephone megaphone band pass",
    "orbit": "8d audio autopan pan rotate binaural surround",
    "echo": "delay slapback feedback ping pong",
    "saturation": "distortion overdrive warmth drive tube harmonics",
    "compressor": "dynamics squash punch",
    "mid-side-compressor": "dynamics stereo",
    "multiband-compressor": "dynamics bands",
    "deharsh": "de-ess harshness sibilance dynamic eq",
    "width": "stereo mono widen narrow mid side",
    "layer": "rain noise ambience bed texture crowd",
    "wobble": "wow flutter vibrato chorus",
    "crush": "bitcrusher bit depth sample rate reduction downsample lo-fi",
    "gain": "volume boost trim",
}
MOMENTS = {
    "tape-stop": "vinyl brake stop slow down",
    "spin-up": "start up power on",
    "stutter": "glitch repeat chop roll",
    "reverse": "backwards rewind",
    "stuck-record": "skip skipping locked groove vinyl needle jump broken",
    "cover": "censor clean mute bleep swear",
    "throw": "delay echo reverb send",
    "drop-in": "sound effect sample siren airhorn",
    "gain": "volume fade duck mute",
    "dip": "slow motion half time",
    "ramp": "speed up slow down gradual",
    "pitch-glide": "pitch bend portamento slide",
    "effect": "filter sweep automation",
}
ENDINGS = {
    "ring-out": "reverb tail outro",
    "tape-stop": "vinyl brake power down",
    "echo": "delay out",
    "fade": "fade out volume",
    "stop": "cut clean",
}
PARAMETERS = {
    "speed": "tempo bpm slow fast rate playback nightcore",
    "semitones": "pitch transpose key tune up down",
    "formant_semitones": "voice gender throat chipmunk",
    "target_lufs": "lufs loudness volume normalize normalise gain level",
    "ceiling_dbtp": "true peak limiter clip",
    "allowance_db": "limiting limiter squash",
    "amount_percent": "mix wet dry",
    "decay_seconds": "reverb time length rt60 tail",
    "size_percent": "room size",
    "pre_delay_ms": "predelay",
}
#: Tables like these in other languages, by code.
OTHERS: dict[str, ModuleType] = {"de": synonyms_de}


def also(table: str, name: str) -> str:
    """What people say for a thing, in English and in the language of the window. table : its name here, such as ``EFFECTS``."""
    other = OTHERS.get(QLocale().name()[:2])
    tables = (globals()[table], getattr(other, table, {}))
    return " ".join(words[name] for words in tables if name in words)
