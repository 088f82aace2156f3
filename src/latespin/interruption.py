"""Stopping on signals: recorded as well as raised, since other code may swallow the exception."""

import signal
from typing import NoReturn

_SIGNALS: list[int] = []


def listen() -> None:
    """Have SIGTERM and, unless this process was started with it ignored, SIGINT interrupt the main thread."""
    signal.signal(signal.SIGTERM, _interrupt)
    if signal.getsignal(signal.SIGINT) is not signal.SIG_IGN:
        signal.signal(signal.SIGINT, _interrupt)


def interrupted() -> bool:
    """Whether this process was asked to stop."""
    return bool(_SIGNALS)


def _interrupt(number: int, _: object) -> NoReturn:
    """Once: what is tidied up then is not interrupted again."""
    _SIGNALS.append(number)
    signal.signal(signal.SIGTERM, signal.SIG_IGN)
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    raise KeyboardInterrupt
