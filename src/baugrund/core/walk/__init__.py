"""What people say and paste, read as edits."""
