"""What runs ask for: fill, cables, links, pulls, parts and hours."""
