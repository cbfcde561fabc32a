"""Worlds whose truth is known, in which estimates are held against it: by the tests with few seeds, by the bench with many."""
