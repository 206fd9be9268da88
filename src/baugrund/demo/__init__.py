"""Sample projects and the shipped catalogue, as data."""
