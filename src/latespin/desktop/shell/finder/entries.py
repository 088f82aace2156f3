"""Everything that can be found: made from the declarations of commands, recipes, effects, moments, endings and parameters."""

from collections.abc import Callable, Iterator
from typing import TYPE_CHECKING, Any

from PySide6.QtGui import QKeySequence
from PySide6.QtWidgets import QWidget

from latespin.desktop.session.search import Entry
from latespin.desktop.shell.finder.keys import EVERYWHERE, MENU_OF_PANEL, OTHER_KEYS
from latespin.desktop.shell.finder.synonyms import also
from latespin.desktop.theme.theme import STAGE_TITLES
from latespin.desktop.translation import tr, translated
from latespin.model.effects.declaration import EFFECTS, effect_info
from latespin.model.moments.declaration import MOMENTS, moment_info
from latespin.model.moments.endings import ENDINGS, ending_info
from latespin.model.values.parameters import parameters_of
from latespin.model.version import Level, Time

if TYPE_CHECKING:
    from latespin.desktop.shell.main_window import Window

STAGE_FIELDS: tuple[tuple[str, type[Any], tuple[str, ...]], ...] = (
    ("time", Time, ("speed", "semitones", "formant_semitones")),
    ("level", Level, ("target_lufs", "ceiling_dbtp", "allowance_db", "link_percent")),
)


def entries_of(window: "Window") -> list[Entry]:
    """All entries for the window as it is now."""
    found = list(_commands(window))
    if window.document.loaded is None:
        return found
    return [*found, *_stages(window), *_recipes(window), *_effects(window), *_moments(window), *_endings(window)]


def _commands(window: "Window") -> Iterator[Entry]:
    for command in window.commands.commands:
        if not (command.menu and command.title) or command.ident == "find":
            continue
        action = window.actions_by_name[command.ident]
        if action.isEnabled():
            title = tr(command.title).replace("&", "").removesuffix(" …")
            keys = (
                QKeySequence(command.shortcuts[0]).toString(QKeySequence.SequenceFormat.NativeText)
                if command.shortcuts
                else ""
            )
            detail = tr(command.menu).replace("&", "")
            yield Entry(title, detail, action.trigger, keys, also("COMMANDS", command.ident))


def keys_of(window: "Window") -> list[Entry]:
    """All keys that work now: those of the panel in use first."""
    panel = window.panel_commands.panel
    own = MENU_OF_PANEL.get(panel, "")
    menus = [own, *(menu for menu in EVERYWHERE if menu != own)]
    found = [entry for entry in _commands(window) if entry.keys]
    order = {tr(menu).replace("&", ""): place for place, menu in enumerate(menus)}
    found.sort(key=lambda entry: order.get(entry.detail, len(order)))
    here = [other for other in OTHER_KEYS if panel in other[2]]
    others = [other for other in OTHER_KEYS if not other[2]]
    first = [Entry(tr(does), tr("Here"), lambda: None, tr(keys)) for keys, does, _ in here]
    last = [Entry(tr(does), tr("Everywhere"), lambda: None, tr(keys)) for keys, does, _ in others]
    mine = [entry for entry in found if entry.detail == tr(own).replace("&", "")]
    return [*first, *mine, *last, *(entry for entry in found if entry not in mine)]


def _stages(window: "Window") -> Iterator[Entry]:
    for stage, kind, fields in STAGE_FIELDS:
        parameters = parameters_of(kind)
        for field in fields:
            parameter = translated(parameters[field])

            def show(stage: str = stage, label: str = parameter.label) -> None:
                window.open_panel(stage)
                _focus(window.panels.pages[stage], label)

            yield Entry(parameter.label, tr(STAGE_TITLES[stage]), show, "", also("PARAMETERS", field))
    for stage, title in STAGE_TITLES.items():
        yield Entry(tr(title), tr("Panel"), lambda stage=stage: window.open_panel(stage))  # type: ignore[misc]


def _recipes(window: "Window") -> Iterator[Entry]:
    from latespin.render.recipes import all_recipes

    for recipe in all_recipes():

        def add(name: str = recipe.name) -> None:
            window.versions.add(name)

        detail = tr("New version: {0}").format(tr(recipe.summary)) if recipe.summary else tr("New version")
        words = f"{recipe.title} {also('RECIPES', recipe.name)}"
        yield Entry(tr(recipe.title) or recipe.name, detail, add, "", words)


def _effects(window: "Window") -> Iterator[Entry]:
    used: dict[type, str] = {type(effect): effect.id for effect in reversed(window.document.stages.colour.effects)}
    for kind, made in EFFECTS.items():
        info, ident = translated(effect_info(kind)), used.get(made)
        said = also("EFFECTS", kind)
        detail = tr("Effect of this version") if ident else tr("Add the effect: {0}").format(info.summary)
        yield Entry(info.title, detail, _to_effect(window, kind, ident), "", said)
        parameters = parameters_of(made)
        for field in ("amount_percent", *info.main, *info.more):
            if field in parameters:
                parameter = translated(parameters[field])
                title = f"{info.title}: {parameter.label}"
                words = f"{said} {also('PARAMETERS', field)}"
                yield Entry(
                    title,
                    tr("Effect") if ident else tr("Adds the effect"),
                    _to_effect(window, kind, ident, field),
                    also=words,
                    minor=True,
                )


def _to_effect(window: "Window", kind: str, ident: str | None, field: str = "") -> Callable[[], None]:
    """Shows an effect, adding it where the version has none, and a control of it."""

    def show() -> None:
        window.open_panel("colour")
        if ident is None:
            window.controllers.effects.add(kind)
        else:
            window.controllers.effects.choose(ident)
        if field:
            window.panels.colour.form(kind).show_field(field)

    return show


def _moments(window: "Window") -> Iterator[Entry]:
    for kind in MOMENTS:
        info = translated(moment_info(kind))

        def add(kind: str = kind) -> None:
            window.open_panel("moments")
            window.controllers.moments.add(kind)

        yield Entry(
            info.title,
            tr("New moment at the playhead, or over the marked range"),
            add,
            "",
            also("MOMENTS", kind),
        )


def _endings(window: "Window") -> Iterator[Entry]:
    for kind in ENDINGS:
        info = translated(ending_info(kind))

        def choose(kind: str = kind) -> None:
            window.open_panel("ending")
            window.panels.pages["ending"].choose_kind(kind)  # type: ignore[attr-defined]

        yield Entry(info.title, tr("Ending of this version"), choose, "", also("ENDINGS", kind))


def _focus(panel: QWidget, label: str) -> None:
    """Put the focus on a control of a panel, by its label."""
    named = (child for child in panel.findChildren(QWidget) if child.accessibleName() == label and child.isVisible())
    control = next(named, None)
    if control is not None:
        control.setFocus()
