"""Hashtags: sets, what is proposed and why, what networks tell of them, and how followed ones do over time."""
