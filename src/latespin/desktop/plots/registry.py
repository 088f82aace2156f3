"""All plots of effects: importing this module declares every one."""

from latespin.desktop.plots import depth, gain, hall, reduction, spin, traces  # noqa: F401
from latespin.desktop.plots.effect_plot import PLOTS, EffectPlot
from latespin.desktop.plots.response import SpectrumPlot
from latespin.model.effects.declaration import EFFECTS


def plot_of(kind: str) -> EffectPlot:
    """A new plot for a kind of effect."""
    return PLOTS.get(EFFECTS[kind], SpectrumPlot)()
