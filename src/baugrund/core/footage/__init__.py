"""What is kept of what cameras film: how much, on which recorder and disks, and for how long."""
