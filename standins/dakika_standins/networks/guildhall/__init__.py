"""Guildhall: Working life."""
