"""What a project asks of its boxes, today and in later years."""
