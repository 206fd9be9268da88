"""Price lists read as one, what an edition changes, and what it costs to run what is bought."""
