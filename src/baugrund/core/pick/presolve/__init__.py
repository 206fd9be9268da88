"""Boxes that no best pick needs, left out before the search."""
