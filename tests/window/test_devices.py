"""Sound devices: chosen while a song plays, gone and come back."""

import threading

import numpy as np
import pytest
from pytestqt.qtbot import QtBot

from latespin.desktop.session import audio_output
from latespin.desktop.session.audio_output import DeviceMaker
from latespin.desktop.session.settings import DEFAULT_DEVICE, SILENT_DEVICE
from latespin.desktop.shell.main_window import Window
from latespin.render.playback.null_device import SilentDevice
from latespin.render.playback.player import Player
from tests.window.conftest import wait

PRESENT: list[tuple[str, str]] = []  # what is plugged in
CARDS = [("usb", "Headphones & more"), ("hdmi", "Television")]


class Card(SilentDevice):
    """A sound card that keeps what it plays."""

    def __init__(self, player: Player, name: str) -> None:
        super().__init__(player, pace=2.0, remember_seconds=60.0)
        self.description, self.ended = name, False

    def close(self) -> None:
        assert threading.current_thread() is not threading.main_thread() or self.ended, (
            "the window does not wait for it"
        )
        self.ended = True
        super().close()


@pytest.fixture
def cards(monkeypatch: pytest.MonkeyPatch) -> list[Card]:
    """All cards that were opened; the system's own is the television."""
    opened: list[Card] = []
    names = dict(CARDS)

    def find(wanted: str = DEFAULT_DEVICE) -> DeviceMaker:
        def make(player: Player) -> SilentDevice:
            if wanted == SILENT_DEVICE:
                return SilentDevice(player)
            opened.append(Card(player, names.get(wanted, "Television")))
            return opened[-1]

        return make

    monkeypatch.setattr(audio_output, "find_output", find)
    monkeypatch.setattr(audio_output, "outputs", lambda: PRESENT[:])
    PRESENT[:] = CARDS
    return opened


def entry(window: Window, text: str) -> None:
    """Choose an entry of the menu."""
    next(action for action in window.devices.menu.actions() if text in action.text()).trigger()


def plug(window: Window, qtbot: QtBot, cards: list[tuple[str, str]]) -> None:
    """Have just these cards, and the window hear of it."""
    PRESENT[:] = cards
    window.devices.look()
    wait(qtbot, lambda: len(window.devices.menu.actions()) == 2 + len(cards))


def ticked(window: Window) -> list[str]:
    """The entry that holds."""
    return [action.text() for action in window.devices.menu.actions() if action.isChecked()]


def test_a_device_is_chosen_while_the_song_plays_on(short: Window, qtbot: QtBot, cards: list[Card]) -> None:
    player, playback = short.play.player, short.playback
    assert player is not None
    assert playback is not None
    short.devices.look()
    wait(qtbot, lambda: len(short.devices.menu.actions()) == 4)
    assert "Headphones && more" in [action.text() for action in short.devices.menu.actions()]
    short.run("play")
    wait(qtbot, lambda: player.playing and player.place()[1] > 0.3 * player.rate)
    place = player.place()[1]
    entry(short, "Headphones")
    wait(qtbot, lambda: cards and playback.device is cards[0])
    wait(qtbot, lambda: np.abs(cards[0].played()).max(initial=0.0) > 0.001)
    assert short.play.player is player, "the same player goes on"
    assert player.playing
    assert player.place()[1] > place
    assert ticked(short) == ["Headphones && more"]
    assert short.settings.output_device == "usb"
    entry(short, "None")
    wait(qtbot, lambda: playback.device is not None and playback.device is not cards[0])
    assert cards[0].ended
    assert short.settings.output_device == SILENT_DEVICE


def test_a_device_that_goes_away_gives_way_and_comes_back(short: Window, qtbot: QtBot, cards: list[Card]) -> None:
    said: list[tuple[str, bool]] = []
    short.devices.message.connect(lambda text, wrong: said.append((text, wrong)))
    playback = short.playback
    assert playback is not None
    plug(short, qtbot, CARDS)
    entry(short, "Headphones")
    wait(qtbot, lambda: playback.device is not None and playback.device.description == "Headphones & more")
    plug(short, qtbot, CARDS[1:])
    wait(qtbot, lambda: playback.device is not None and playback.device.description == "Television")
    assert said == [("Headphones & more is gone; the sound goes to the system’s device.", True)]
    assert short.settings.output_device == "usb", "the choice is remembered"
    plug(short, qtbot, CARDS)
    wait(qtbot, lambda: playback.device is not None and playback.device.description == "Headphones & more")
    assert said[1] == ("Headphones & more is back; the sound goes there.", False)
    entry(short, "system")
    wait(qtbot, lambda: playback.device is not None and playback.device.description == "Television")
    plug(short, qtbot, CARDS[:1])
    assert said[2] == ("Television is gone; the sound goes to the system’s device.", True)


def test_without_sound_cards_there_is_the_silent_device(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setenv("LATESPIN_DEVICE", SILENT_DEVICE)
    assert audio_output.outputs() == []
    assert audio_output.find_output("usb") is SilentDevice
