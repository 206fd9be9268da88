"""Configurations within ranges, listed by what they cost at least."""
