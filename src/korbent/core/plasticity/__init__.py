"""Limit analysis of a strip: the exact solution by slip lines where there is one, and bounds from below and above for
any section of ground."""
