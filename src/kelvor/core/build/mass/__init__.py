"""What a board weighs, part by part and stage by stage."""
