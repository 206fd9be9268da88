"""Baugrund: lists every wired drop of a building and picks the router, switches and ports that bear it."""
