"""Finding any command, recipe, effect or parameter by a word of the trade."""
