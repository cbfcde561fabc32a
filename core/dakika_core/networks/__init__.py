"""What a network is: its rules and what it reports."""
