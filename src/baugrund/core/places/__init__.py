"""Where everything is, what it is called, and what a surface asks for."""
