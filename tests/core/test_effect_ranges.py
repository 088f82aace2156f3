"""Effects over a range: what is heard inside, nothing outside, overlaps, files, and the documents they stand in."""

from pathlib import Path

import numpy as np
import pytest
import soundfile
from msgspec.structs import replace

from latespin.dsp.arrays import Audio
from latespin.errors import Unusable
from latespin.model.documents.documents import Session, TrackReference, read_session, to_json
from latespin.model.effects.automation import Lane, LanePoint
from latespin.model.effects.declaration import EFFECTS, Effect
from latespin.model.effects.effects import Echo, Eq, Gain, Hall, Layer, Spin
from latespin.model.moments.declaration import moment_title
from latespin.model.moments.faded_effects import EffectRange
from latespin.model.moments.moments import Moments
from latespin.model.timing.beat_grid import Grid
from latespin.model.timing.positions import Position
from latespin.model.version import Colour, Stages, Version
from latespin.render.chain.renderer import TrackRenderer
from latespin.render.effects.problems import version_problems
from tests.conftest import level_db, sine, track_of
from tests.core.test_effects import music

RATE = 44_100
GRID = Grid(bpm=120.0)  # a beat is half a second
BEAT = RATE // 2


def over(effect: Effect, start: float, end: float, ident: str = "m", **values: float) -> EffectRange:
    """An effect between two beats."""
    return EffectRange(id=ident, start=Position(beat=start), end=Position(beat=end), effect=effect, **values)  # type: ignore[arg-type]


def rendered(sound: Audio, *moments: EffectRange, colour: Colour | None = None) -> Audio:
    """The version with these moments, before Level."""
    stages = Stages(moments=Moments(placed=moments), colour=colour or Colour())
    return TrackRenderer(track_of(sound), GRID).chain(stages).read(10**9)


@pytest.mark.parametrize("kind", EFFECTS.values(), ids=EFFECTS)
def test_every_effect_is_heard_in_its_range_and_leaves_the_rest_bit_for_bit(kind: type[Effect]) -> None:
    sound = music(5.0)
    effect = kind(low_shelf_db=12.0) if kind is Eq else kind()
    out = rendered(sound, over(effect, 4, 6))
    assert np.array_equal(out[:, : 4 * BEAT], sound[:, : 4 * BEAT])
    assert np.array_equal(out[:, 6 * BEAT : 10 * BEAT], sound[:, 6 * BEAT : 10 * BEAT])
    inside = slice(round(4.6 * BEAT), round(5.4 * BEAT))
    assert level_db(out[:, inside] - sound[:, inside]) > level_db(sound[:, inside]) - 45.0
    assert out.shape[1] == sound.shape[1], "nothing rings on beyond the song"


def test_the_amount_fades_in_and_out_within_the_range() -> None:
    """A gain of −12 dB at half the amount is −6 dB; a quarter of the range in, a half out, straight in the amount."""
    sound = sine(440.0, 8.0, level=0.5)
    fades = over(Gain(gain_db=-12.0, amount_percent=50.0), 4, 12, attack_percent=25.0, release_percent=50.0)
    out = rendered(sound, fades)
    for beat, share in ((3.9, 0.0), (5.0, 0.5), (6.0, 1.0), (8.0, 1.0), (10.0, 0.5), (12.1, 0.0)):
        here = slice(round(beat * BEAT) - 600, round(beat * BEAT) + 600)
        assert level_db(out[:, here]) - level_db(sound[:, here]) == pytest.approx(-6.0 * share, abs=0.3), beat


def test_ranges_may_overlap_each_other_and_the_versions_effects() -> None:
    """Gains add up where ranges overlap, whatever their order; and come on top of a gain of the whole version."""
    sound = sine(440.0, 6.0, level=0.5)
    quick = {"attack_percent": 0.0, "release_percent": 0.0}
    first, second = over(Gain(gain_db=-3.0), 2, 6, "a", **quick), over(Gain(gain_db=-5.0), 4, 8, "b", **quick)
    whole = Colour(effects=(Gain(id="w", gain_db=-2.0),))
    for moments in ((first, second), (second, first)):
        out = rendered(sound, *moments, colour=whole)
        for beat, wanted in ((1.0, -2.0), (3.0, -5.0), (5.0, -10.0), (7.0, -7.0), (9.0, -2.0)):
            here = slice(round(beat * BEAT) - 2000, round(beat * BEAT) + 2000)
            assert level_db(out[:, here]) - level_db(sound[:, here]) == pytest.approx(wanted, abs=0.02), beat


def test_a_song_of_one_channel_becomes_stereo_for_it_and_blocks_may_be_cut_anywhere() -> None:
    mono = music(4.0)[:1]
    stages = Stages(moments=Moments(placed=(over(Spin(), 2, 5), over(Hall(), 3, 6, "h"))))
    readers = TrackRenderer(track_of(mono), GRID)
    whole = readers.chain(stages).read(10**9)
    assert whole.shape[0] == 2
    pieces, chain = [], readers.chain(stages)
    while chain.position < chain.frames:
        pieces.append(chain.read(7_919))
    assert np.allclose(np.concatenate(pieces, axis=1), whole, atol=1e-6)
    chain.seek(round(4.5 * BEAT))
    there = chain.read(BEAT)
    assert level_db(there - whole[:, round(4.5 * BEAT) :][:, :BEAT]) < level_db(whole) - 80.0


def test_its_effect_has_no_automation_and_names_it() -> None:
    lane = Lane(field="amount_percent", points=(LanePoint(at=Position(beat=1.0), value=3.0),))
    with pytest.raises(Unusable, match="cannot be automated"):
        over(Echo(lanes=(lane,)), 1, 2)
    assert moment_title(over(Echo(), 1, 2)) == "Echo"


def test_its_file_is_one_of_the_sessions_and_missed_where_it_is_not_there(tmp_path: Path) -> None:
    rain = tmp_path / "rain.wav"
    soundfile.write(rain, np.full((RATE, 2), 0.25), RATE)
    layer = over(Layer(sound="file", path=str(rain), gain_db=0.0, amount_percent=100.0, keep_level=False), 2, 6)
    stages = Stages(moments=Moments(placed=(layer,)))
    session = Session(
        track=TrackReference(path="song.wav", sha256="0" * 64), versions=(Version(id="v", name="V", stages=stages),)
    )
    again = read_session(to_json(session), "a.latespin")
    assert again == session
    assert str(rain) in again.files()
    moved = again.with_sounds(lambda path: "/elsewhere/" + Path(path).name)
    assert "/elsewhere/rain.wav" in moved.files()
    readers = TrackRenderer(track_of(music(4.0)), GRID)

    def problems(stages: Stages) -> list[str]:
        return [
            problem.id for problem in version_problems(stages, readers.arrangement(stages), readers.context(stages))
        ]

    assert not problems(stages)
    assert problems(moved.versions[0].stages) == ["m"]
    gone = replace(layer, on=False)
    assert not problems(Stages(moments=Moments(placed=(gone,))))
