"""What the desktop asks of programs, as its settings portal tells (XDG Desktop Portal, ``org.freedesktop.portal.Settings``)."""

import contextlib
from typing import Any

BUS_NAME, PATH, SETTINGS = (
    "org.freedesktop.portal.Desktop",
    "/org/freedesktop/portal/desktop",
    "org.freedesktop.portal.Settings",
)
WAIT_SECONDS = 0.5
#: Settings that ask for little motion: group, name, and the value that does.
STILL = (
    ("org.freedesktop.appearance", "reduced-motion", 1),
    ("org.gnome.desktop.interface", "enable-animations", False),
)


def motion_is_reduced() -> bool:
    """Whether the desktop asks for little motion; False where it does not say. May wait a second: not for the GUI thread."""
    from jeepney.io.blocking import open_dbus_connection

    try:
        connection = open_dbus_connection("SESSION")
    except (OSError, KeyError, ValueError):
        return False
    with contextlib.closing(connection):
        return any(_value(connection, group, name) == still for group, name, still in STILL)


def _value(connection: Any, group: str, name: str) -> Any:
    """A setting of the desktop; None where it has none."""
    from jeepney import DBusAddress, MessageType, new_method_call

    message = new_method_call(DBusAddress(PATH, BUS_NAME, SETTINGS), "Read", "ss", (group, name))
    try:
        reply = connection.send_and_get_reply(message, timeout=WAIT_SECONDS)
    except (OSError, ValueError):
        return None
    if reply.header.message_type is not MessageType.method_return:
        return None
    (value,) = reply.body
    while isinstance(value, tuple):  # a variant, or a variant in a variant
        value = value[1]
    return value
