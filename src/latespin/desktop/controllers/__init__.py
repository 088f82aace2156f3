"""Requests of the user become edits of the document; one controller per stage or dialog."""
