"""The job itself: pure rules and computation. Imports nothing from its siblings; knows no database, web or file."""
