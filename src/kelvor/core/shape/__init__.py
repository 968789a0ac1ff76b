"""The board as a value, and the surface that follows from it.

Reading order: ``battens`` and ``schedules`` (curves), ``outline``, ``layers``,
``rails``, ``fittings``, ``board`` (the value), ``stations`` and ``sections``
(from the value to arrays), ``surface`` (the closed mesh), ``checks``
(findings), ``edits`` (new boards from old ones), ``baseline``.
"""
