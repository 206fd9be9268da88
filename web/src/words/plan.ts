/** Words of plan and section. */
export const plan = {
  plan: {
    open: "Open the plan",
    planOf: (floor: string) => `Plan of ${floor}`,
    floors: "Floors",
    put: "put a drop",
    putting: "Press where it goes; Esc ends.",
    draw: "Draw rooms",
    drawn: "Finish drawing",
    drawing: "Drag a room or its corners; drag a round mark for a new corner, Shift and press takes one away.",
    measuring: "Press two points whose distance you know.",
    hint: "Drag drops; arrows nudge, d doubles, Shift adds. Wheel zooms.",
    alignRow: "Align in a row",
    alignColumn: "Align in a column",
    fit: "Show all",
    noRoom: "No room is at that place, so nothing was moved.",
  },
  planPicture: {
    take: "Add a floor plan picture",
    working: "reading …",
    scale: "Scale the picture",
    remove: "Remove the picture",
    stop: "Stop scaling",
    between: "length between them",
    set: "Scale",
  },
  section: {
    title: "Section through the site",
    lead: "Every run over, down and round, as it will be pulled.",
    along: "Look along the other side",
    across: "Look from the other side",
  },
} as const;
