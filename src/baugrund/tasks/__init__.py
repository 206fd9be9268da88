"""Work that takes over a moment: put on a queue in the database, done by workers of their own, told as it goes."""
