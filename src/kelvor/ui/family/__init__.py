"""The Family view: sizes, the family in one picture, class rules, options, and which board for whom."""
