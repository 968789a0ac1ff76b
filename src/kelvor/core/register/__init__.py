"""What a workshop keeps: records, their stamps, and briefs that refer to them."""
