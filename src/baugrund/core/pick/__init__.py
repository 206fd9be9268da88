"""The pick: which router, switches and injectors carry a closet's drops.

A configuration says how many of each box a closet has.  ``model`` states what is asked and what can be had in whole
numbers, ``presolve`` leaves out boxes that no best configuration needs, ``bounds`` says what configurations cost at
least, ``assignment`` seats drops in one, ``enumeration`` lists those of a node, ``heuristics`` finds incumbents,
``branching`` proves the best.  ``site`` joins closets, ``packs`` buys by the pack, ``best`` asks for the four kinds of
best; ``standing`` looks at boxes that are given.  ``docs/pick.md`` goes from the definition to the proof.
"""
