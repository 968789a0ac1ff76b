"""From the design to boards with serials: weighed, measured, scanned, scheduled, proved, ordered."""
