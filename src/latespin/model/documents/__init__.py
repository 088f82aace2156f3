"""Sessions and recipes as files hold them, and the undo history."""
