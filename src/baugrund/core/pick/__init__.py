"""The pick: which router, switches and injectors carry a closet's drops.

``problem`` states it in whole numbers, ``relaxation`` bounds it, ``seating`` finds a quick way to seat the
drops and ``assignment`` the best one, ``search`` proves the least, ``answers`` asks for the four kinds of best,
``reasons`` says why not.
"""
