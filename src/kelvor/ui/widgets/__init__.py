"""Small widgets shared by views."""
