"""The sound card through Qt Multimedia, or the silent device."""

import logging
import os
from collections.abc import Callable
from typing import Protocol

import numpy as np
from PySide6.QtCore import QIODevice, QThread

from latespin.desktop.session.settings import DEFAULT_DEVICE, SILENT_DEVICE
from latespin.render.playback.null_device import Playable, SilentDevice

LOG = logging.getLogger(__name__)
BUFFER_SECONDS = 0.06


class Device(Protocol):
    """Something that pulls sound until it is closed."""

    description: str

    def close(self) -> None:
        """Stop pulling."""


DeviceMaker = Callable[[Playable], Device]


def find_output(wanted: str = DEFAULT_DEVICE) -> DeviceMaker:
    """Return a function that opens a sound card, by default the system's, or the silent device if there is none or LATESPIN_DEVICE=silent.

    wanted : its id; one that is not there gives way to the system's. Slow, since it loads Qt Multimedia and asks the system: not for the
    main thread.
    """
    if SILENT_DEVICE not in (os.environ.get("LATESPIN_DEVICE"), wanted):
        from PySide6.QtMultimedia import QMediaDevices

        there = {_id(device): device for device in QMediaDevices.audioOutputs()}
        device = there.get(wanted, QMediaDevices.defaultAudioOutput())
        if not device.isNull():
            return lambda player: SinkDevice(player, device)
    return SilentDevice


def outputs() -> list[tuple[str, str]]:
    """Id and description of every sound card; none with LATESPIN_DEVICE=silent. Slow, as :func:`find_output`."""
    if os.environ.get("LATESPIN_DEVICE") == SILENT_DEVICE:
        return []
    from PySide6.QtMultimedia import QMediaDevices

    return [(_id(device), device.description()) for device in QMediaDevices.audioOutputs()]


def _id(device: "QAudioDevice") -> str:  # type: ignore[name-defined]  # noqa: F821
    return bytes(device.id().data()).decode("utf-8", "replace")


class SinkDevice(QThread):
    """A sound card. It runs in its own thread, so that a busy window never interrupts the sound."""

    def __init__(self, player: Playable, device: "QAudioDevice") -> None:  # type: ignore[name-defined]  # noqa: F821
        super().__init__()
        self._player, self._device = player, device
        self.description = device.description()
        self.start()

    def run(self) -> None:
        """Feed the sink until the thread is told to stop."""
        from PySide6.QtMultimedia import QAudioFormat, QAudioSink

        wanted = QAudioFormat()
        wanted.setSampleRate(self._player.rate)
        wanted.setChannelCount(2)
        wanted.setSampleFormat(QAudioFormat.SampleFormat.Float)
        if not self._device.isFormatSupported(wanted):
            wanted.setSampleRate(self._device.preferredFormat().sampleRate())
        source = _Source(self._player, wanted.sampleRate())
        sink = QAudioSink(self._device, wanted)
        sink.setBufferSize(int(BUFFER_SECONDS * wanted.sampleRate()) * 8)
        source.open(QIODevice.OpenModeFlag.ReadOnly)
        sink.start(source)
        self.exec()
        sink.stop()
        source.close()

    def close(self) -> None:
        """End the thread; waits up to two seconds."""
        self.quit()
        self.wait(2000)


class _Source(QIODevice):
    """The source of the sink: interleaved float32 stereo, resampled if the card has another rate."""

    def __init__(self, player: Playable, rate: int) -> None:
        super().__init__()
        self._player, self._ratio = player, player.rate / rate
        self._resampler = None
        if rate != player.rate:
            import soxr

            self._resampler = soxr.ResampleStream(player.rate, rate, 2, dtype="float32")

    def readData(self, most: int) -> bytes:
        frames = max(1, int(most // 8 * self._ratio))
        block = np.ascontiguousarray(self._player.pull(frames).T)
        if self._resampler is not None:
            block = self._resampler.resample_chunk(block)
        return block.tobytes()[: most // 8 * 8]

    def writeData(self, data: bytes | bytearray | memoryview, size: int) -> int:
        return -1

    def bytesAvailable(self) -> int:
        return 1 << 16

    def isSequential(self) -> bool:
        return True
