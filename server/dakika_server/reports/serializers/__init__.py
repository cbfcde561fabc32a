"""Shapes of reports."""
