"""Reach: every run measured along the paths drawn, and what follows from it.

``network`` joins paths into one graph over floors → ``router`` finds the best way from a drop to its closet →
``runs`` lists every run with its pieces → ``fill`` says what each path holds, ``cables`` what to buy and which run is
cut from which box (``packing``).
"""
