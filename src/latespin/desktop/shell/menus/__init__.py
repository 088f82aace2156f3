"""Menus of choices: sound device, language, snapping and rulers. Start with ``language_menu.py``; the menus of commands are built in ``commands/menus.py``."""
