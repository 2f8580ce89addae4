"""Where one begins: work to go on with, files, examples, and first numbers typed at a drawing."""
