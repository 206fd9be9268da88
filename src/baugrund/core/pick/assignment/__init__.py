"""Drops and links of a given configuration: exact, greedy, and as the selection names it."""
