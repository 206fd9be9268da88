const SYMBOLS: Record<string, string> = { EUR: "€", USD: "$", GBP: "£", JPY: "¥" };
const LOCALES = { en: "en", de: "de", fr: "fr", ch: "de-CH" } as const;
const FEET = 0.3048;

/** How the open project writes figures; one project is open at a time, and says so before anything is drawn. */
const style = { locale: "en", imperial: false };

export function writeFiguresAs(settings: { numbers?: keyof typeof LOCALES; units?: "metric" | "imperial" }): void {
  style.locale = LOCALES[settings.numbers ?? "en"];
  style.imperial = settings.units === "imperial";
}

function written(value: number, least: number, most: number): string {
  return value.toLocaleString(style.locale, { minimumFractionDigits: least, maximumFractionDigits: most });
}

/** Money in minor units, as it is written on screen: "€ 1,234" or "€ 12.50"; no line breaks within it. */
export function money(minor: number, currency: string): string {
  const perUnit = minorPerUnit(currency);
  const decimals = Math.log10(perUnit);
  return `${SYMBOLS[currency] ?? currency}\u00a0${written(minor / perUnit, minor % perUnit === 0 ? 0 : decimals, decimals)}`;
}

/** Money to whole units of its currency, for figures that are not exact to the cent. */
export function roundMoney(minor: number, currency: string): string {
  const perUnit = minorPerUnit(currency);
  return money(Math.round(minor / perUnit) * perUnit, currency);
}

/** How many minor units one of a currency has (ISO 4217): 100 cents, 1 yen. */
export function minorPerUnit(currency: string): number {
  const { maximumFractionDigits } = new Intl.NumberFormat("en", { style: "currency", currency }).resolvedOptions();
  return 10 ** (maximumFractionDigits ?? 2);
}

/** A moment as every date is written: 2026-03-12 14:05, by the clock of whoever looks. */
export function moment(iso: string): string {
  return new Date(iso).toLocaleString("sv-SE", { dateStyle: "short", timeStyle: "short" });
}

/** Line rate: "2.5 G", "100 M". */
export function speed(mbit: number): string {
  return mbit >= 1000 ? `${written(mbit / 1000, 0, 1)} G` : `${mbit} M`;
}

/** A figure with one decimal at most. */
export function figure(value: number): string {
  return written(Math.round(value * 10) / 10, 0, 1);
}

/** A figure as it is typed: up to three decimals, for a draw of 12.95 W is not 13 W. */
export function exact(value: number): string {
  return written(value, 0, 3);
}

/** The unit of lengths: metres, or feet in an imperial project. */
export function lengthUnit(): string {
  return style.imperial ? "ft" : "m";
}

/** Metres as the project writes lengths, without the unit. */
export function length(metres: number, decimals = 1): string {
  return written(style.imperial ? metres / FEET : metres, 0, decimals);
}

/** Metres from a length in the unit of the project. */
export function toMetres(typed: number): number {
  return style.imperial ? Math.round(typed * FEET * 1000) / 1000 : typed;
}

/** A typed figure, written in any of the usual ways; NaN when it is none. */
export function typedFigure(text: string): number {
  const bare = text.replace(/[\s'’\u00a0\u202f]/g, "");
  const comma = bare.lastIndexOf(",");
  const point = bare.lastIndexOf(".");
  if (comma >= 0 && point >= 0) {
    const group = comma > point ? /\./g : /,/g;
    return Number(bare.replace(group, "").replace(",", "."));
  }
  const grouped = style.locale === "en" ? /^-?\d{1,3}(,\d{3})+$/ : /^-?\d{1,3}(\.\d{3})+$/;
  if (grouped.test(bare)) return Number(bare.replace(/[.,]/g, ""));
  return Number(bare.replace(",", "."));
}
