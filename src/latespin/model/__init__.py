"""Frozen values: versions, recipes, sessions and the time map. Pure: no files and no audio.

Start with ``version.py``: a version is a struct of five stages. ``timing`` has positions, grids and the time map;
``moments`` and ``effects`` the kinds and their registries; ``arranging`` lays them on a song; ``documents`` reads and
writes them. Values never change; edits make new ones.
"""
