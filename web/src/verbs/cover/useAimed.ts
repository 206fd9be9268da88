import { type PointerEvent, useRef } from "react";

/** The pointer on the end of an aim: turned while it is held, settled when it is let go. */
export function useAimed<Aim>(
  aimAt: (event: PointerEvent<SVGElement>) => Aim,
  turn: (aim: Aim) => void,
  settle: (aim: Aim) => void,
) {
  const held = useRef(false);
  return {
    onPointerDown: (event: PointerEvent<SVGElement>) => {
      event.stopPropagation();
      event.currentTarget.setPointerCapture(event.pointerId);
      held.current = true;
    },
    onPointerMove: (event: PointerEvent<SVGElement>) => {
      if (held.current) turn(aimAt(event));
    },
    onPointerUp: (event: PointerEvent<SVGElement>) => {
      if (!held.current) return;
      held.current = false;
      settle(aimAt(event));
    },
    onPointerCancel: () => {
      held.current = false;
    },
  };
}
