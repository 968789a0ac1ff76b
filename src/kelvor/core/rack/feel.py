"""Words of feeling that mean the same (common practice, no source): a rider says *stuck*, the notebook says
*sticky*.
"""

from __future__ import annotations

FEEL: tuple[tuple[str, ...], ...] = (
    ("stuck", "sticky", "sticks", "stick", "glued", "draggy", "drags", "suction", "sucks down", "won't release",
     "does not let go", "heavy on the water"),
    ("loose", "slides", "slidey", "skatey", "skates", "slippery", "drifty", "no grip", "spins out", "washes out"),
    ("catchy", "catches", "grabby", "grabs", "trips", "edgy", "hooks"),
    ("stiff", "rigid", "harsh", "hard", "unforgiving", "chattery"),
    ("soft", "flexy", "forgiving", "damped", "smooth", "mushy"),
    ("tippy", "wobbly", "unstable", "rolls", "tender", "nervous", "twitchy"),
    ("stable", "steady", "calm", "planted", "confident", "safe"),
    ("slow", "dull", "lazy", "sluggish", "bogs", "bogged", "dead"),
    ("fast", "quick", "lively", "slippy", "free", "glides", "runs"),
    ("late", "won't go", "needs wind", "won't plane", "hard to start", "never gets going"),
    ("early", "light wind", "gets going", "pops up", "lifts off early", "easy start"),
    ("nosedives", "purls", "pearls", "pearled", "buries the nose", "nose dives", "goes under", "dug in", "digs in"),
    ("tail heavy", "tail sinks", "sinks the tail", "squats", "wheelies"),
    ("wide", "corky", "big", "boaty", "bulky"),
    ("small", "sinky", "too little float", "low volume", "sinks"),
    ("turns", "carves", "pivots", "whippy", "nimble", "agile"),
    ("straight", "tracks", "holds its line", "hard to turn", "won't turn", "corners like a bus"),
    ("slams", "slaps", "bangs", "pounds", "hard landing", "spine"),
    ("wet", "splashes", "sprays", "spray in the face"),
    ("heavy", "weighs", "swing weight", "sluggish in the air"),
    ("light", "airy", "featherweight"),
    ("broke", "cracked", "snapped", "delaminated", "soft spot", "leaks"),
)  # fmt: skip
"""Groups of words; a workshop adds its own."""
