"""Brevi: short text."""
