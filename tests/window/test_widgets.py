"""Controls on their own: the value bar, the task queue, forms that are kept, commands and their buttons."""

import threading

import pytest
from PySide6.QtCore import QEvent, QPoint, QPointF, Qt
from PySide6.QtGui import QWheelEvent
from PySide6.QtWidgets import QAbstractButton, QApplication, QLabel, QWidget
from pytestqt.qtbot import QtBot

from latespin.desktop.panels.solo_row import SoloRow
from latespin.desktop.session.commands import Command, CommandTable, command, declared, run
from latespin.desktop.session.tasks import Task, WorkQueue
from latespin.desktop.shell.commands.menus import MENUS
from latespin.desktop.shell.main_window import Window
from latespin.desktop.widgets.form_stack import KEPT, FormStack
from latespin.desktop.widgets.keyboard import BLACK, LOWEST, NOTES, TYPED, Keyboard
from latespin.desktop.widgets.value_bar import ValueBar
from latespin.errors import LateSpinError
from latespin.model.values.parameters import CEILING, SPEED
from tests.window.conftest import wait

LEFT = Qt.MouseButton.LeftButton


class Bar:
    """A value bar with all that it told."""

    def __init__(self, qtbot: QtBot) -> None:
        self.bar = ValueBar(CEILING, "level")
        self.bar.resize(250, 52)
        qtbot.addWidget(self.bar)
        self.bar.show()
        self.told: list[object] = []
        self.bar.changed.connect(self.told.append)
        self.bar.settled.connect(lambda: self.told.append("settled"))


@pytest.fixture
def told(qtbot: QtBot, qapp: QApplication) -> Bar:
    """A bar from −12 to 0 dBTP, at −1."""
    return Bar(qtbot)


def test_a_drag_tells_every_value_and_settles_once_at_its_end(told: Bar, qtbot: QtBot) -> None:
    bar = told.bar
    qtbot.mousePress(bar, LEFT, pos=QPoint(200, 30))
    qtbot.mouseMove(bar, QPoint(150, 30))
    qtbot.mouseMove(bar, QPoint(100, 30))
    assert told.told == pytest.approx([-3.4, -5.8], abs=0.11), "12 dB are 250 pixels"
    qtbot.mouseRelease(bar, LEFT, pos=QPoint(100, 30))
    assert told.told[-1] == "settled"
    assert told.told.count("settled") == 1


def test_with_shift_a_drag_is_ten_times_as_fine(told: Bar, qtbot: QtBot) -> None:
    bar = told.bar
    qtbot.mousePress(bar, LEFT, Qt.KeyboardModifier.ShiftModifier, QPoint(200, 30))
    event_at = QPointF(100, 30)
    from PySide6.QtGui import QMouseEvent

    move = QMouseEvent(
        QMouseEvent.Type.MouseMove, event_at, bar.mapToGlobal(event_at), Qt.MouseButton.NoButton, LEFT,
        Qt.KeyboardModifier.ShiftModifier,
    )  # fmt: skip
    QApplication.sendEvent(bar, move)
    assert bar.value == pytest.approx(-1.5, abs=0.06)


def test_a_press_that_does_not_move_changes_nothing(told: Bar, qtbot: QtBot) -> None:
    qtbot.mouseClick(told.bar, LEFT, pos=QPoint(40, 30))
    assert told.told == []


def wheel(bar: ValueBar, steps: float, modifiers: Qt.KeyboardModifier = Qt.KeyboardModifier.NoModifier) -> bool:
    """Turn the wheel over a bar; True where it took the event."""
    at = QPointF(50, 20)
    event = QWheelEvent(
        at, bar.mapToGlobal(at), QPoint(), QPoint(0, round(120 * steps)), Qt.MouseButton.NoButton, modifiers,
        Qt.ScrollPhase.NoScrollPhase, False,
    )  # fmt: skip
    QApplication.sendEvent(bar, event)
    return event.isAccepted()


def test_the_wheel_steps_a_bar_that_has_the_focus_and_scrolls_past_others(told: Bar, qtbot: QtBot) -> None:
    bar = told.bar
    bar.clearFocus()
    QApplication.sendEvent(bar, QEvent(QEvent.Type.Leave))
    assert not wheel(bar, 1.0)
    bar.setFocus()
    wait(qtbot, bar.hasFocus)
    assert wheel(bar, 2.0)
    assert bar.value == pytest.approx(-0.8)
    wheel(bar, -1.0, Qt.KeyboardModifier.ShiftModifier)
    assert bar.value == pytest.approx(-0.81)
    wheel(bar, 100.0)
    assert bar.value == 0.0, "never beyond its limit"


@pytest.mark.parametrize(
    ("key", "value"),
    [
        (Qt.Key.Key_Right, -0.9), (Qt.Key.Key_Left, -1.1), (Qt.Key.Key_PageUp, 0.0), (Qt.Key.Key_PageDown, -2.0),
        (Qt.Key.Key_Home, -1.0),
    ],
)  # fmt: skip
def test_keys_step_it(told: Bar, qtbot: QtBot, key: Qt.Key, value: float) -> None:
    qtbot.keyClick(told.bar, key)
    assert told.bar.value == pytest.approx(value)
    assert told.told[-1] == "settled"


@pytest.mark.parametrize(("text", "value"), [("-3.5", -3.5), ("−3,5 dBTP", -3.5), ("0", 0.0)])
def test_a_number_can_be_typed_as_people_write_it(told: Bar, qtbot: QtBot, text: str, value: float) -> None:
    qtbot.keyClick(told.bar, Qt.Key.Key_Return)
    told.bar._editor.setText(text)
    qtbot.keyClick(told.bar._editor, Qt.Key.Key_Return)
    assert told.bar.value == value
    assert told.told == [value, "settled"]


@pytest.mark.parametrize("text", ["loud", "5", "-40", "nan", ""])
def test_what_cannot_be_is_refused_and_stays_to_be_corrected(told: Bar, qtbot: QtBot, text: str) -> None:
    qtbot.keyClick(told.bar, Qt.Key.Key_Return)
    told.bar._editor.setText(text)
    qtbot.keyClick(told.bar._editor, Qt.Key.Key_Return)
    assert told.bar.value == -1.0
    assert told.bar._editor.isVisible()
    assert told.told == []
    qtbot.keyClick(told.bar._editor, Qt.Key.Key_Escape)
    assert not told.bar._editor.isVisible()


def test_a_logarithmic_bar_spreads_octaves_evenly(qtbot: QtBot, qapp: QApplication) -> None:
    bar = ValueBar(SPEED, "time")
    bar.resize(400, 52)
    qtbot.addWidget(bar)
    bar.show()
    qtbot.mousePress(bar, LEFT, pos=QPoint(200, 20))
    qtbot.mouseMove(bar, QPoint(300, 20))
    assert bar.value == pytest.approx(2.0, rel=0.01), "from 0.25 to 4 are four octaves in 400 pixels"


def test_setting_a_value_tells_nothing(told: Bar) -> None:
    told.bar.set_value(-6.0)
    assert told.bar.value == -6.0
    assert told.told == []
    assert "−6.0\N{NO-BREAK SPACE}dBTP" in told.bar.accessibleDescription()


# -- tasks --------------------------------------------------------------------------------------------------------------


@pytest.fixture
def work(qtbot: QtBot, qapp: QApplication):
    """A queue of its own, closed afterwards."""
    made = WorkQueue()
    yield made
    made.close()


def test_a_task_is_done_elsewhere_and_told_here(work: WorkQueue, qtbot: QtBot) -> None:
    threads, results = [], []

    def function(_: Task) -> int:
        threads.append(threading.current_thread())
        return 7

    def done(result: int) -> None:
        results.append((result, threading.current_thread()))

    task = work.submit(Task("Seven", "numbers", function, done))
    wait(qtbot, lambda: results)
    assert results == [(7, threading.main_thread())]
    assert threads[0] is not threading.main_thread()
    assert (task.state, task.fraction) == ("done", 1.0)


def test_nothing_is_delivered_after_a_cancel(work: WorkQueue, qtbot: QtBot) -> None:
    running, go_on, told = threading.Event(), threading.Event(), []

    def function(task: Task) -> int | None:
        running.set()
        go_on.wait(10.0)
        return None if task.cancelled() else 1

    first = work.submit(Task("First", "lane", function, told.append, told.append))
    second = work.submit(Task("Second", "lane", lambda _: told.append("ran"), told.append, told.append))
    wait(qtbot, running.is_set)
    first.cancel()
    second.cancel()
    go_on.set()
    wait(qtbot, lambda: not work.active())
    assert (first.state, second.state) == ("cancelled", "cancelled")
    assert told == []


def test_a_closed_queue_begins_nothing_more(work: WorkQueue, qtbot: QtBot) -> None:
    """A timer of a window that is being closed may still ask; neither an old lane nor a new one takes it."""
    work.submit(Task("First", "old", lambda _: None))
    wait(qtbot, lambda: not work.active())
    work.close()
    told: list[object] = []
    threads = threading.active_count()
    late = [work.submit(Task("Late", lane, told.append, told.append, told.append)) for lane in ("old", "new")]
    qtbot.wait(50)
    assert [task.state for task in late] == ["cancelled", "cancelled"]
    assert (told, work.active(), threading.active_count()) == ([], [], threads)


def test_a_closed_queue_tells_nothing_more(work: WorkQueue, qtbot: QtBot) -> None:
    """What ended just before, and was not told yet, would bring a closed window back to life."""
    told: list[object] = []
    next_begun = threading.Event()
    first = work.submit(Task("First", "lane", lambda _: 1, told.append, told.append))
    work.submit(Task("Next", "lane", lambda _: next_begun.set()))
    assert next_begun.wait(10.0)
    work.close()
    qtbot.wait(50)
    assert (told, first.state, work.active()) == ([], "cancelled", [])


def test_tasks_of_a_lane_run_in_order_and_lanes_beside_each_other(work: WorkQueue, qtbot: QtBot) -> None:
    order, meet = [], threading.Barrier(2, timeout=10.0)
    for number in range(3):
        work.submit(Task(str(number), "one", lambda _, n=number: order.append(n)))
    wait(qtbot, lambda: not work.active())
    assert order == [0, 1, 2]
    both = [work.submit(Task(lane, lane, lambda _: meet.wait())) for lane in ("one", "another")]
    wait(qtbot, lambda: not work.active())
    assert [task.state for task in both] == ["done", "done"]


@pytest.mark.parametrize(
    ("error", "words"),
    [(LateSpinError("The song is gone. Open another."), "The song is gone."), (ValueError("odd"), "Late Spin itself (odd)"), (MemoryError(), "not enough memory")],
)  # fmt: skip
def test_a_failure_is_told_in_words(work: WorkQueue, qtbot: QtBot, error: Exception, words: str) -> None:
    def function(_: Task) -> None:
        raise error

    told: list[str] = []
    task = work.submit(Task("Fails", "lane", function, on_failed=told.append))
    wait(qtbot, lambda: told)
    assert words in told[0]
    assert task.state == "failed"


# -- forms and commands -------------------------------------------------------------------------------------------------


def test_only_the_forms_used_last_are_kept(qtbot: QtBot, qapp: QApplication) -> None:
    made: list[str] = []

    def make(key: str) -> QLabel:
        made.append(key)
        return QLabel(key)

    stack: FormStack[QLabel] = FormStack(make)
    qtbot.addWidget(stack.widget)
    for key in "abcdefgh":
        assert stack.show(key).text() == key
        assert stack.widget.currentWidget() is stack.page(key)
        assert stack.widget.count() <= KEPT
    assert made == list("abcdefgh")
    stack.show("h")
    stack.show("e")
    assert made == list("abcdefgh"), "these were still there"
    stack.show("a")
    assert made[-1] == "a", "this one had to be made again"


class Bell:
    """Something with two commands."""

    def __init__(self) -> None:
        self.rung = 0

    @command("ring", "&Ring", menu="&Help", keys="R|Ctrl+R", group=2)
    def ring(self) -> None:
        """Ring it."""
        self.rung += 1

    @command("polish")
    def polish(self) -> None:
        """Polish it."""


def test_commands_are_run_by_name_and_an_unknown_one_is_a_fault() -> None:
    bell = Bell()
    run(bell, "ring")
    table = CommandTable(bell)
    table.run("ring")
    assert bell.rung == 2
    assert [c.ident for c in table.commands] == ["ring", "polish"]
    assert table.in_menu("&Help") == [Command("ring", "&Ring", "&Help", "R|Ctrl+R", 2)]
    assert table.in_menu("&Help")[0].shortcuts == ("R", "Ctrl+R")
    for unknown in (lambda: run(bell, "melt"), lambda: table.run("melt")):
        with pytest.raises(KeyError):
            unknown()
    with pytest.raises(ValueError, match="two commands"):
        CommandTable(bell, Bell())


def test_every_command_has_a_menu_a_title_and_keys_of_its_own(window: Window) -> None:
    table, keys = window.commands, []
    for made in table.commands:
        assert bool(made.menu) == bool(made.title)
        assert made.menu in ("", *MENUS)
        keys += made.shortcuts
        assert (made.ident in window.actions_by_name) == bool(made.menu)
    assert len(keys) == len(set(keys)), "no key runs two commands"
    for menu in MENUS:
        letters = [c.title[c.title.index("&") + 1].lower() for c in table.in_menu(menu) if "&" in c.title]
        assert len(letters) == len(set(letters)), f"two entries of {menu} have the same letter"


def test_every_button_asks_for_a_command_that_there_is(window: Window, qtbot: QtBot) -> None:
    controllers = window.controllers
    controllers.batch.open()
    controllers.recipes.open()
    known = {made.ident for made in window.commands.commands}
    for controller in (
        controllers.effects,
        controllers.level,
        controllers.batch,
        controllers.recipes,
        controllers.moments,
    ):
        known |= {made.ident for made, _ in declared(type(controller))}
    parts: list[QWidget] = [window, controllers.batch.dialog, controllers.recipes.dialog]  # type: ignore[list-item]
    asked = {b.property("command") for part in parts for b in part.findChildren(QAbstractButton)} - {None}
    assert len(asked) > 15
    assert asked <= known


def test_the_keyboard_lies_as_a_piano_does_and_no_note_hangs(qtbot: QtBot) -> None:
    """Black keys above and between the white ones beside them; each place of the picture belongs to one key."""
    keyboard = Keyboard()
    qtbot.addWidget(keyboard)
    keyboard.resize(640, 76)
    keyboard.show()
    pressed: list[int] = []
    released: list[int] = []
    keyboard.pressed.connect(pressed.append)
    keyboard.released.connect(released.append)
    rects = [keyboard.key_rect(step) for step in range(NOTES)]
    centres = [rect.center().x() for rect in rects]
    assert centres == sorted(centres)
    assert [rect.height() < 76 for rect in rects] == [step % 12 in BLACK for step in range(NOTES)]
    for step, rect in enumerate(rects):
        spot = rect.center() if step % 12 in BLACK else rect.center() + QPointF(0, 30)
        qtbot.mousePress(keyboard, Qt.MouseButton.LeftButton, pos=spot.toPoint())
        assert keyboard.held == {LOWEST + step}
        qtbot.mouseRelease(keyboard, Qt.MouseButton.LeftButton, pos=QPoint(0, 0))
        assert not keyboard.held
    assert pressed == released == [LOWEST + step for step in range(NOTES)]
    assert len(TYPED) == NOTES == len(set(TYPED))
    keyboard.setFocus()
    for _ in range(9):
        qtbot.keyClick(keyboard, Qt.Key.Key_PageDown)
    qtbot.keyPress(keyboard, Qt.Key.Key_A)
    assert keyboard.held == {LOWEST - 36}, "three octaves down at most"
    still = keyboard.grab().toImage()
    qtbot.keyClick(keyboard, Qt.Key.Key_PageUp)
    qtbot.keyRelease(keyboard, Qt.Key.Key_A)
    assert not keyboard.held, "the key that was pressed is released, whatever octave it is by now"
    assert keyboard.grab().toImage() != still


def test_solo_buttons_are_those_of_the_effect_and_one_is_pressed_at_most(qtbot: QtBot) -> None:
    row = SoloRow()
    qtbot.addWidget(row)
    wanted: list[int] = []
    row.wanted.connect(wanted.append)
    row.show_parts(("Low", "Mid", "High"), on=True)
    row.show_solo(1)
    row.show()
    assert [button.text() for button in row.buttons] == ["Low", "Mid", "High"]
    assert [button.isChecked() for button in row.buttons] == [False, True, False]
    qtbot.mouseClick(row.buttons[2], Qt.MouseButton.LeftButton)
    qtbot.mouseClick(row.buttons[1], Qt.MouseButton.LeftButton)
    assert wanted == [2, -1], "another part, and the whole"
    row.show_parts(("Mid", "Side"), on=False)
    assert [button.isVisible() for button in row.buttons] == [True, True, False]
    assert not any(button.isEnabled() for button in row.buttons)
    row.show_parts((), on=True)
    assert not row.isVisible()
