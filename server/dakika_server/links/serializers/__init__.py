"""What links send and take."""
