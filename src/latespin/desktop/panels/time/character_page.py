"""Page for the character of time-stretching, and for formants."""

from typing import ClassVar

from msgspec.structs import replace
from PySide6.QtCore import Signal
from PySide6.QtWidgets import QPushButton

from latespin.desktop.panels.time.page import TimePage, titled
from latespin.desktop.session.document import Document
from latespin.desktop.translation import tr
from latespin.desktop.widgets.controls import SegmentedButton, quiet_label
from latespin.model.values.parameters import SPEED
from latespin.model.version import Stages


class CharacterPage(TimePage):
    """Character of time-stretching, passages to try it on, and formants."""

    CHARACTERS: ClassVar = {
        "full-mix": ("Full mix", "Whole songs: steady tones and sharp drums at once."),
        "drums": ("Drums", "Short windows: hits keep their body; low tones waver."),
        "voice": ("Voice", "Windows of a few pitch periods: words stay crisp; dense chords may roughen."),
        "smear": ("Smear", "Long windows, noise scattered: pads up to 32 times as long. Words and drums melt."),
    }
    audition_wanted = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        row = self.row()
        self.character = SegmentedButton("Character", self.CHARACTERS, "time")
        self.character.chosen.connect(self._choose_character)
        row.addLayout(titled("Character of the stretch", self.character))
        row.addSpacing(16)
        self.formants = SegmentedButton(
            "Formants",
            {
                "moved": ("Moved", "Voices change their size with the pitch, as on a turntable."),
                "kept": ("Kept", "Voices keep their formants while their pitch moves."),
            },
            "time",
        )
        self.formants.chosen.connect(lambda key: self.change(f"formants {key}", formants=key))
        row.addLayout(titled("Formants when the pitch moves", self.formants))
        self.formant_shift = self.bar("formant_semitones")
        row.addWidget(self.formant_shift, 1)
        listen = self.row()
        listen.addWidget(quiet_label(tr("Judge it on"), 12))
        self.auditions: dict[str, QPushButton] = {}
        for key, text, tip in (
            ("drums", "Loudest drums", "Loop the passage in which the drums are loudest."),
            ("voice", "Fullest voice", "Loop the passage in which a voice’s range is fullest."),
        ):
            button = QPushButton(tr(text))
            button.setToolTip(tip + tr(" Press B to switch between Before and After."))
            button.clicked.connect(lambda _=False, k=key: self.audition_wanted.emit(k))
            self.auditions[key] = button
            listen.addWidget(button)
        self._says = quiet_label("", 12)
        listen.addSpacing(8)
        listen.addWidget(self._says, 1)
        self._unheard = quiet_label("", 12)
        self.column.addWidget(self._unheard)
        self.column.addStretch()

    def _choose_character(self, key: str) -> None:
        speed = self._stages.time.speed
        self.change(f"character {key}", character=key, speed=speed if key == "smear" else SPEED.clamp(speed))

    def show_stages(self, stages: Stages, document: Document) -> None:
        super().show_stages(stages, document)
        self.character.choose(stages.time.character)
        self.formants.choose(stages.time.formants)
        self.formant_shift.set_value(stages.time.formant_semitones)
        time_map = document.time_map(replace(stages, time=replace(stages.time, on=True)))
        turned = time_map is not None and all(span.turns_only for span in time_map.spans)
        words = tr(self.CHARACTERS[stages.time.character][1])
        self._says.setText(words)
        self._unheard.setText(tr("Not heard now: nothing is stretched while the pitch is linked.") if turned else "")
