"""Controls that know no document."""
