"""The order of work: steps as they follow from the project, how far each is, and what comes next."""
