"""The marked range as a part of a version."""

import numpy as np

from latespin.desktop.session.document import Document
from latespin.model.version import Stages
from latespin.render.mastering.excerpt import Excerpt


def excerpt_of(document: Document, stages: Stages, marked: tuple[float, float], fade: float) -> Excerpt | None:
    """What lies between two places of the song, seconds, in a version; None without a song.  fade : seconds, at both ends."""
    arrangement, layout = document.arrangement(stages), document.layout
    if arrangement is None or layout is None:
        return None
    ends = arrangement.map.after_of_all(np.array(marked) * layout.rate) / layout.rate
    return Excerpt(float(ends.min()), float(ends.max()), fade, fade)
