const LETTER_PX = 5.6;

/** A name as far as so many pixels hold it. */
export function short(name: string, width: number): string {
  const most = Math.floor(width / LETTER_PX);
  return name.length > most ? `${name.slice(0, Math.max(0, most - 1))}…` : name;
}
