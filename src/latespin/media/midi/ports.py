"""Control surfaces that are connected, by the ALSA sequencer and by a local socket; they may come and go."""

import logging
import threading
from collections.abc import Callable
from pathlib import Path
from typing import Any, Protocol

import mido

from latespin.language import tr
from latespin.media.midi.surface_socket import SurfaceSocket

LOG = logging.getLogger(__name__)
SEQUENCER = Path("/dev/snd/seq")
CLIENT = "Late Spin"
LOOK_SECONDS = 1.0
PASSED_OVER = ("Midi Through", CLIENT)
Heard = Callable[[str, mido.Message], None]


class Port(Protocol):
    """A surface that is connected."""

    def send(self, message: mido.Message) -> None:
        """Send it a message; one that cannot be sent is lost."""

    def close(self) -> None:
        """Disconnect it."""


def sequencer_problem() -> str:
    """Why the ALSA sequencer cannot be used, in a sentence; empty where it can be."""
    if not SEQUENCER.exists():
        return tr("This computer has no ALSA sequencer ({0}), so MIDI devices cannot be connected.").format(SEQUENCER)
    try:
        import rtmidi

        rtmidi.MidiIn(rtmidi.API_LINUX_ALSA, CLIENT).delete()
    except ImportError:
        return tr("The package python-rtmidi is missing, so MIDI devices cannot be connected.")
    except Exception:  # rtmidi's own, for a sequencer without rights to it
        return tr("The ALSA sequencer cannot be opened. Add yourself to the group “audio” to connect MIDI devices.")
    return ""


class SequencerPort:
    """An input of the ALSA sequencer, and the output of the same name if there is one."""

    def __init__(self, name: str, heard: Heard) -> None:
        import rtmidi

        self._in, self._out = (kind(rtmidi.API_LINUX_ALSA, CLIENT) for kind in (rtmidi.MidiIn, rtmidi.MidiOut))
        self._in.ignore_types(sysex=True, timing=False, active_sense=True)
        parser = mido.Parser()

        def hear(event: tuple[list[int], float], _: Any) -> None:
            parser.feed(event[0])
            for message in parser:
                heard(name, message)

        self._in.open_port(self._in.get_ports().index(name))
        self._in.set_callback(hear)
        outputs = self._out.get_ports()
        self._lit = name in outputs
        if self._lit:
            self._out.open_port(outputs.index(name))

    def send(self, message: mido.Message) -> None:
        """Send it a message, if it takes any."""
        if self._lit:
            try:
                self._out.send_message(message.bytes())
            except Exception:
                LOG.exception("sending to a MIDI device failed")

    def close(self) -> None:
        """Disconnect it."""
        for end in (self._in, self._out):
            end.close_port()
            end.delete()


class Surfaces:
    """All control surfaces. heard : is called with a surface's name and its message; changed : when one comes or goes.

    Both are called in threads of its own. problem : why MIDI devices cannot be connected, or an empty sentence.
    """

    def __init__(self, heard: Heard, changed: Callable[[], None]) -> None:
        self._heard, self._changed = heard, changed
        self._ports: dict[str, Port] = {}
        self._refused: set[str] = set()  # devices that could not be connected
        self._stopping = threading.Event()
        self.problem = ""
        self.socket = SurfaceSocket(heard, changed)
        self._thread = threading.Thread(target=self._watch, name="control surfaces", daemon=True)
        self._thread.start()

    @property
    def names(self) -> tuple[str, ...]:
        """Those that are connected."""
        return (*self._ports, *self.socket.names)

    def send(self, name: str, message: mido.Message) -> None:
        """Send a message to a surface; to one that has gone, nothing happens."""
        port = self._ports.get(name)
        if port is not None:
            port.send(message)
        else:
            self.socket.send(name, message)

    def close(self) -> None:
        """Disconnect all; waits up to two seconds."""
        self._stopping.set()
        self.socket.close()
        self._thread.join(2.0)

    def _watch(self) -> None:
        self.problem = sequencer_problem()
        self._changed()
        while not self.problem and not self._stopping.is_set():
            try:
                self._look()
            except Exception:
                LOG.exception("looking for MIDI devices failed")
            self._stopping.wait(LOOK_SECONDS)
        for port in self._ports.values():
            port.close()
        self._ports.clear()

    def _look(self) -> None:
        """Connect what has come, and let go of what has gone."""
        import rtmidi

        watcher = rtmidi.MidiIn(rtmidi.API_LINUX_ALSA, CLIENT)
        there = [name for name in watcher.get_ports() if not name.startswith(PASSED_OVER)]
        watcher.delete()
        gone, come = [n for n in self._ports if n not in there], [n for n in there if n not in self._ports]
        for name in gone:
            self._ports.pop(name).close()
        connected = [name for name in come if self._connect(name)]
        if gone or connected:
            self._changed()

    def _connect(self, name: str) -> bool:
        """Connect a device; one that cannot be connected holds up no other, and is tried again next time."""
        try:
            self._ports[name] = SequencerPort(name, self._heard)
        except Exception:
            if name not in self._refused:
                LOG.exception("the MIDI device %s cannot be connected", name)
            self._refused.add(name)
            return False
        self._refused.discard(name)
        return True
