"""Dialogs."""
