"""Picture files and covers of any size, read no larger than any video needs."""

from pathlib import Path

from PySide6.QtCore import QBuffer, QByteArray, QIODevice, QSize, Qt
from PySide6.QtGui import QImage, QImageReader

from latespin.desktop.translation import tr
from latespin.errors import shortened

PICTURE_FILTER = "Pictures (*.jpg *.jpeg *.png *.webp *.bmp)"
LARGEST_SIDE = 3840
MOST_MEGAPIXELS = 120.0  # such a picture takes half a gigabyte until it is made smaller
ALLOCATION_MB = 512


def read_picture(source: Path | bytes, side: int = LARGEST_SIDE) -> tuple[QImage, str]:
    """A picture, upright, at most ``side`` pixels wide and high; and what is wrong, where it could not be read."""
    buffer = QBuffer()
    if isinstance(source, bytes):
        buffer.setData(QByteArray(source))
        buffer.open(QIODevice.OpenModeFlag.ReadOnly)
        reader, name = QImageReader(buffer), tr("The cover")
    else:
        reader, name = QImageReader(str(source)), shortened(source.name)
    reader.setDecideFormatFromContent(True)
    reader.setAutoTransform(True)
    size = reader.size()
    megapixels = size.width() * size.height() / 1e6
    if megapixels > MOST_MEGAPIXELS:
        return QImage(), tr("{0} has {1:.0f} megapixels; at most {2:.0f} can be used. Make it smaller first.").format(
            name, megapixels, MOST_MEGAPIXELS
        )
    if max(size.width(), size.height()) > side:
        reader.setScaledSize(size.scaled(QSize(side, side), Qt.AspectRatioMode.KeepAspectRatio))
    QImageReader.setAllocationLimit(ALLOCATION_MB)
    image = reader.read()
    if image.isNull():
        return image, tr("{0} is not a picture that can be read ({1}). Choose another.").format(
            name, reader.errorString()
        )
    return image.convertToFormat(QImage.Format.Format_RGB32), ""
