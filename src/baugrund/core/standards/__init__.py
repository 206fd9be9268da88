"""Tables of the standards as data, each with its source."""
