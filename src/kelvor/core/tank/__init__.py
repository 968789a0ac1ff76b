"""Published laws of water, wind and lift, each a pure function."""
