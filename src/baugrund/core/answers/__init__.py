"""What is asked about a pick, and answered with all that is told about it."""
