"""A board's core on a three-axis mill: stock, tool paths, programs, the simulated cut, and what it leaves."""
