"""What a young post is heading for, what a planned one will bring, and whether that was right."""
