"""Stress in the ground below what presses it: one file for each shape, and what is kept between edits."""
