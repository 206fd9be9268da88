const SYMBOLS: Record<string, string> = { EUR: "€", USD: "$", GBP: "£", JPY: "¥" };

/** Money in minor units, as it is written on screen: "€ 1,234" or "€ 12.50". */
export function money(minor: number, currency: string): string {
  const whole = minor % 100 === 0;
  const amount = (minor / 100).toLocaleString("en", { minimumFractionDigits: whole ? 0 : 2, maximumFractionDigits: 2 });
  return `${SYMBOLS[currency] ?? currency} ${amount}`;
}

/** Line rate: "2.5 G", "100 M". */
export function speed(mbit: number): string {
  return mbit >= 1000 ? `${mbit / 1000} G` : `${mbit} M`;
}

/** A figure with one decimal at most. */
export function figure(value: number): string {
  return (Math.round(value * 10) / 10).toLocaleString("en", { maximumFractionDigits: 1 });
}
