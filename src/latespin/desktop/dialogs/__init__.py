"""Dialogs: export, batch, compare, recipes, pads, about."""
