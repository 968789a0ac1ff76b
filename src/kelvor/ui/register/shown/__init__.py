"""The register's words and rows, without a window."""
