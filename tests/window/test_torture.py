"""The real window used at random, always the same: a number of actions, however long they take."""

from tools.torture.window import torture_window

ACTIONS = 80


def test_the_window_used_at_random_shows_no_fault() -> None:
    found = torture_window(300.0, ACTIONS, 11)
    assert found["found"] == {}, found
    assert found["actions"] == ACTIONS
