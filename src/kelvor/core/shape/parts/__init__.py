"""What a board is put together from: layers, rails, fittings, fins, construction."""
