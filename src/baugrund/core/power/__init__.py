"""Every powered run in volts and watts."""
