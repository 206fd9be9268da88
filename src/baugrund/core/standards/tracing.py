"""Minutes and trust of tracing, *defaults* of this program: what a tone names, how long each step takes."""

RIGHT, NEIGHBOUR, TWO_OFF = 0.70, 0.25, 0.05
"""A sweep names the right position, one beside it (half to each side), one two off."""
STRAY = 1e-4
"""A sweep names any other position of the panel, all together: so that no reading is impossible."""
REPEATS = 0.5
"""A second sweep at the same jack names what the one before it named, for the same cause."""
DEAD = 0.03
"""A jack is dead."""
SILENT = 0.02
"""A sweep for a jack that is not dead stays silent."""
SET_UP, SWEEP, PAIR, CORD, READ = 1.0, 1.5, 0.5, 0.7, 0.2
"""A device put into a jack; a sweep; a position tested; a cord moved; a light, or the table of a switch, read [min]."""
WALK, FLOOR = 1.0, 0.5
"""From panel to room or from room to room, and each floor between them [min]."""
