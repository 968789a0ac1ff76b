"""Seeking: meeting a typed measure by the smallest fair change, holding what is locked."""
