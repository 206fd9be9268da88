"""Baugrund: lists every wired drop of a building and picks the router, switches and ports that bear it."""

import os

# the matrices are small: a second thread of their library would only take the core that another search is on
os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")
