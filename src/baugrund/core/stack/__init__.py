"""What stands in every closet: arranged, fed, cooled, and kept alive through a power cut."""
