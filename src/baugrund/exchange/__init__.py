"""Open formats in and out: the project file (JSON with a published schema), the bill of materials (CSV)."""
