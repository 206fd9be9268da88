"""Plan and section as drawings in metres: a scene of layered shapes, written as SVG or DXF."""
