"""The mill: blocks, paths, programs, and what a program would leave."""
