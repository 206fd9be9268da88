"""Formulas of the standards as plain functions."""
