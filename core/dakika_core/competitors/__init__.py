"""Competitors: profiles held side by side."""
