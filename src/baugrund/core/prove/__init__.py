"""Building and testing: runs as they were measured."""
