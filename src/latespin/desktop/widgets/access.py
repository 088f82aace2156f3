"""What screen readers are told of widgets that paint themselves: a role, and a value with its unit.

A widget says so with a class attribute ``ACCESS_ROLE``, and, where it has a value, with a method ``access_value``.
"""

from typing import Any

from PySide6.QtCore import QObject
from PySide6.QtGui import QAccessible, QAccessibleInterface, QAccessibleValueChangeEvent
from PySide6.QtWidgets import QAccessibleWidget, QWidget

_kept: dict[int, QAccessibleWidget] = {}  # Qt has them, and does not keep their Python halves


def install_access() -> None:
    """Make the roles and values of our widgets known to Qt; once for the application."""
    QAccessible.installFactory(_made)


def tell_value(widget: QWidget) -> None:
    """Tell screen readers, where there are any, that the value of a widget has changed."""
    if QAccessible.isActive():
        QAccessible.updateAccessibility(QAccessibleValueChangeEvent(widget, widget.access_value()))  # type: ignore[attr-defined]


def _made(_: str, thing: QObject | None) -> QAccessibleInterface | None:
    role = getattr(thing, "ACCESS_ROLE", None)
    if not isinstance(thing, QWidget) or role is None:
        return None
    key = id(thing)
    made = _kept[key] = _Access(thing, role)
    thing.destroyed.connect(lambda: _kept.pop(key, None))
    return made


class _Access(QAccessibleWidget):
    """A widget as screen readers see it."""

    def __init__(self, widget: QWidget, role: QAccessible.Role) -> None:
        super().__init__(widget, role)
        self._value: Any = getattr(widget, "access_value", None)

    def text(self, kind: QAccessible.Text) -> str:
        """The name, the value or the description."""
        if kind == QAccessible.Text.Value and self._value is not None:
            return str(self._value())
        return super().text(kind)
