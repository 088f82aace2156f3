"""A few seconds of the real window used at random, always the same."""

from tools.torture.window import torture_window


def test_the_window_used_at_random_shows_no_fault() -> None:
    found = torture_window(5.0, 250, 11)
    assert found["found"] == {}, found
    assert found["actions"] > 60
