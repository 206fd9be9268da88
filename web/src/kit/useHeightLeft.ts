import { type RefObject, useLayoutEffect, useState } from "react";

const BELOW_PX = 20;

/** The height from an element's top to the lower edge of the page that it scrolls in, and never under the least [px]. */
export function useHeightLeft(ref: RefObject<HTMLElement | null>, least: number): number {
  const [left, setLeft] = useState(least);
  useLayoutEffect(() => {
    const element = ref.current;
    const page = element?.closest("main");
    const above = element?.closest("section[id], section[aria-label]")?.parentElement?.parentElement;
    if (!element || !page) return;
    const measure = () => {
      if (getComputedStyle(page).overflowY === "visible") return setLeft(least);
      const top = element.getBoundingClientRect().top - page.getBoundingClientRect().top + page.scrollTop;
      setLeft(Math.max(least, page.clientHeight - top - BELOW_PX));
    };
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(page);
    for (const child of above?.children ?? []) observer.observe(child);
    return () => observer.disconnect();
  }, [ref, least]);
  return left;
}
