"""Sheets to print: what goes along to the building site, as PDF."""
