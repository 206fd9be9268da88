import { useState } from "react";

const KEPT = "began ";

/** When something began, by its name, on this device: a clock goes on where the page was left or the phone slept. */
export function useBegan(name: string) {
  const [began, setBegan] = useState<number | null>(() => Number(localStorage.getItem(KEPT + name)) || null);
  const begin = () => {
    const now = Date.now();
    localStorage.setItem(KEPT + name, String(now));
    setBegan(now);
  };
  const end = () => {
    localStorage.removeItem(KEPT + name);
    setBegan(null);
  };
  return { began, begin, end };
}
