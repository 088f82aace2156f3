"""``latespin map``: the time map of a version."""

from pathlib import Path
from typing import Any

import click
import numpy as np

from latespin.cli.options import SESSION_SUFFIX, EndingOption
from latespin.cli.output import echo_json, say_warnings
from latespin.cli.progress import progress
from latespin.cli.stages import layout_for, with_ending
from latespin.jobs import Share
from latespin.model.documents.documents import Recipe
from latespin.model.timing.time_map import TimeMap
from latespin.model.values.units import clock
from latespin.model.version import UNTOUCHED


@click.command("map")
@click.argument("file", type=click.Path(path_type=Path))
@click.option("--version", "wanted", metavar="NAME", help="Which version of a session; the chosen one unless given.")
@click.option(
    "--recipe", metavar="NAME|FILE.json", multiple=True, help="Of a song: the recipe whose map is wanted, or several."
)
@click.option("--ending", type=EndingOption(), help="Of a song: how it ends, and where.")
@click.option("--json", "as_json", is_flag=True, help="Print the map as JSON.")
def time_map(
    file: Path, wanted: str | None, recipe: tuple[str, ...], ending: tuple[str, str] | None, as_json: bool
) -> None:
    """Print which stretch of the track sounds over which stretch of a version: FILE is a session or a song."""
    from latespin.model.arranging.arrangement import arrange
    from latespin.render.loading import open_version

    with progress("Reading", as_json) as work:
        if file.suffix.lower() == SESSION_SUFFIX:
            _, stages, layout = open_version(file, wanted, work)
        else:
            from latespin.media.track import open_track
            from latespin.render.recipes import load_recipes

            found = load_recipes(recipe)[0] if recipe else Recipe(name="", title="", stages=UNTOUCHED)
            stages = found.stages
            track = open_track(file, Share(work, 0.0, 0.5))
            layout = layout_for(track, stages, ending, None, Share(work, 0.5, 1.0))
            stages = with_ending(found.on(layout).stages, ending, layout.grid)
    arrangement = arrange(stages, layout)
    say_warnings(tuple(problem.says for problem in arrangement.problems))
    spans = _spans_of(arrangement.map)
    if as_json:
        facts = {
            "sample_rate": layout.rate, "before_frames": layout.frames, "after_frames": arrangement.map.after_frames, "spans": spans,
            "problems": [problem.says for problem in arrangement.problems],
        }  # fmt: skip
        echo_json(facts)
        return
    for span in spans:
        what = "silence" if span["silent"] else f"{span['speed_start']:.3f}× to {span['speed_end']:.3f}×"
        times = [
            clock(span[name] / layout.rate, 3) for name in ("after_start", "after_stop", "before_start", "before_stop")
        ]
        click.echo(f"After {times[0]} to {times[1]}: Before {times[2]} to {times[3]}, {what}")


def _spans_of(made: TimeMap) -> list[dict[str, Any]]:
    """Each span with the frames it covers on both sides and its speed, source frames for every frame, at both ends."""
    found = []
    for span in made.spans:
        ends = span.before_of(np.array([span.after_start, span.after_stop], dtype=np.float64)).tolist()
        speeds = [0.0, 0.0] if span.silent else [span.speed_at(span.after_start), span.speed_at(span.after_stop)]
        found.append(
            {
                "after_start": span.after_start, "after_stop": span.after_stop, "before_start": ends[0], "before_stop": ends[1],
                "speed_start": speeds[0], "speed_end": speeds[1], "silent": span.silent, "fade_frames": span.fade,
            }
        )  # fmt: skip
    return found
