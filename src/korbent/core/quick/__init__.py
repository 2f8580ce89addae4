"""A first project from a few numbers: one base, a wall, two columns on one base; and what a bare strip bears."""
