"""The computation: no windows, no files, no clocks, no printing."""
