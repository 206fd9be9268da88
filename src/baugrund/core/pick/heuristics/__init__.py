"""First incumbents: from the boxes of before, among few boxes, by diving."""
