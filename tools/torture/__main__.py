"""``python -m tools.torture``: each torture by its name, or all of them as before a release."""

import json
import os
import tempfile
import time
from collections.abc import Mapping
from pathlib import Path
from typing import Any

import click
from tools.torture.commands import torture_commands
from tools.torture.files import make_cases, torture_files
from tools.torture.kills import torture_kills
from tools.torture.places import torture_places
from tools.torture.properties import torture_properties
from tools.torture.window import torture_window

KEPT = Path(tempfile.gettempdir()) / "late-spin torture"
HARMLESS = ("opened", "refused", "exit 0", "exit 2", "seeds")


def _bounds(count: int, seconds: float) -> Any:
    """How often at most, how long at most, and from which seed on."""

    def decorated(function: Any) -> Any:
        function = click.option("--seed", type=int, default=None, help="As printed by an earlier run.")(function)
        function = click.option("--seconds", type=float, default=seconds, show_default=True)(function)
        return click.option("--count", type=int, default=count, show_default=True)(function)

    return decorated


def _begun(name: str, seed: int | None) -> int:
    seed = int.from_bytes(os.urandom(3)) if seed is None else seed
    click.echo(f"{name}: seed {seed}")
    return seed


def _told(found: Mapping[str, int], began: float) -> None:
    """Print what was found; exit with 1 where anything was wrong."""
    wrong = {what: n for what, n in found.items() if not what.startswith(HARMLESS) and ":" in what}
    for what, n in found.items():
        click.echo(f"{n:7} {what}")
    click.echo(f"{sum(wrong.values())} wrong, {time.monotonic() - began:.0f} s. Reproducers: {KEPT}")
    if wrong:
        raise click.exceptions.Exit(1)


@click.group()
def torture() -> None:
    """Do to Late Spin what nobody would on purpose. What goes wrong is printed with its seed; files are kept."""


@torture.command()
@_bounds(10_000, 3600.0)
def files(count: int, seconds: float, seed: int | None) -> None:
    """Spoil songs, sessions, recipes, markers, grids, ears and responses, and read them."""
    seed, began = _begun("files", seed), time.monotonic()
    with tempfile.TemporaryDirectory() as place:
        samples = Path(place) / "samples"
        samples.mkdir()
        result = torture_files(make_cases(samples, count, seed), Path(place), KEPT, seconds=seconds)
    found = {what: n for what, n in result.counts.items() if what != "wrong"}
    _told(
        found | {f"{name}, seed {at}: {message.strip().splitlines()[-1]}": 1 for at, name, message in result.wrong},
        began,
    )


@torture.command()
@_bounds(500, 3600.0)
def commands(count: int, seconds: float, seed: int | None) -> None:
    """Call the command line with extremes."""
    seed, began = _begun("commands", seed), time.monotonic()
    with tempfile.TemporaryDirectory() as place:
        _told(torture_commands(count, seconds, seed, Path(place)), began)


@torture.command()
@_bounds(500, 7200.0)
@click.option(
    "--kind",
    "kinds",
    type=click.Choice(["render", "set", "window"]),
    multiple=True,
    default=("render", "set", "window"),
)
def kills(count: int, seconds: float, seed: int | None, kinds: tuple[str, ...]) -> None:
    """Kill renders, sets and windows at random moments."""
    seed, began = _begun("kills", seed), time.monotonic()
    _told(torture_kills(count, seconds, seed, kinds, click.echo), began)


@torture.command()
@_bounds(1_000_000, 3600.0)
def window(count: int, seconds: float, seed: int | None) -> None:
    """Use the real window, offscreen, at random."""
    seed, began = _begun("window", seed), time.monotonic()
    found = torture_window(seconds, count, seed, KEPT)
    click.echo(json.dumps(found, indent=2, ensure_ascii=False))
    _told({f"{what.strip().splitlines()[-1]}: {what}": n for what, n in found["found"].items()}, began)


@torture.command()
def places() -> None:
    """Full, read-only and slow disks; two processes at the same files; no cache."""
    began = time.monotonic()
    with tempfile.TemporaryDirectory() as place:
        _told(torture_places(Path(place)), began)


@torture.command()
@_bounds(20, 7200.0)
@click.option("--examples", type=int, default=500, show_default=True)
def properties(count: int, seconds: float, seed: int | None, examples: int) -> None:
    """Run all property tests with other examples."""
    seed, began = _begun("properties", seed), time.monotonic()
    _told(torture_properties(count, examples, seconds, seed, KEPT, click.echo), began)


if __name__ == "__main__":
    torture()
