"""How moments, endings and curves are laid on a particular song."""
