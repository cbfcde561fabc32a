"""Timing: when the audience is there, when posts do better, which hours to take."""
