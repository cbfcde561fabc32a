"""Values that the whole core speaks in: periods, intervals, hours of the week."""
