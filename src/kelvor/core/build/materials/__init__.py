"""Cloth, resin and foam: the table, the lay-up, the laminator's sheet, the work."""
