"""What cameras and door stations see: lenses in their places, views cut by walls, targets, and the sun in them."""
