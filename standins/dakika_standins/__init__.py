"""The outside world that ships with Dakika: networks and sites, in a process of their own."""
