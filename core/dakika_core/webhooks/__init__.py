"""What other programs are told: how it is signed, and when it is tried again."""
