"""The Ride view."""
