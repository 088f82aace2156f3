"""Speed, whether the pitch follows, and transposition."""

from msgspec.structs import replace
from PySide6.QtWidgets import QPushButton

from latespin.desktop.panels.time.page import TimePage, music_seconds, titled
from latespin.desktop.session.document import Document
from latespin.desktop.translation import tr
from latespin.desktop.widgets.controls import SegmentedButton
from latespin.model.text.describe import bpm_text, held_shift, shift_text
from latespin.model.values.parameters import SPEED
from latespin.model.values.units import NO_VALUE, clock, number, with_unit
from latespin.model.version import Stages, speed_limits


class SpeedPage(TimePage):
    """Speed, whether the pitch follows, and transposition."""

    def __init__(self) -> None:
        super().__init__()
        row = self.row()
        self.speed, self.semitones = self.bar("speed"), self.bar("semitones")
        self.pitch = SegmentedButton(
            "Pitch",
            {
                "linked": ("Linked", "The pitch follows the speed, as on a turntable."),
                "held": ("Held", "The pitch stays; the song is stretched in time."),
            },
            "time",
        )
        self.pitch.chosen.connect(self._choose_pitch)
        row.addWidget(self.speed, 3)
        row.addLayout(titled("Pitch when the speed changes", self.pitch), 2)
        row.addWidget(self.semitones, 3)
        self._add_ways()
        self.hold = QPushButton()
        self.hold.setToolTip(
            tr("Keep this speed and bring the pitch back to the track’s; the song is stretched instead of turned.")
        )
        self.hold.clicked.connect(lambda: self.change(tr("hold pitch"), pitch="held", semitones=0.0))
        self.hold.setSizePolicy(self.hold.sizePolicy().Policy.Fixed, self.hold.sizePolicy().Policy.Fixed)
        last = self.row()
        last.addWidget(self.hold)
        last.addStretch()
        self.column.addStretch()

    def _add_ways(self) -> None:
        """Other words for the speed and the pitch, each of which can be typed."""
        ways = self.row()
        self.entry(ways, "percent", "Tempo", "The speed as a percentage of the track’s. Type one to set the speed.", 84)
        self.entry(
            ways,
            "tempo",
            "BPM",
            "The version’s tempo. Type one to set the speed; the track’s own is set in the header.",
            84,
        )
        self.entry(
            ways,
            "length",
            "Music length",
            "Length of the music without the reverb tail. Type a length such as 1:30 to set the speed.",
        )
        self.entry(
            ways,
            "pitch",
            "Pitch heard",
            "Pitch relative to the track. Type semitones or cents to set the transposition.",
            150,
        )
        self.entry(ways, "ratio", "Ratio", "Frequency ratio to the track. Type a number to set the transposition.", 84)
        ways.addStretch()

    def _choose_pitch(self, key: str) -> None:
        speed = self._stages.time.speed
        self.change(f"pitch {key}", pitch=key, speed=SPEED.clamp(speed) if key == "linked" else speed)

    def show_stages(self, stages: Stages, document: Document) -> None:
        super().show_stages(stages, document)
        time = stages.time
        self.speed.take_limits(speed_limits(time))
        self.speed.set_value(time.speed)
        self.semitones.set_value(time.semitones)
        self.pitch.choose(time.pitch)
        shown = replace(time, on=True)
        self.entries["percent"].show_text(with_unit(100.0 * time.speed, "%", 1))
        self.entries["pitch"].show_text(shift_text(shown, 2))
        self.entries["ratio"].show_text(number(shown.pitch_ratios[0], 4))
        self.entries["tempo"].show_text(bpm_text(shown, document.grid))
        music = music_seconds(document, replace(stages, time=shown))
        self.entries["length"].show_text(clock(music, 1) if music else NO_VALUE)
        turned = held_shift(shown)
        self.hold.setVisible(time.pitch == "linked" and turned != 0.0)
        equal = tr(" (equivalent to {0})").format(with_unit(turned, "st", 2)) if turned is not None else ""
        self.hold.setText(tr("Hold pitch") + equal)
