"""Files of other tools: found out what they are, and read as they were meant."""
