"""Effects: requests of the panel and the waveform become undo steps."""

from collections.abc import Callable
from typing import TYPE_CHECKING

from msgspec.structs import replace
from PySide6.QtCore import QObject, Qt, Signal
from PySide6.QtWidgets import QFileDialog, QWidget

from latespin.desktop.panels.effects_panel import EffectsPanel
from latespin.desktop.session.commands import command, run
from latespin.desktop.session.document import Document
from latespin.desktop.translation import tr, translated
from latespin.errors import LateSpinError
from latespin.model.documents.version_edits import new_id
from latespin.model.effects.declaration import EFFECTS, Effect, effect_info, effect_title
from latespin.model.effects.effects import AnyEffect, ConvolutionReverb, Layer, Spin, needs_file
from latespin.model.pad import ROOTS, Pad
from latespin.model.values.words import label_of
from latespin.model.version import Colour
from latespin.paths import resolved

if TYPE_CHECKING:  # imported where it is used: the first window does not wait for it
    from latespin.desktop.dialogs.pad import PadDialog

SOUNDS = "Sounds (*.wav *.flac *.ogg *.opus *.mp3 *.aif *.aiff *.m4a);;All files (*)"
ASKS = {
    ConvolutionReverb: ("Choose an impulse response", SOUNDS),
    Layer: ("Choose the sound to lie beneath", SOUNDS),
    Spin: ("Choose a listener’s ears", "Measured ears (*.sofa);;All files (*)"),
}


class EffectController(QObject):
    """``place`` gives the playhead in seconds of Before; ``marked`` the range marked on the waveforms."""

    message = Signal(str, bool)
    chosen_changed = Signal()
    audition_wanted = Signal(object)  # a sound to be heard instead of the song, or None
    keys_wanted = Signal(object)  # an instrument to be played over it, or None

    def __init__(
        self, document: Document, panel: EffectsPanel, place: Callable[[], tuple[float, bool]],
        marked: Callable[[], tuple[float, float] | None], parent: QWidget,
    ) -> None:  # fmt: skip
        super().__init__(parent)
        self._document, self._panel, self._window = document, panel, parent
        self._place, self._marked = place, marked
        self.dialog: PadDialog | None = None
        panel.add_wanted.connect(self.add)
        panel.wanted.connect(lambda name: run(self, name))
        panel.effect_chosen.connect(self.choose)
        panel.changed.connect(self.change)
        panel.switched.connect(self._switch)
        panel.moved.connect(self._move)

    # -- steps -----------------------------------------------------------------------------------------------------

    @property
    def _colour(self) -> Colour:
        return self._document.stages.colour

    @property
    def chosen(self) -> AnyEffect | None:
        """The effect being worked on."""
        return self._colour.find(self._panel.chosen)

    def choose(self, ident: str) -> None:
        """Work on an effect."""
        if ident != self._panel.chosen:
            self._panel.chosen = ident
            self._document.end_drag()
            self._panel.show_stages(self._document.stages, self._document)
            self.chosen_changed.emit()

    def _edit(self, label: str, colour: Colour, merge: str = "") -> None:
        self._document.edit_stages(label, replace(self._document.stages, colour=replace(colour, on=True)), merge)

    def add(self, kind: str) -> None:
        """An effect at the end of the list."""
        effect: AnyEffect = EFFECTS[kind](id=new_id())  # type: ignore[assignment]
        self._panel.chosen = effect.id
        self._edit(tr("Add {0}").format(translated(effect_info(kind)).title.lower()), self._colour.with_changed(effect))

    def change(self, name: str, value: object) -> None:
        """Set a field of the chosen effect; asks for a file if the new value needs one."""
        effect = self.chosen
        if effect is None:
            return
        try:
            changed = replace(effect, **{name: value})
        except (LateSpinError, ValueError) as error:
            self.message.emit(str(error), True)
            return
        if value == "file" and not getattr(effect, "path", ""):
            path = ask_for_file(self._window, changed)
            if not path:
                self._panel.show_stages(self._document.stages, self._document)
                return
            changed = replace(changed, path=path)
        title = tr(effect_title(effect))
        self._edit(
            f"{title}: {tr(label_of(type(effect), name)).lower()}",
            self._colour.with_changed(changed),
            f"{effect.id} {name}",
        )

    def _switch(self, ident: str) -> None:
        effect = self._colour.find(ident)
        if effect is not None:
            title = tr(effect_title(effect))
            label = f"{title}: {'off' if effect.on else 'on'}"
            self._edit(label, self._colour.with_changed(replace(effect, on=not effect.on)))

    def _move(self, ident: str, to: int) -> None:
        effect = self._colour.find(ident)
        if effect is not None:
            self._edit(tr("Move {0}").format(tr(effect_title(effect)).lower()), self._colour.moved(ident, to))

    @command("delete_effect")
    def delete(self) -> None:
        effect = self.chosen
        if effect is None:
            return
        at = self._colour.effects.index(effect)
        left = self._colour.without(effect.id)
        self._panel.chosen = left.effects[min(at, len(left.effects) - 1)].id if left.effects else ""
        self._edit(tr("Delete {0}").format(tr(effect_title(effect)).lower()), left)

    @command("duplicate_effect")
    def duplicate_effect(self) -> None:
        """The chosen effect once more, below it."""
        effect = self.chosen
        if effect is None:
            return
        copy = replace(effect, id=new_id())
        at = self._colour.effects.index(effect)
        self._panel.chosen = copy.id
        self._edit(
            tr("{0} once more").format(tr(effect_title(effect))), self._colour.with_changed(copy).moved(copy.id, at + 1)
        )

    @command("pad")
    def pad(self) -> None:
        """Make a pad of the marked range."""
        from latespin.desktop.dialogs.pad import PadDialog
        from latespin.render.pads import effects_at

        loaded, marked = self._document.loaded, self._marked()
        if loaded is None:
            return
        if marked is None:
            self.message.emit(
                tr("Mark a range of the song first: drag along a waveform over a few beats of its melody."), False
            )
            return
        rate = loaded.track.rate
        slice_ = loaded.track.sound[:, round(marked[0] * rate) : round(marked[1] * rate)].copy()
        pad, document = self._document.session.pad, self._document
        if pad.root == "" and document.reading is not None and document.reading.keys:
            pad = replace(pad, root=ROOTS[document.reading.keys[0].tonic])
        here = effects_at(document.stages, loaded.readers.context(document.stages), 0.5 * (marked[0] + marked[1]))
        dialog = PadDialog(slice_, rate, document.grid, pad, here, document.work, document.sources, self._window)
        dialog.heard.connect(self.audition_wanted)
        dialog.keyed.connect(self.keys_wanted)
        dialog.kept.connect(self._keep_pad)
        dialog.laid.connect(self._lay_beneath)
        dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        dialog.finished.connect(self._forget_dialog)
        self.dialog = dialog
        dialog.open()

    def _keep_pad(self, pad: Pad) -> None:
        """Offer the settings again, in this session."""
        self._document.edit_session(tr("Pad settings"), replace(self._document.session, pad=pad))

    def _forget_dialog(self) -> None:
        self.dialog = None

    def _lay_beneath(self, path: str) -> None:
        """A file as a layer at the end of the list."""
        effect = Layer(id=new_id(), sound="file", path=path, gain_db=-14.0, crossfade_seconds=0.0)
        self._panel.chosen = effect.id
        self._edit(tr("Add layer"), self._colour.with_changed(effect))

    @command("choose_effect_file")
    def choose_effect_file(self) -> None:
        effect = self.chosen
        if effect is not None and needs_file(effect):
            path = ask_for_file(self._window, effect)
            if path:
                self.change("path", path)


def ask_for_file(window: QWidget, effect: Effect) -> str:
    """The file an effect is to be made from; empty where none was chosen."""
    title, kinds = ASKS[type(effect)]
    name, _ = QFileDialog.getOpenFileName(window, tr(title), "", tr(kinds))
    return str(resolved(name)) if name else ""
