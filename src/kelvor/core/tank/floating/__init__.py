"""Floating at rest: posture, righting, the rider in the water."""
