"""What a closet asks of its boxes, what can be had, and how a solution is written."""
