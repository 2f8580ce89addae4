"""Rafts: their loads and ground brought to the plate, and the checks of its concrete."""
