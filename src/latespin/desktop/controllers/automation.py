"""Automation lanes: requests of the waveform and the *Automate* menu become undo steps."""

from collections.abc import Callable
from functools import partial

from msgspec.structs import replace
from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import QMenu, QWidget

from latespin.desktop.canvas.layers.automation_layer import LaneShape
from latespin.desktop.canvas.waveform_view import WaveformView
from latespin.desktop.panels.effects_panel import EffectsPanel
from latespin.desktop.session.document import Document
from latespin.desktop.translation import tr
from latespin.errors import LateSpinError
from latespin.model.effects.automation import Lane, LanePoint, can_move, dipped, opened
from latespin.model.effects.declaration import effect_title
from latespin.model.effects.effects import AnyEffect
from latespin.model.timing.positions import Position, snapped_place
from latespin.model.values.parameters import Parameter, parameters_of
from latespin.model.values.units import with_unit

AMOUNT = "amount_percent"
USUAL_BARS = 8.0


class AutomationController(QObject):
    """``place`` gives the playhead in seconds of Before; ``marked`` the range marked on the waveforms."""

    message = Signal(str, bool)

    def __init__(
        self, document: Document, waveform_view: WaveformView, panel: EffectsPanel,
        place: Callable[[], tuple[float, bool]], marked: Callable[[], tuple[float, float] | None], parent: QWidget,
    ) -> None:  # fmt: skip
        super().__init__(parent)
        self._document, self._view, self._panel = document, waveform_view, panel
        self._place, self._marked = place, marked
        self._editing, self._field = False, AMOUNT
        panel.lanes_menu.aboutToShow.connect(lambda: self.fill(panel.lanes_menu))
        waveform_view.lanes.point_moved.connect(self._move)
        waveform_view.lanes.segment_bent.connect(self._bend)
        waveform_view.lanes.point_added.connect(self._add)
        waveform_view.lanes.point_removed.connect(self._remove)
        waveform_view.lanes.point_nudged.connect(self._nudge)
        waveform_view.lanes.drag_finished.connect(document.end_drag)
        for signal in (document.session_changed, document.reading_changed, document.track_changed):
            signal.connect(self.show)

    def edit(self, on: bool) -> None:
        """Whether the panel is open, so that its effect's lane is on the waveform."""
        self._editing = on
        self.show()

    @property
    def effect(self) -> AnyEffect | None:
        """The effect being worked on."""
        return self._document.stages.colour.find(self._panel.chosen)

    @property
    def lane(self) -> Lane | None:
        """The lane on the waveform: the one chosen last, else the effect's first."""
        effect = self.effect
        if effect is None or not effect.lanes:
            return None
        return next((lane for lane in effect.lanes if lane.field == self._field), effect.lanes[0])

    # -- showing ---------------------------------------------------------------------------------------------------

    def show(self, *_: object) -> None:
        """Draw the lane on the After waveform."""
        effect, lane, made, layout = self.effect, self.lane, self._document.arrangement(), self._document.layout
        if not self._editing or effect is None or lane is None or made is None or layout is None:
            self._view.lanes.show(None)
            return
        parameter = parameters_of(type(effect))[lane.field]
        points, words = [], []
        for point in lane.points:
            seconds = min(point.at.at(layout.grid), layout.seconds)
            points.append(
                (
                    made.map.after_at(seconds * layout.rate) / layout.rate,
                    parameter.to_fraction(point.value),
                    point.tension,
                )
            )
            words.append(with_unit(point.value, parameter.unit, parameter.decimals))
        title = f"{tr(effect_title(effect))}: {tr(parameter.label).lower()}"
        self._view.lanes.show(LaneShape(title, tuple(points), tuple(words)))

    def fill(self, menu: QMenu) -> None:
        """The menu of the chosen effect's automation."""
        menu.clear()
        effect = self.effect
        if effect is None:
            return
        where = tr("the marked range") if self._marked() else tr("the first 8 bars")
        menu.addAction(tr("Open over {0}: from this amount to none").format(where), self.open_over)
        menu.addAction(
            tr("Dip over {0}: none outside it").format(
                tr("the marked range") if self._marked() else tr("8 bars from the playhead")
            ),
            self.dip_over,
        )
        menu.addSeparator()
        having = {lane.field for lane in effect.lanes}
        for name, parameter in parameters_of(type(effect)).items():
            if can_move(type(effect), name):
                action = menu.addAction(tr("{0} changes").format(tr(parameter.label)), partial(self.begin, name))
                action.setCheckable(True)
                action.setChecked(name in having)
        if effect.lanes:
            menu.addSeparator()
            menu.addAction(tr("All stay the same over the song"), self.clear)

    # -- steps -----------------------------------------------------------------------------------------------------

    def begin(self, field: str) -> None:
        """Automate a control, starting from its value; show its lane on the waveform if it is automated already."""
        effect, layout = self.effect, self._document.layout
        if effect is None or layout is None:
            return
        self._field = field
        if all(lane.field != field for lane in effect.lanes):
            value = float(getattr(effect, field))
            ends = self._at(0.0), self._at(0.999 * layout.seconds)
            self._put(
                Lane(field=field, points=tuple(LanePoint(at=at, value=value) for at in ends)),
                tr("changes over the song"),
            )
            self.message.emit(
                tr("Double-click the After waveform to add points. Drag a point, or the ring between two points."),
                False,
            )
        self.show()

    def open_over(self) -> None:
        """The effect as it is at the range's start, and nothing of it from its end on."""
        self._over(opened, tr("opens over the song"), 0.0)

    def dip_over(self) -> None:
        """Nothing of the effect outside the range, all of it within."""
        self._over(dipped, "dips", self._place()[0])

    def _over(
        self, shape: Callable[[Position, Position, float, Position, Position], Lane], says: str, here: float
    ) -> None:
        effect, layout, grid = self.effect, self._document.layout, self._document.grid
        if effect is None or layout is None:
            return
        bars = USUAL_BARS * (grid.bar_seconds if grid else 2.0)
        begin = float(grid.seconds_of(0.0)) if grid and here == 0.0 else here
        start, end = self._marked() or (max(0.0, begin), min(layout.seconds, max(0.0, begin) + bars))
        quarter = (end - start) / 4.0
        inner = self._at(start + quarter), self._at(end - quarter)
        amount = effect.amount_percent or 100.0
        self._field = AMOUNT
        self._put(shape(self._at(start), self._at(end), amount, *inner), says)

    def clear(self) -> None:
        """Nothing of the effect changes over the song."""
        effect = self.effect
        if effect is not None:
            self._change(replace(effect, lanes=()), tr("stays the same"))

    def _at(self, seconds: float) -> Position:
        """A place of Before, in beats if it is on a beat."""
        grid = self._document.grid
        return snapped_place(seconds, grid) if grid is not None else Position(seconds=round(seconds, 4))

    def _put(self, lane: Lane, says: str, merge: str = "") -> None:
        effect = self.effect
        if effect is not None:
            others = tuple(other for other in effect.lanes if other.field != lane.field)
            self._change(replace(effect, lanes=(*others, lane)), says, merge)

    def _change(self, effect: AnyEffect, says: str, merge: str = "") -> None:
        stages = self._document.stages
        title = tr(effect_title(effect))
        colour = stages.colour.with_changed(effect)
        self._document.edit_stages(f"{title} {says}", replace(stages, colour=colour), merge and f"{effect.id} {merge}")

    def _points(self) -> tuple[Lane, Parameter, list[LanePoint]] | None:
        lane, effect = self.lane, self.effect
        if lane is None or effect is None:
            return None
        return lane, parameters_of(type(effect))[lane.field], list(lane.points)

    def _move(self, which: int, seconds: float, height: float, snapped: bool) -> None:
        found = self._points()
        if found is None:
            return
        lane, parameter, points = found
        grid = self._document.grid
        low = points[which - 1].at.at(grid) if which else 0.0
        high = points[which + 1].at.at(grid) if which + 1 < len(points) else float("inf")
        at = self._at(seconds) if snapped else Position(seconds=round(min(max(seconds, low), high), 4))
        if not low <= at.at(grid) <= high:
            at = points[which].at
        points[which] = replace(points[which], at=at, value=parameter.from_fraction(height))
        self._put(replace(lane, points=tuple(points)), tr("over the song"), f"point {which}")

    def _bend(self, which: int, tension: float) -> None:
        found = self._points()
        if found is not None:
            lane, _, points = found
            points[which] = replace(points[which], tension=min(1.0, max(-1.0, tension)))
            self._put(replace(lane, points=tuple(points)), tr("over the song"), f"way {which}")

    def _add(self, seconds: float, height: float, snapped: bool) -> None:
        found, grid = self._points(), self._document.grid
        if found is None:
            return
        lane, parameter, points = found
        at = self._at(seconds) if snapped else Position(seconds=round(seconds, 4))
        points.append(LanePoint(at=at, value=parameter.from_fraction(height)))
        points.sort(key=lambda point: point.at.at(grid))
        try:
            self._put(replace(lane, points=tuple(points)), tr("over the song"))
        except LateSpinError as error:
            self.message.emit(str(error), True)

    def _remove(self, which: int) -> None:
        """Take a point away; with the last but one the lane goes."""
        found, effect = self._points(), self.effect
        if found is None or effect is None:
            return
        lane, _, points = found
        del points[which]
        if len(points) < 2:
            left = tuple(other for other in effect.lanes if other.field != lane.field)
            self._change(replace(effect, lanes=left), tr("stays the same"))
        else:
            self._put(replace(lane, points=tuple(points)), tr("over the song"))

    def _nudge(self, which: int, steps: int) -> None:
        found = self._points()
        if found is not None:
            lane, parameter, points = found
            points[which] = replace(points[which], value=parameter.stepped(points[which].value, steps))
            self._put(replace(lane, points=tuple(points)), tr("over the song"), f"nudge {which}")
