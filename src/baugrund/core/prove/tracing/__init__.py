"""Unlabelled cable traced: how probable each pair is after every reading, and which reading is best next."""
