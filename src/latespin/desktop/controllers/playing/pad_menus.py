"""What a pad plays and what a knob turns, chosen from menus."""

from collections.abc import Callable
from functools import partial

from msgspec.structs import replace
from PySide6.QtCore import QPoint, Qt
from PySide6.QtWidgets import QInputDialog, QMenu

from latespin.desktop.controllers.playing.surface_controller import SurfaceController
from latespin.desktop.panels.playing.playing_panel import PlayingPanel
from latespin.desktop.session.document import Document
from latespin.desktop.translation import tr, translated
from latespin.language import localised
from latespin.model.effects.automation import can_move
from latespin.model.effects.declaration import EFFECTS, effect_info, effect_title
from latespin.model.effects.effects import AnyEffect
from latespin.model.moments.held import HeldEffect, HeldRepeat, HeldReverse, HeldSilence, HeldSpinUp, HeldStop
from latespin.model.playing.surface_map import AnyHeld, RepeatTarget, Target, TempoTarget, nowhere, target_of
from latespin.model.values.note_values import say_value
from latespin.model.values.parameters import SLICE_MS
from latespin.model.values.words import label_of

VALUES = ("1/4d", "1/4", "1/4t", "1/8d", "1/8", "1/8t", "1/16d", "1/16", "1/16t", "1/32")
TIMES = (0.25, 0.5, 0.8, 1.5, 3.0)


class PadMenus:
    """Menus for pads and knobs; what they choose changes the map."""

    def __init__(self, document: Document, surfaces: SurfaceController, panel: PlayingPanel) -> None:
        self._document, self._surfaces, self._panel = document, surfaces, panel

    def open_pad(self, number: int, at: QPoint) -> None:
        """Offer what a pad can play."""
        self._open(self.pad_menu(number), at)

    def open_knob(self, number: int, at: QPoint) -> None:
        """Offer what a knob can turn."""
        self._open(self.knob_menu(number), at)

    def _open(self, menu: QMenu, at: QPoint) -> None:
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        menu.popup(at)

    def pad_menu(self, number: int) -> QMenu:
        """The menu of a pad."""
        pad, menu = self._surfaces.surface.pads[number], QMenu(self._panel)
        for title, material in ((tr("Repeat"), "song"), (tr("Repeat the drums"), "drums")):
            repeats = menu.addMenu(title)
            for value in VALUES:
                name = (
                    title + " " + say_value(value) if material == "song" else tr("Drums {0}").format(say_value(value))
                )
                move = nowhere(HeldRepeat, value=value, material=material)
                repeats.addAction(say_value(value), self._put(number, move, name))
            repeats.addAction(tr("Milliseconds …"), partial(self._ask_slice, number, material))
        menu.addAction(tr("Reverse"), self._put(number, nowhere(HeldReverse), tr("Reverse")))
        for title, kind, field, more in (
            (tr("Slow to a stop"), HeldStop, "slow_seconds", {}),
            (tr("Stop, and go on from there"), HeldStop, "slow_seconds", {"time": "add"}),
            (tr("Spin up"), HeldSpinUp, "rise_seconds", {}),
        ):
            times = menu.addMenu(title)
            for seconds in TIMES:
                times.addAction(
                    tr("{0} s").format(localised(f"{seconds:g}")),
                    self._put(number, nowhere(kind, **{field: seconds}, **more), title),
                )
        menu.addAction(tr("Silence"), self._put(number, nowhere(HeldSilence), tr("Silence")))
        self._add_effects(menu, number)
        menu.addSeparator()
        coming = menu.addAction(tr("Catch what comes"), lambda: self._flip(number, "coming"))
        coming.setCheckable(True)
        coming.setChecked(pad.coming)
        coming.setEnabled(isinstance(pad.move, HeldRepeat))
        latched = menu.addAction(tr("Latch"), lambda: self._flip(number, "latched"))
        latched.setCheckable(True)
        latched.setChecked(pad.latched)
        menu.addAction(tr("Rename …"), lambda: self._rename(number))
        menu.addAction(tr("Learn from a control surface"), lambda: self._surfaces.learn(number, knob=False))
        return menu

    def _add_effects(self, menu: QMenu, number: int) -> None:
        effects = menu.addMenu(tr("Effect"))
        own = self._document.stages.colour.effects
        for effect in own:
            title = tr("{0}, as in this version").format(tr(effect_title(effect)))
            effects.addAction(title, self._put(number, _holding(effect), tr(effect_title(effect))))
        if own:
            effects.addSeparator()
        for kind in EFFECTS:
            title = translated(effect_info(kind)).title
            effects.addAction(title, self._put(number, nowhere(HeldEffect, effect=EFFECTS[kind]()), title))

    def _put(self, number: int, move: AnyHeld, title: str) -> Callable[[], None]:
        def put() -> None:
            pad = replace(self._surfaces.surface.pads[number], move=move, title=title)
            self._surfaces.change(self._surfaces.surface.with_pad(number, pad))

        return put

    def _ask_slice(self, number: int, material: str) -> None:
        ms, yes = QInputDialog.getDouble(
            self._panel,
            tr("Repeat"),
            tr("Length of the slice, in milliseconds:"),
            SLICE_MS.default,
            SLICE_MS.low,
            SLICE_MS.high,
            0,
        )
        if yes:
            words = localised(f"{ms:g}")
            title = tr("Repeat {0} ms").format(words) if material == "song" else tr("Drums {0} ms").format(words)
            self._put(number, nowhere(HeldRepeat, free=True, slice_ms=ms, material=material), title)()

    def _flip(self, number: int, field: str) -> None:
        pad = self._surfaces.surface.pads[number]
        pad = replace(pad, **{field: not getattr(pad, field)})
        self._surfaces.change(self._surfaces.surface.with_pad(number, pad))

    def _rename(self, number: int) -> None:
        pad = self._surfaces.surface.pads[number]
        title, yes = QInputDialog.getText(self._panel, tr("Rename the pad"), tr("Name:"), text=pad.name)
        if yes and title.strip():
            self._surfaces.change(self._surfaces.surface.with_pad(number, replace(pad, title=title.strip()[:40])))

    # -- knobs -------------------------------------------------------------------------------------------------

    def knob_menu(self, number: int) -> QMenu:
        """The menu of a knob: the controls of the version's effects."""
        menu, effects = QMenu(self._panel), self._document.stages.colour.effects
        for effect in effects:
            controls = menu.addMenu(tr(effect_title(effect)))
            info = effect_info(target_of(effect, "amount_percent", effects).effect)
            for field in ("amount_percent", *info.main, *info.more):
                if can_move(type(effect), field):
                    controls.addAction(
                        tr(label_of(type(effect), field)), self._aim(number, target_of(effect, field, effects))
                    )
        if not effects:
            menu.addAction(tr("This version has no effects")).setEnabled(False)
        menu.addSeparator()
        menu.addAction(tr("Repeat length"), self._aim(number, RepeatTarget()))
        menu.addAction(tr("Tempo"), self._aim(number, TempoTarget()))
        menu.addAction(tr("Nothing"), self._aim(number, None))
        menu.addSeparator()
        menu.addAction(tr("Learn from a control surface"), lambda: self._surfaces.learn(number, knob=True))
        return menu

    def _aim(self, number: int, target: Target | None) -> Callable[[], None]:
        def aim() -> None:
            knob = replace(self._surfaces.surface.knobs[number], target=target)
            self._surfaces.change(self._surfaces.surface.with_knob(number, knob))

        return aim


def _holding(effect: AnyEffect) -> AnyHeld:
    """A held move of an effect of the version, without its automation."""
    return nowhere(HeldEffect, effect=replace(effect, id="", on=True, lanes=()))  # type: ignore[no-any-return]
