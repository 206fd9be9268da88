const KEY = "baugrund.last-place";

/** Where one left off, on this machine. */
export function lastPlace(): string | null {
  return localStorage.getItem(KEY);
}

export function rememberPlace(path: string): void {
  localStorage.setItem(KEY, path);
}

export function forgetPlace(): void {
  localStorage.removeItem(KEY);
}
