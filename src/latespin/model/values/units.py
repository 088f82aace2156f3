"""Numbers with their units: how they are written, and what may be typed."""

import math
import re

from latespin.language import localised, tr

MINUS = "−"
NO_VALUE = "–"
NBSP = "\u00a0"

_FACTORS: dict[str, dict[str, float]] = {
    "×": {"×": 1.0, "x": 1.0, "%": 0.01},
    "st": {
        "st": 1.0,
        "semitone": 1.0,
        "semitones": 1.0,
        "ct": 0.01,
        "cent": 0.01,
        "cents": 0.01,
        "oct": 12.0,
    },
    "s": {"s": 1.0, "sec": 1.0, "ms": 0.001, "min": 60.0},
    "ms": {"ms": 1.0, "s": 1000.0, "sec": 1000.0},
    "Hz": {"hz": 1.0, "khz": 1000.0, "k": 1000.0},
    "%": {"%": 1.0},
    "BPM": {"bpm": 1.0},
    "": {},
    "LUFS": {"lufs": 1.0, "lu": 1.0, "db": 1.0},
    "dBTP": {"dbtp": 1.0, "dbfs": 1.0, "db": 1.0},
    "dB": {"db": 1.0, "lu": 1.0},
}
_NUMBER = re.compile(r"^([+-]?(?:\d+(?:[.,]\d*)?|[.,]\d+))\s*([^\d\s]*)$")
_CLOCK = re.compile(r"^([+-]?)(?:(\d+):)?(\d+):(\d{1,2}(?:[.,]\d*)?)$")


def parse_value(text: str, unit: str) -> float:
    """The number a person typed, in ``unit``. Raises ValueError with what could be typed instead.

    A percentage of a ratio that has a sign is a change: +30 % is 1.3 ×, −22 % is 0.78 ×.
    """
    plain = text.strip().replace(MINUS, "-").replace("–", "-")
    match = _NUMBER.match(plain)
    factors = _FACTORS.get(unit, {})
    if match is None:
        raise ValueError(tr("“{0}” is not a number. Type one, with or without {1}.").format(text.strip(), _known(unit)))
    suffix = match[2].lower()
    if suffix and suffix not in factors:
        raise ValueError(tr("“{0}” does not fit here. Use {1}.").format(match[2], _known(unit)))
    value = float(match[1].replace(",", ".")) * (factors[suffix] if suffix else 1.0)
    is_change = unit == "×" and suffix == "%" and match[1][0] in "+-"
    return 1.0 + value if is_change else value


def parse_semitones(text: str) -> float | None:
    """Semitones from ``−12 st``, ``50 ct`` or ``1 oct``; None for anything else."""
    match = _NUMBER.match(text.strip().replace(MINUS, "-").replace("–", "-"))
    factor = _FACTORS["st"].get(match[2].lower()) if match else None
    return float(match[1].replace(",", ".")) * factor if match and factor is not None else None


def parse_length(text: str) -> float:
    """Seconds from ``1:30``, ``1:02:03.5``, ``90 s`` or ``90``. Raises ValueError."""
    match = _CLOCK.match(text.strip().replace(MINUS, "-"))
    if match:
        hours, minutes, seconds = match[2] or "0", match[3], match[4].replace(",", ".")
        length = int(hours) * 3600.0 + int(minutes) * 60.0 + float(seconds)
        return -length if match[1] == "-" else length
    try:
        return parse_value(text, "s")
    except ValueError:
        raise ValueError(
            tr("“{0}” is not a length. Type minutes and seconds, such as 1:30.").format(text.strip())
        ) from None


def _known(unit: str) -> str:
    return tr(" or ").join(dict.fromkeys([unit, *(u for u in _FACTORS.get(unit, {}) if u.lower() != unit.lower())]))


def number(value: float, decimals: int, *, signed: bool = False) -> str:
    """A number with a true minus sign; ``–`` where there is none (undefined or infinite)."""
    if not math.isfinite(value):
        return NO_VALUE
    text = f"{value:+.{decimals}f}" if signed else f"{value:.{decimals}f}"
    if float(text) == 0.0:
        text = text.lstrip("+-")
    return localised(text.replace("-", MINUS))


def with_unit(value: float, unit: str, decimals: int) -> str:
    """A number and its unit, a multiplication sign or per cent set close."""
    if unit == "Hz" and value >= 1000.0:
        return f"{number(value / 1000.0, 1)}{NBSP}kHz"
    signed = unit == "st"
    gap = "" if unit == "×" else NBSP
    return f"{number(value, decimals, signed=signed)}{gap}{unit}"


def clock(seconds: float, decimals: int = 0) -> str:
    """``3:07`` or ``1:02:03``; with decimals ``3:07.25``; ``−0:00.5`` before the start."""
    if not math.isfinite(seconds):
        return NO_VALUE
    ticks = round(abs(seconds) * 10**decimals)
    sign = MINUS if seconds < 0.0 and ticks else ""
    whole, part = divmod(ticks, 10**decimals)
    minutes, secs = divmod(whole, 60)
    hours, minutes = divmod(minutes, 60)
    text = f"{hours}:{minutes:02d}:{secs:02d}" if hours else f"{minutes}:{secs:02d}"
    return sign + text + localised(f".{part:0{decimals}d}") if decimals else sign + text
