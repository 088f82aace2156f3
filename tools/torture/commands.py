"""The command line at its limits: every option at, inside and beyond what its parameter declares, and what nobody would type."""

import itertools
import math
import os
import random
import subprocess
import sys
import time
from collections import Counter
from collections.abc import Iterator
from pathlib import Path

import click
import numpy as np
import soundfile

from latespin.cli.main import all_commands

RATE = 44_100
NUMBERS = ("0", "-0", "-1", "nan", "inf", "-inf", "1e308", "1e-308", "0x10", "1,5", "9" * 400, "")
TEXTS = (
    "",
    " ",
    "x" * 5_000,
    "🛼",
    "../..",
    "/dev/null",
    "%s%n",
    "--",
    "a\nb",
    "{title",
    "{nothing}",
    "1/0",
    "@",
    "bar 0",
    "ring-out@",
    "ring-out@-5",
    "fade@99999999",
    "0=1,0=1,0=1",
    "off",
)
LONGEST_SECONDS = 240.0


def cases(song: Path, folder: Path, seed: int) -> Iterator[list[str]]:
    """Calls of the commands, without end: first every option with every extreme, then several options at once."""
    rng = random.Random(seed)
    single = [(name, [option, value]) for name, option, values in _options() for value in values]
    rng.shuffle(single)
    numbers = itertools.count()
    for name, words in single:
        yield [*_begin(name, song, folder, next(numbers)), *words]
    while True:
        name = rng.choice(("render", "render", "pad", "map", "set"))
        mine = [(option, values) for other, option, values in _options() if other == name]
        chosen = rng.sample(mine, min(len(mine), rng.randrange(2, 5)))
        yield [
            *_begin(name, song, folder, next(numbers)),
            *(word for option, values in chosen for word in (option, rng.choice(values))),
        ]


def _begin(name: str, song: Path, folder: Path, number: int) -> list[str]:
    out = str(folder / f"out {number}.flac")
    return {
        "render": ["render", str(song), out], "pad": ["pad", str(song), str(folder / f"pad {number}.wav"), "--from", "0:00", "--to", "0:00.4"],
        "map": ["map", str(song)], "set": ["set", str(song), "--recipe", "sped-up", "--out", str(folder / f"set {number}"), "--dry-run"],
        "inspect": ["inspect", str(song)],
    }[name]  # fmt: skip


def _options() -> Iterator[tuple[str, str, list[str]]]:
    """Command, option, and the values to try, those at its declared limits among them."""
    for name in ("render", "pad", "map", "set"):
        command = all_commands()[name]
        for option in command.params:
            if isinstance(option, click.Option) and not option.is_flag and option.name not in ("out", "jobs"):
                yield name, option.opts[0], _values(option)


def _values(option: click.Option) -> list[str]:
    kind = option.type
    found = [*NUMBERS, *TEXTS]
    if isinstance(kind, click.Choice):
        found += [str(choice) for choice in kind.choices]
    low, high = getattr(kind, "min", None), getattr(kind, "max", None)
    for limit in (low, high):
        if limit is not None:
            found += [repr(limit), repr(math.nextafter(limit, -math.inf)), repr(math.nextafter(limit, math.inf))]
    return found


def torture_commands(count: int, seconds: float, seed: int, folder: Path) -> Counter[str]:
    """Run calls in processes of their own; counts of exit codes, and of everything that was wrong, by its words."""
    song = folder / "song.wav"
    soundfile.write(song, 0.1 * np.random.default_rng(1).standard_normal((RATE, 2)), RATE)
    before, found, until = song.read_bytes(), Counter[str](), time.monotonic() + seconds
    for words in itertools.islice(cases(song, folder, seed), count):
        if time.monotonic() > until:
            break
        code, message = run(words)
        found[f"exit {code}"] += 1
        if wrong := _wrong(words, code, message) or ("the song was changed" if song.read_bytes() != before else ""):
            found[f"{wrong}: {' '.join(words)[:300]}"] += 1
    return found


def run(words: list[str]) -> tuple[int, str]:
    """Exit code and what was said on the error stream."""
    try:
        done = subprocess.run(
            [sys.executable, "-m", "latespin", *words],
            capture_output=True,
            check=False,
            timeout=LONGEST_SECONDS,
            env=os.environ,
        )
    except (ValueError, OSError) as error:  # the system does not even start it
        return 2, f"latespin: {error}"
    except subprocess.TimeoutExpired:
        return -1, "hung"
    return done.returncode, done.stderr.decode(errors="replace")


def _wrong(words: list[str], code: int, message: str) -> str:
    if "Traceback" in message or "Error:" in message or "Warning" in message:
        return f"a fault of ours: {message.strip().splitlines()[-1][:300]}"
    if code not in (0, 2):
        return f"exit code {code}"
    if code == 2 and (message.count("\n") != 1 or len(message) > 1_200):
        return f"no single sentence ({len(message)} characters, {message.count(chr(10))} lines)"
    out = Path(words[2]) if words[0] in ("render", "pad") else None
    if out is not None and code == 2 and out.exists():
        return "refused, and yet it wrote"
    if out is not None and code == 0:
        sound, _ = soundfile.read(out, always_2d=True)
        if not len(sound) or not np.isfinite(sound).all():
            return "the result holds nothing, or no numbers"
        out.unlink()
    return ""
