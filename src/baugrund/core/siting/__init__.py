"""Siting: where the head end and further closets stand best.

``places`` says where one could stand → ``costs`` what every run, link and line would cost from there → ``search`` the
best sets of each size, proven → ``answers`` tells them.
"""
