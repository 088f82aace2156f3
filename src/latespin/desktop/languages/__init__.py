"""Catalogues of the window's languages: ``.ts`` for translators (Qt Linguist), ``.qm`` as they are loaded."""
