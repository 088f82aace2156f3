"""The window: the only package that imports Qt.

The order of the rooms, lowest first: ``translation``; ``theme`` and ``session``; ``widgets``; ``canvas``, ``plots``
and ``dialogs``; ``panels``; ``controllers``; ``shell``; ``app``. A room imports only rooms below it. The GUI thread
never computes audio: see ``session/tasks.py``. docs/architecture.md, *The window*, has more.
"""
