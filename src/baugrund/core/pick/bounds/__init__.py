"""What configurations cost at least: linear relaxation, and links made in every way."""
