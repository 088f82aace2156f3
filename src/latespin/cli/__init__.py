"""The command line: the same work without a window.

``main.py`` collects the commands, one module each. ``options.py`` makes options from declared parameters,
``stages.py`` turns them into a version. Commands print through ``output.py`` and report progress through
``progress.py``.
"""
