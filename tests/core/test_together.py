"""Several moments changed as one: fields, places, and what is left alone."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from latespin.errors import OutOfRange
from latespin.model.effects.effects import Echo, Hall
from latespin.model.moments.declaration import MOMENTS
from latespin.model.moments.faded_effects import EffectRange
from latespin.model.moments.moments import AnyMoment, Moments, Reverse, Stutter, TapeStop
from latespin.model.moments.moving import begun_at
from latespin.model.moments.together import moved_along, with_field
from latespin.model.timing.beat_grid import Grid
from latespin.model.timing.positions import Position

GRID = Grid(bpm=120.0)  # a beat is half a second


def at(kind: type[AnyMoment], start: float, ident: str, length: float = 2.0, **values: object) -> AnyMoment:
    """A moment on beats."""
    return kind(id=ident, start=Position(beat=start), end=Position(beat=start + length), **values)  # type: ignore[arg-type]


def timed(kind: type[AnyMoment], start: float, ident: str, length: float = 1.0) -> AnyMoment:
    """A moment off the beats."""
    return kind(id=ident, start=Position(seconds=start), end=Position(seconds=start + length))  # type: ignore[arg-type]


EVERY = [at(kind, 4.0 * i, name) for i, (name, kind) in enumerate(MOMENTS.items())]


@pytest.mark.parametrize("field", ["on", "label", "time", "tension", "amount_percent", "wet_db", "value", "gain_db"])
def test_a_field_is_set_in_every_moment_that_has_it(field: str) -> None:
    lead = next(moment for moment in EVERY if field in moment.__struct_fields__)
    value = {"on": False, "label": "chorus", "time": "add", "value": "1/8"}.get(
        field, -0.5 if field == "tension" else 1.0
    )
    value = -3.0 if field in ("wet_db", "gain_db") else value
    changed = with_field(EVERY, lead, field, value)
    assert [moment.id for moment in changed] == [moment.id for moment in EVERY if field in moment.__struct_fields__]
    assert all(getattr(moment, field) == value for moment in changed)
    before = {moment.id: moment for moment in EVERY}
    assert all(replace(moment, **{field: getattr(before[moment.id], field)}) == before[moment.id] for moment in changed)


def test_a_value_that_one_of_them_cannot_have_changes_none() -> None:
    with pytest.raises(OutOfRange, match="tension"):
        with_field(EVERY, EVERY[0], "tension", 9.0)


def test_of_an_effect_only_the_changed_setting_is_passed_on_and_only_to_the_same_kind() -> None:
    one = at(EffectRange, 0, "one", effect=Echo(amount_percent=10.0, feedback_percent=20.0))
    two = at(EffectRange, 4, "two", effect=Echo(amount_percent=60.0, feedback_percent=50.0))
    hall = at(EffectRange, 8, "hall", effect=Hall())
    changed = with_field([one, two, hall], one, "effect", Echo(amount_percent=10.0, feedback_percent=80.0))
    assert {moment.id: moment.effect for moment in changed} == {  # type: ignore[union-attr]
        "one": Echo(amount_percent=10.0, feedback_percent=80.0),
        "two": Echo(amount_percent=60.0, feedback_percent=80.0),
    }
    other = with_field([one, two, hall], one, "effect", Hall(decay_seconds=2.0))
    assert {moment.id: moment.effect for moment in other} == {  # type: ignore[union-attr]
        "one": Hall(decay_seconds=2.0), "two": Hall(decay_seconds=2.0),
    }  # fmt: skip


@given(by=st.integers(-3, 40), lead=st.integers(0, 2), seconds=st.floats(3.0, 60.0))
def test_all_move_as_far_as_the_one_that_is_moved_and_stay_as_long(by: int, lead: int, seconds: float) -> None:
    """On beats those on beats stay on beats; the distances between them are kept."""
    three = [at(Stutter, 4.0, "a"), at(Reverse, 11.0, "b", 0.5), timed(TapeStop, seconds, "c")]
    moved = begun_at(three[lead], three[lead].start.later(0.5 * by, float(by), GRID), GRID)
    changed = moved_along(three, three[lead], moved, GRID)
    assert changed[lead] == moved
    for before, after in zip(three, changed, strict=True):
        far = after.start.at(GRID) - before.start.at(GRID)
        assert far == pytest.approx(0.5 * by, abs=2e-4)
        lasts = [moment.end.at(GRID) - moment.start.at(GRID) for moment in (before, after)]
        assert lasts[1] == pytest.approx(lasts[0], abs=3e-4)
        if before.start.beat is not None and lead < 2:
            assert after.start.beat == before.start.beat + by


def test_moved_off_the_beats_all_are_and_not_moved_none_changes() -> None:
    three = [at(Stutter, 4.0, "a"), at(Reverse, 11.0, "b"), timed(TapeStop, 20.0, "c")]
    assert moved_along(three, three[0], three[0], GRID) == three
    off = begun_at(three[0], Position(seconds=2.1), GRID)
    changed = moved_along(three, three[0], off, GRID)
    assert [moment.start.at(GRID) for moment in changed] == pytest.approx([2.1, 5.6, 20.1], abs=1e-4)
    assert all(moment.start.beat is None for moment in changed)


def test_many_are_changed_added_and_removed_in_one_step() -> None:
    moments = Moments(placed=tuple(EVERY))
    added = [at(Reverse, 90.0, "new"), replace(EVERY[1], label="here")]
    changed = moments.with_all_changed(added)
    assert [moment.id for moment in changed.placed] == [*(moment.id for moment in EVERY), "new"]
    assert changed.find(EVERY[1].id) == added[1]
    left = changed.without("new", EVERY[0].id, "unknown")
    assert [moment.id for moment in left.placed] == [moment.id for moment in EVERY[1:]]
    assert left.without() == left
