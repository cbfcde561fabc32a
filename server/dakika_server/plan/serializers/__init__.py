"""Shapes of the plan."""
