"""Options of the command line for a part of a version."""

from typing import TYPE_CHECKING, Any, TypeVar

import click

from latespin.model.values.units import parse_length

if TYPE_CHECKING:
    from collections.abc import Callable

    from latespin.render.mastering.excerpt import Excerpt, ExcerptSearch

Decorated = TypeVar("Decorated", bound="Callable[..., Any]")
LONGEST_FADE = 60.0


class ExcerptOption(click.ParamType[Any]):
    """Two times, or a search and about how many seconds."""

    name = "FROM-TO|loudest:S|typical:S"

    def convert(self, value: Any, param: click.Parameter | None, ctx: click.Context | None) -> tuple[str, float, float]:
        """The kind, and its two numbers."""
        search, colon, seconds = str(value).partition(":")
        try:
            if search in ("loudest", "typical") and colon:
                return search, parse_length(seconds), 0.0
            start, stop = map(parse_length, str(value).split("-"))
        except ValueError:
            raise click.BadParameter(
                "give two times of the version, 0:40-1:10, or loudest:30 or typical:30.", ctx, param
            ) from None
        return "", start, stop


def excerpt_options(command: Decorated) -> Decorated:
    """``excerpt`` and ``fade``, which :func:`excerpt_of` takes out of the options."""
    fade = click.option(
        "--fade",
        type=click.FloatRange(0.0, LONGEST_FADE),
        help="Fades at both ends of the excerpt. In seconds.",
    )
    excerpt = click.option(
        "--excerpt", type=ExcerptOption(),
        help="Write only a part of the version: two of its times, or the loudest or the most typical passage of about S seconds, cut at bar lines.",
    )  # fmt: skip
    return excerpt(fade(command))


def excerpt_of(options: dict[str, Any]) -> "Excerpt | ExcerptSearch | None":
    """The excerpt asked for, taken out of the options of a command. Raises UsageError for fades without one."""
    from latespin.render.mastering.excerpt import Excerpt, ExcerptSearch

    asked, fade = options.pop("excerpt"), options.pop("fade")
    if asked is None:
        if fade is not None:
            raise click.UsageError("--fade is for excerpts; give --excerpt with it.")
        return None
    kind, first, second = asked
    fade = fade or 0.0
    return ExcerptSearch(kind, first, fade, fade) if kind else Excerpt(first, second, fade, fade)
