"""Parts of the Compare view: lines, boards over one another, phases, what is taken on, what was decided."""
