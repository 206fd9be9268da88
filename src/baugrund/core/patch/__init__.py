"""Which jack is which panel position is which port; networks, and what may pass between them."""
