"""From the design to boards with serials."""
