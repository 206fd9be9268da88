"""Things in closets that no pick chooses: what they are, and what they leave of a closet."""
