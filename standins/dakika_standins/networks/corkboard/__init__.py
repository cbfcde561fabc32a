"""Corkboard: Boards."""
