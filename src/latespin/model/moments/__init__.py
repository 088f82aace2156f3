"""The kinds of moments and endings, their curves, and markers.

A moment is a struct declared with ``@moment``, an ending one with ``@ending``. ``model/arranging`` lays them on a
song. docs/extending.md shows how to add one; docs/moments.md says what each does, to the frame.
"""
