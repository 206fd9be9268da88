import { type RefObject, useCallback, useEffect, useLayoutEffect, useRef, useState } from "react";
import type { Box, Spot } from "./geometry";

const ZOOM_STEP = 1.2;
const CLOSEST = 400;

interface View {
  /** Pixels a metre. */
  scale: number;
  x: number;
  y: number;
  width: number;
  height: number;
}

/** How a drawing in metres is looked at: fitted to its frame, zoomed at the pointer, panned. */
export function useView(frame: RefObject<HTMLElement | null>, whole: Box) {
  const [size, setSize] = useState({ width: 600, height: 400 });
  const [looked, setLooked] = useState<{ scale: number; x: number; y: number } | null>(null);

  useLayoutEffect(() => {
    const element = frame.current;
    if (!element) return;
    const observer = new ResizeObserver(([entry]) => {
      if (entry) setSize({ width: entry.contentRect.width || 1, height: entry.contentRect.height || 1 });
    });
    observer.observe(element);
    return () => observer.disconnect();
  }, [frame]);

  const fitted = Math.min(size.width / whole.width, size.height / whole.height);
  const scale = looked?.scale ?? fitted;
  const view: View = {
    scale,
    x: looked?.x ?? whole.x - (size.width / scale - whole.width) / 2,
    y: looked?.y ?? whole.y - (size.height / scale - whole.height) / 2,
    width: size.width / scale,
    height: size.height / scale,
  };
  const now = useRef(view);
  now.current = view;

  const zoom = useCallback(
    (factor: number, at?: Spot) => {
      const { x, y, scale: old, width, height } = now.current;
      const [cx, cy] = at ?? [x + width / 2, y + height / 2];
      const next = Math.max(fitted * 0.5, Math.min(CLOSEST, old * factor));
      setLooked({ scale: next, x: cx - ((cx - x) * old) / next, y: cy - ((cy - y) * old) / next });
    },
    [fitted],
  );
  const pan = useCallback((dx: number, dy: number) => {
    const { x, y, scale: old } = now.current;
    setLooked({ scale: old, x: x - dx / old, y: y - dy / old });
  }, []);
  const fit = useCallback(() => setLooked(null), []);
  /** Keep looking at what is in sight now, though the whole may grow. */
  const hold = useCallback(() => setLooked({ scale: now.current.scale, x: now.current.x, y: now.current.y }), []);
  const spotOf = useCallback(
    (event: { clientX: number; clientY: number }): Spot => {
      const rect = frame.current?.getBoundingClientRect();
      const { x, y, scale: old } = now.current;
      return [x + (event.clientX - (rect?.left ?? 0)) / old, y + (event.clientY - (rect?.top ?? 0)) / old];
    },
    [frame],
  );

  useEffect(() => {
    const element = frame.current;
    if (!element) return;
    // a wheel over the drawing zooms it; React's own listener could not keep the page from scrolling
    const wheel = (event: WheelEvent) => {
      event.preventDefault();
      zoom(event.deltaY < 0 ? ZOOM_STEP : 1 / ZOOM_STEP, spotOf(event));
    };
    element.addEventListener("wheel", wheel, { passive: false });
    return () => element.removeEventListener("wheel", wheel);
  }, [frame, zoom, spotOf]);

  return { view, zoom, pan, fit, hold, spotOf };
}
