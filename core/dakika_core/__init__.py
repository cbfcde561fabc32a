"""The rules of the job and its computation. Pure: no I/O, no clock, no framework."""
