"""Options of the command line: made from declared parameters, and the kinds of values that are not plain numbers."""

from collections.abc import Callable
from typing import TYPE_CHECKING, Any, TypeVar

import click
import msgspec

from latespin.errors import LateSpinError
from latespin.model.moments.endings import ENDINGS, NoEnding
from latespin.model.timing.tempo_curve import Curve, CurvePoint, check_curve
from latespin.model.values.parameters import SMEAR_SPEED, SONG_SECONDS, SPEED, TARGET, parameters_of
from latespin.model.values.units import parse_length, parse_value

if TYPE_CHECKING:
    from latespin.media.audio.formats import Encoding
    from latespin.media.tags import TagEdits

SESSION_SUFFIX = ".latespin"
Decorated = TypeVar("Decorated", bound=Callable[..., Any])


def parameter_option(kind: type[msgspec.Struct], field: str, flag: str = "") -> Callable[[Decorated], Decorated]:
    """An option for a declared parameter: its limits, unit and sentence come from the declaration.

    flag : ``--`` and the field's name unless given.
    """
    parameter = parameters_of(kind)[field]
    unit = {"st": "semitones"}.get(parameter.unit, parameter.unit)
    return click.option(
        flag or "--" + field.replace("_", "-"),
        type=click.FloatRange(parameter.low, parameter.high),
        help=f"{parameter.sentence} In {unit}.",
    )


#: Of ``opened_version``.
sound_track_option = click.option(
    "--sound-track", type=click.IntRange(1), default=1, help="Of a video with several: which one is the song, counted from 1."
)  # fmt: skip


def encoding_options(command: Decorated) -> Decorated:
    """How a file is written: ``depth``, ``bitrate`` and ``rate``, which :func:`encoding_of` takes out of the options."""
    options = (
        click.option("--rate", type=click.IntRange(8_000, 192_000), help="Sample rate in Hz; that of the song by default."),
        click.option(
            "--bitrate", type=click.IntRange(32, 512), help="Bitrate of MP3, M4A, Ogg and Opus in kbit/s; the best by default."
        ),
        click.option(
            "--depth", type=click.Choice(["16", "24", "float"]),
            help="Sample format of WAV (default float) and FLAC (24); of M4A: lossless (ALAC).",
        ),
    )  # fmt: skip
    for option in options:
        command = option(command)
    return command


def encoding_of(options: dict[str, Any]) -> "Encoding":
    """The encoding asked for, taken out of the options of a command."""
    from latespin.media.audio.formats import Encoding

    return Encoding(options.pop("depth"), options.pop("bitrate"), options.pop("rate"))


class TagOption(click.ParamType[Any]):
    """A tag and its value."""

    name = "NAME=VALUE"

    def convert(self, value: Any, param: click.Parameter | None, ctx: click.Context | None) -> tuple[str, str]:
        """The name in lower case, and the value."""
        from latespin.media.tag_names import is_carried

        name, equals, text = str(value).partition("=")
        if not equals or not is_carried(name.strip().lower()):
            raise click.BadParameter(
                "give a name and a value: album=Late Session. Nothing after = removes it.", ctx, param
            )
        return name.strip().lower(), text.strip()


def tag_option(more: str = "") -> Callable[[Decorated], Decorated]:
    """``--tag``, as often as wanted; :func:`edits_of` takes it out of the options."""
    return click.option(
        "--tag", "tags", type=TagOption(), multiple=True,
        help=f"Write a tag other than it would be: album=Late Session. Nothing after = removes it.{more} Can be given several times.",
    )  # fmt: skip


def edits_of(options: dict[str, Any]) -> "TagEdits":
    """The tags asked for, taken out of the options of a command."""
    from latespin.media.tags import TagEdits

    return TagEdits(tuple(options.pop("tags")))


class LoudnessOption(click.ParamType[Any]):
    """A number of LUFS, ``before``, or ``off``."""

    name = "LUFS|before|off"

    def convert(self, value: Any, param: click.Parameter | None, ctx: click.Context | None) -> float | str:
        """The number, or the word."""
        if isinstance(value, str) and value.lower() in ("before", "off"):
            return value.lower()
        number = click.FLOAT.convert(value, param, ctx)
        return _within(number, TARGET.low, TARGET.high, param, ctx, " Use “off” to leave the level untouched.")


def _within(
    value: float,
    low: float,
    high: float,
    param: click.Parameter | None,
    ctx: click.Context | None,
    more: str = "",
) -> float:
    if not low <= value <= high:
        raise click.BadParameter(f"{value:g} is out of range; it can be {low:g} to {high:g}.{more}", ctx, param)
    return value


class SpeedOption(click.ParamType[Any]):
    """A speed as people write it: 0.8, 80 %, or a change in per cent with its sign."""

    name = "SPEED"

    def convert(self, value: Any, param: click.Parameter | None, ctx: click.Context | None) -> float:
        """The ratio."""
        try:
            speed = parse_value(value, SPEED.unit) if isinstance(value, str) else float(value)
        except ValueError as error:
            raise click.BadParameter(str(error), ctx, param) from None
        return _within(speed, SMEAR_SPEED.low, SMEAR_SPEED.high, param, ctx)


def _seconds(value: Any, param: click.Parameter | None, ctx: click.Context | None) -> float:
    try:
        return parse_length(value) if isinstance(value, str) else float(value)
    except ValueError as error:
        raise click.BadParameter(str(error), ctx, param) from None


class PlaceOption(click.ParamType[Any]):
    """A time in a song as people write it."""

    name = "M:SS[.mmm]"

    def convert(self, value: Any, param: click.Parameter | None, ctx: click.Context | None) -> float:
        """Seconds from the song's start on."""
        seconds = _seconds(value, param, ctx)
        return _within(seconds, SONG_SECONDS.low, SONG_SECONDS.high, param, ctx)


class LengthOption(click.ParamType[Any]):
    """A length as people write it."""

    name = "M:SS[.mmm]"

    def convert(self, value: Any, param: click.Parameter | None, ctx: click.Context | None) -> float:
        """Seconds above zero."""
        seconds = _seconds(value, param, ctx)
        if seconds <= 0.0:
            raise click.BadParameter("a length must be above zero, such as 3:30.", ctx, param)
        return seconds


class SpeedCurveOption(click.ParamType[Any]):
    """Speeds at places of the song."""

    name = "PLACE=SPEED,…"

    def convert(self, value: Any, param: click.Parameter | None, ctx: click.Context | None) -> Curve:
        """The points in order; places from 0, the start, to 1, the end."""
        try:
            curve = tuple(_point(text) for text in str(value).split(","))
            check_curve(curve)
        except LateSpinError as error:
            raise click.BadParameter(str(error), ctx, param) from None
        except ValueError:
            raise click.BadParameter(
                f"“{value}” is not a speed curve. Give places from 0 to 1 with speeds, such as 0=0.9,0.4=1.0,1=1.15.",
                ctx,
                param,
            ) from None
        return curve


def _point(text: str) -> CurvePoint:
    place, speed = text.split("=")
    return CurvePoint(place=float(place), speed=float(speed))


class EndingOption(click.ParamType[Any]):
    """Ending of the version and its place: ``KIND@BAR``, ``KIND@m:ss.mmm`` or ``KIND@auto``."""

    name = "KIND[@PLACE]"

    def convert(self, value: Any, param: click.Parameter | None, ctx: click.Context | None) -> tuple[str, str]:
        """The kind and the place as it was written, ``auto`` where there is none."""
        kind, _, where = str(value).partition("@")
        known = [name for name in ENDINGS if ENDINGS[name] is not NoEnding]
        if kind not in known:
            raise click.BadParameter(f"“{kind}” is not an ending; use one of {', '.join(known)}.", ctx, param)
        return kind, where.strip() or "auto"
