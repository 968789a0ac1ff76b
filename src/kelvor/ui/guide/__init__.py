"""The guide: its pages, and which of them a field leads to."""
