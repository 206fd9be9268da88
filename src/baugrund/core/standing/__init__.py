"""The boxes that stand: how full each capacity is, what crosses each link, which devices are fed."""
