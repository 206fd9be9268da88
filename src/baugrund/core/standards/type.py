"""How wide texts are in the type of the house, and stocks of labels that are known.

References
----------
.. [1] Advance widths of Archivo at weight 600 and width 100, in thousandths of its size (OpenType table *hmtx*).
"""

from __future__ import annotations

FIRST = 32
ADVANCES = (
    200, 292, 444, 583, 541, 966, 729, 246, 357, 357, 407, 636, 300, 333, 300, 298, 575, 576, 576, 576, 577, 575, 576,
    576, 576, 575, 336, 336, 636, 636, 636, 613, 998, 709, 706, 721, 728, 672, 609, 794, 732, 282, 585, 695, 570, 844,
    732, 782, 670, 782, 717, 667, 619, 724, 671, 954, 686, 677, 634, 339, 298, 339, 636, 507, 209, 556, 592, 547, 592,
    561, 307, 591, 584, 252, 250, 543, 252, 861, 584, 598, 592, 592, 362, 541, 314, 583, 529, 758, 546, 529, 509, 394,
    245, 394, 636,
)  # fmt: skip
"""From the blank to the tilde [1]_."""
WIDEST = 1000
"""Of other letters, on the safe side."""
LEAST_MM, LARGEST_MM = 1.9, 5.0
"""Size of type on labels: under the least nobody reads it at arm's length, *default*."""
LINE = 1.2
"""Height of a line over the size of its type."""


def text_width(text: str) -> float:
    """Width of a text over the size of its type [1]_."""
    places = (ord(letter) - FIRST for letter in text)
    return sum(ADVANCES[at] if 0 <= at < len(ADVANCES) else WIDEST for at in places) / 1000
