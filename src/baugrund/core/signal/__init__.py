"""What Wi-Fi reaches: obstructions, radios, the levels on a grid, who answers, goals, channels, airtime, survey."""
