import { useEffect } from "react";

/** While something is drawn: Esc stops it, Backspace takes the last corner back. */
export function useDrawingKeys(isDrawing: boolean, hasCorners: boolean, stop: () => void, back: () => void) {
  useEffect(() => {
    if (!isDrawing) return;
    const press = (event: KeyboardEvent) => {
      if (event.key === "Escape") stop();
      else if (event.key === "Backspace" && hasCorners) back();
      else return;
      event.preventDefault();
      event.stopPropagation();
    };
    window.addEventListener("keydown", press, true);
    return () => window.removeEventListener("keydown", press, true);
  }, [isDrawing, hasCorners, stop, back]);
}
