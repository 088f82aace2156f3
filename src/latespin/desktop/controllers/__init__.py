"""Requests of the user become edits of the document; one controller per stage or dialog.

A controller gets the document and its panel, listens to signals, and edits the document with one labelled undo step
per request. Slow work goes to ``session/tasks.py``. ``shell/controllers.py`` makes and connects all of them.
"""
