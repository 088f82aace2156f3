"""Keys that no command of a menu has: which, what they do, and in which panels."""

STAGES = ("time", "colour", "moments", "ending", "level")

#: keys, what they do, panels they are of (none: everywhere).
OTHER_KEYS: tuple[tuple[str, str, tuple[str, ...]], ...] = (
    ("1 … 5", "Open the panel of a stage: Time, Effects, Moments, Ending, Level", ()),
    ("Shift+1 … 5", "Switch a stage off or on, at the same loudness", ()),
    ("Ctrl+wheel, wheel", "Over the waveforms: zoom, scroll", ()),
    ("Shift while dragging", "Do not snap", ()),
    ("Left, Right", "Nudge the chosen moment by a beat; with Shift by 10 ms", ("moments", "ending")),
    ("Up, Down", "Nudge the chosen point of a curve; Left and Right choose the next one", ("time", "colour")),
    ("Delete", "Delete the chosen moment, point, effect or marker", ("time", "colour", "moments")),
    ("Alt+Up, Alt+Down", "In the list of effects: move the chosen effect; Space switches it", ("colour",)),
    (
        "Return, a digit",
        "On a value: type it. Arrow keys step it, Page Up and Down ten times as far, Home sets the default",
        STAGES,
    ),
    ("Shift with drag or wheel", "On a value: ten times as fine", STAGES),
    ("1 … 4, Return", "In Compare: play one of four, prefer it", ("compare",)),
)
MENU_OF_PANEL = {"moments": "&Moments", "ending": "&Moments", "grid": "&Beats", "playing": "&Play"}
EVERYWHERE = ("&Play", "&Version", "V&iew", "&Edit", "&File", "&Help")
