"""Concrete standards: what each provides (protocol), which there are (registry), and one folder for each."""
