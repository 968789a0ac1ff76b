"""Parts of the Build view: the construction and its layers, stiffness along the board, ways to build compared,
weigh-ins.
"""
