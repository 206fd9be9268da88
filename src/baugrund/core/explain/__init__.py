"""A pick explained: what it is made of, why not another, the years ahead, what would change it, what stands in."""
