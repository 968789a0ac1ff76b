"""Work beside the window: workers, processes, timers."""
