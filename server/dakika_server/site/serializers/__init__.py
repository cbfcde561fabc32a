"""What site sends and takes."""
