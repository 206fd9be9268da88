"""Branch and bound over configurations, to the proof."""
