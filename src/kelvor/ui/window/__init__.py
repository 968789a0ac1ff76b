"""The window itself: its views, actions, finder, saving bar."""
