"""What the rows of a project and of a price list say."""
