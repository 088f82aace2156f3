"""Whole effects as stateful processors: vinyl, tape, echo, binaural panning and the rest."""
