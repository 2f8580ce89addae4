"""Plates that bend and deform in shear, on springs: mesh, element, solution, recovered forces, design moments."""
