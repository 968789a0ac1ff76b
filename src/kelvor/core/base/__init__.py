"""What every room stands on: values, units, limits, errors, findings, figures, disciplines, fluids."""
