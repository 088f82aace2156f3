"""What a person asks for becomes edits of the document; one controller per stage or dialog."""
