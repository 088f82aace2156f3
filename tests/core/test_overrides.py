"""Single settings given as text: every number of every kind can be, and what is wrong is named."""

import subprocess
from collections.abc import Callable
from pathlib import Path

import msgspec
import pytest
import soundfile

from latespin.errors import Unusable
from latespin.model.documents.overrides import overridden
from latespin.model.effects.declaration import EFFECTS
from latespin.model.effects.effects import Echo, Hall
from latespin.model.moments.declaration import MOMENTS
from latespin.model.moments.endings import EchoEnd, Ending
from latespin.model.moments.moments import Moments
from latespin.model.timing.positions import Position
from latespin.model.values.parameters import parameters_of
from latespin.model.version import Colour, Stages
from tests.conftest import noise

Run = Callable[..., subprocess.CompletedProcess[str]]
STAGES = Stages(
    colour=Colour(effects=(Echo(id="a"), Hall(id="b"), Echo(id="c"))),
    ending=Ending(way=EchoEnd()),
    moments=Moments(placed=tuple(kind(id=name, start=Position(beat=1.0), end=Position(beat=2.0)) for name, kind in MOMENTS.items())),
)  # fmt: skip


@pytest.mark.parametrize("kind", EFFECTS)
def test_every_number_of_an_effect_can_be_set(kind: str) -> None:
    stages = Stages(colour=Colour(effects=(EFFECTS[kind](id="one"),)))
    for name, parameter in parameters_of(EFFECTS[kind]).items():
        changed = overridden(stages, (f"effects.{kind}.{name}={parameter.high}",))
        assert getattr(changed.colour.effects[0], name) == parameter.high
        with pytest.raises(Unusable, match=name):
            overridden(stages, (f"effects.one.{name}={2.0 * abs(parameter.high) + 1.0}",))


@pytest.mark.parametrize("kind", MOMENTS)
def test_every_number_of_a_moment_can_be_set(kind: str) -> None:
    for name, parameter in parameters_of(MOMENTS[kind]).items():
        changed = overridden(STAGES, (f"moments.{kind}.{name}={parameter.low}",))
        assert getattr(changed.moments.find(kind), name) == parameter.low


def test_items_are_named_by_number_id_or_kind_and_later_settings_count() -> None:
    changed = overridden(
        STAGES,
        (
            "effects.2.feedback_percent=10",
            "effects.a.value=1/8d",
            "colour.effects.hall.on=false",
            "time.speed=0.9",
            "time.speed=0.8",
            "ending.way.wow_percent=2",
        ),
    )
    first, hall, last = changed.colour.effects
    assert (first.value, hall.on, last.feedback_percent) == ("1/8d", False, 10.0)
    assert changed.time.speed == 0.8
    assert changed.ending.way.wow_percent == 2.0
    assert overridden(changed, ()) == changed


@pytest.mark.parametrize(
    ("setting", "says"),
    [
        ("time.speed", "sets nothing"), ("time.velocity=1", "There is no “velocity”. It can be character"), ("effects.reverb.size=1", "It can be echo, hall, echo"),
        ("time.speed=quick", "time.speed"), ("time.speed.more=1", "nothing to set here"), ("time.speed=99", "99"), ("x" * 5_000 + "=1", "There is no"),
        ("effects.9.value=1", "There is no “9”"),
    ],
)  # fmt: skip
def test_what_cannot_be_set_is_said(setting: str, says: str) -> None:
    with pytest.raises(Unusable) as caught:
        overridden(STAGES, (setting,))
    assert says in str(caught.value)
    assert len(str(caught.value)) < 900


def test_a_render_takes_settings(tmp_path: Path, here: Run) -> None:
    song = tmp_path / "song.wav"
    soundfile.write(song, noise(4.0).T, 44_100)
    out = tmp_path / "out.wav"
    done = here("render", song, out, "--recipe", "sped-up", "--set", "time.speed=0.5", "--set", "level.on=false")
    assert done.returncode == 0, done.stderr
    assert soundfile.info(out).frames == pytest.approx(8 * 44_100, abs=2)
    wrong = here("render", song, tmp_path / "no.wav", "--set", "time.rate=2")
    assert wrong.returncode == 2
    assert "There is no “rate”" in wrong.stderr
    assert not (tmp_path / "no.wav").exists()
    assert msgspec.to_builtins(STAGES)["time"]["speed"] == 1.0
