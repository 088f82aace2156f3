"""Cards and ribbons: where things are, which colours they have, and that they move with the sound."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from PySide6.QtCore import QRectF
from PySide6.QtGui import QColor, QImage, QPainter
from pytestqt.qtbot import QtBot

from latespin.desktop.movies.card import Card, CardLayout
from latespin.desktop.movies.image_files import read_picture
from latespin.desktop.movies.palette import EVENING_PALETTE, palette_of
from latespin.desktop.movies.pictures import CardPictures
from latespin.desktop.movies.ribbons import SECONDS_SEEN, Ribbons, RibbonSource
from latespin.jobs import Quietly
from latespin.media.audio.peaks import find_peaks
from latespin.model.timing.beat_grid import Grid
from latespin.model.timing.time_map import compile_time_map
from latespin.model.version import Time

RATE = 8000
SECONDS = 20.0


def clicks(*at: float, seconds: float = SECONDS) -> np.ndarray:
    """Silence with bursts of 50 ms."""
    sound = np.zeros((1, round(seconds * RATE)), np.float32)
    for place in at:
        sound[:, round(place * RATE) : round((place + 0.05) * RATE)] = 0.9
    return sound


def source(speed: float = 0.8, grid: Grid | None = None) -> RibbonSource:
    """A song with a click at 8 s, slowed: there it is heard at 10 s."""
    time_map = compile_time_map(Time(speed=speed), round(SECONDS * RATE), RATE)
    before = find_peaks(clicks(8.0), RATE)
    after = find_peaks(clicks(8.0 / speed, seconds=SECONDS / speed), RATE)
    return RibbonSource(before, after, time_map, grid)


def pixels(image: QImage) -> np.ndarray:
    """``[height, width, 3]``."""
    made = image.convertToFormat(QImage.Format.Format_RGB888)
    rows = np.frombuffer(made.constBits(), np.uint8).reshape(made.height(), made.bytesPerLine())
    return rows[:, : 3 * made.width()].reshape(made.height(), made.width(), 3).astype(int)


def drawn(ribbons: RibbonSource, seconds: float, width: int = 900, height: int = 300) -> np.ndarray:
    """The ribbons alone, on black."""
    image = QImage(width, height, QImage.Format.Format_RGB32)
    image.fill(QColor("black"))
    painter = QPainter(image)
    Ribbons(ribbons, EVENING_PALETTE, QRectF(0, 0, width, height)).paint(painter, seconds)
    painter.end()
    return pixels(image)


@given(width=st.integers(200, 4000), height=st.integers(200, 4000), covered=st.booleans(), ribbons=st.booleans())
def test_nothing_on_a_card_leaves_it_or_lies_over_another_thing(
    width: int, height: int, covered: bool, ribbons: bool
) -> None:
    layout = CardLayout.of(width, height, covered=covered, ribbons=ribbons)
    whole = QRectF(0, 0, width, height)
    things = [layout.text, *([layout.cover] if covered else []), *([layout.ribbons] if ribbons else [])]
    for number, thing in enumerate(things):
        assert thing.width() > 0
        assert thing.height() > 0
        assert whole.adjusted(-1, -1, 1, 1).contains(thing)
        assert not any(thing.adjusted(1, 1, -1, -1).intersects(other) for other in things[number + 1 :])


@pytest.mark.parametrize("size", [(320, 180), (200, 200), (180, 320)])
@pytest.mark.parametrize(
    "title", ["Ice", "The last skate before the lights come up and everybody has to find their shoes again", "W" * 60]
)
def test_a_title_of_any_length_is_on_the_card(qtbot: QtBot, size: tuple[int, int], title: str) -> None:
    """It is drawn within its room: what is outside of it is the plain ground."""
    card = Card(title, "The Wheelmen", "slowed")
    empty, full = (pixels(next_image(CardPictures(each, size))) for each in (Card(""), card))
    layout = CardLayout.of(*size, covered=False, ribbons=False)
    changed = np.argwhere(np.abs(full - empty).sum(axis=2) > 60)
    assert len(changed) > 50
    (top, left), (bottom, right) = changed.min(axis=0), changed.max(axis=0)
    assert left >= layout.text.left() - 2
    assert right <= layout.text.right() + 2
    assert top >= layout.text.top() - 2
    assert bottom <= layout.text.bottom() + 2


def next_image(pictures: CardPictures) -> QImage:
    """The card without anything that moves."""
    return pictures.drawn()[0]


@given(hue=st.integers(0, 359))
@settings(max_examples=20, deadline=None)
def test_the_colours_are_the_covers_and_text_is_readable_on_them(hue: int) -> None:
    cover = QImage(60, 60, QImage.Format.Format_RGB32)
    cover.fill(QColor.fromHsl(hue, 200, 120))
    palette = palette_of(cover)
    away = abs((palette.ground.hslHueF() * 360 - hue + 180) % 360 - 180)
    assert away < 12
    for ink in (palette.ink, palette.ink_soft, palette.before, palette.after):
        assert contrast(ink, palette.panel) > 4.5, "WCAG 2 AA"


def contrast(first: QColor, second: QColor) -> float:
    """By WCAG 2.2."""

    def luminance(colour: QColor) -> float:
        parts = np.array([colour.redF(), colour.greenF(), colour.blueF()])
        linear = np.where(parts <= 0.04045, parts / 12.92, ((parts + 0.055) / 1.055) ** 2.4)
        return float(linear @ [0.2126, 0.7152, 0.0722])

    low, high = sorted((luminance(first), luminance(second)))
    return (high + 0.05) / (low + 0.05)


def test_a_grey_cover_and_none_have_the_windows_colours() -> None:
    grey = QImage(10, 10, QImage.Format.Format_RGB32)
    grey.fill(QColor("#777777"))
    assert palette_of(grey) == palette_of(None) == EVENING_PALETTE


@pytest.mark.parametrize("late", [-1.0, 0.0, 1.0])
def test_what_sounds_is_under_the_line_in_both_ribbons(late: float) -> None:
    """The click of 8 s in the song is heard at 10 s: then it is under the line above and below; a second later a second to the left."""
    band = drawn(source(), 10.0 + late)
    second = 900 / SECONDS_SEEN[True]
    for rows, speed in ((slice(10, 110), 0.8), (slice(190, 290), 1.0)):
        lit = band[rows].sum(axis=2).max(axis=0)
        lit[450 - 3 : 450 + 4] = 0 if late else lit[450 - 3 : 450 + 4]  # the line itself
        middle = float(np.mean(np.flatnonzero(lit > 60)))
        expected = 450 - late * speed * second + 0.025 * second
        assert middle == pytest.approx(expected, abs=4.0)


def test_threads_lead_from_each_beat_to_where_it_is_heard() -> None:
    grid = Grid(bpm=60.0, first_beat_seconds=0.0)
    ribbons = source(grid=grid)
    song, heard, strong = ribbons.threads()
    assert heard == pytest.approx(song / 0.8, abs=0.001)
    assert strong.sum() == len(song[::4])
    band, second = drawn(ribbons, 10.0), 900 / SECONDS_SEEN[True]
    between = band[122:124].sum(axis=(0, 2))  # the top of the threads
    found = np.flatnonzero(between > 150)
    wanted = 450 + (np.arange(20) - 8.0) * second
    assert all(np.abs(wanted - x).min() < 4.0 for x in found)


def test_frames_of_a_moving_card_change_in_their_band_and_nowhere_else() -> None:
    size = 320, 180
    pictures = CardPictures(Card("Lantern", "The Wheelmen"), size, source())
    frames = [frame.to_ndarray().astype(int) for frame in pictures.frames(11.0, Quietly())]
    assert len(frames) == 330
    band = pictures.drawn()[1]
    changed = np.abs(frames[299] - frames[310])[: size[1]].max(axis=1)
    assert changed[band.top() : band.bottom()].max() > 40
    assert changed[: band.top()].max() == 0
    assert changed[band.bottom() + 1 :].max() == 0
    still = list(CardPictures(Card("Lantern"), size).frames(4.0, Quietly()))
    assert len(still) == 20
    assert len({id(frame) for frame in still}) == 1, "coded once"


def test_pictures_of_any_size_are_read_and_what_is_none_is_said(tmp_path) -> None:  # type: ignore[no-untyped-def]
    large = QImage(5000, 2500, QImage.Format.Format_RGB32)
    large.fill(QColor("#336699"))
    large.save(str(tmp_path / "large.png"))
    image, problem = read_picture(tmp_path / "large.png")
    assert (image.width(), image.height(), problem) == (3840, 1920, "")
    assert read_picture((tmp_path / "large.png").read_bytes())[0].width() == 3840
    (tmp_path / "none.png").write_bytes(b"no picture")
    assert "not a picture that can be read" in read_picture(tmp_path / "none.png")[1]
    header = b"P6\n20000 20000\n255\n"
    (tmp_path / "vast.ppm").write_bytes(header)
    assert "400 megapixels" in read_picture(tmp_path / "vast.ppm")[1]
