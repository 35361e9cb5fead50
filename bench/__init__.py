"""Measures the engine side by side with general-purpose libraries."""
