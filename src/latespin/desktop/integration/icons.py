"""Our icons, drawn as SVG and rendered at the sizes that desktops look for."""

from importlib import resources

from PySide6.QtCore import QBuffer, QByteArray, QIODevice, Qt
from PySide6.QtGui import QImage, QPainter
from PySide6.QtSvg import QSvgRenderer

SIZES = (16, 22, 24, 32, 48, 64, 128, 256, 512)


def svg(name: str) -> bytes:
    """The drawing: ``latespin`` or ``session``."""
    return (resources.files("latespin.desktop.theme") / "icons" / f"{name}.svg").read_bytes()


def rendered(name: str, size: int) -> bytes:
    """The drawing as a PNG, ``size`` pixels wide and high."""
    image = QImage(size, size, QImage.Format.Format_ARGB32)
    image.fill(Qt.GlobalColor.transparent)
    painter = QPainter(image)
    QSvgRenderer(QByteArray(svg(name))).render(painter)
    painter.end()
    data, buffer = QByteArray(), QBuffer()
    buffer.setBuffer(data)
    buffer.open(QIODevice.OpenModeFlag.WriteOnly)
    image.save(buffer, "PNG")  # type: ignore[call-overload]
    return bytes(data.data())
