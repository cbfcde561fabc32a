"""How an installation is: logs that machines read, metrics, errors, slow queries, and a screen for admins."""
