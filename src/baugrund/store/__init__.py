"""Keeps projects in PostgreSQL: plain tables, a journal of every edit, undo and redo."""
