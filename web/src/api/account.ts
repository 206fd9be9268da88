const KEY = "baugrund.account";
export const NAMELESS = "you";
const PLAIN = /^[\p{L}\p{N}_ .@-]{1,60}$/u;

/** Who acts from this browser: a name that its person gave, kept on this machine. */
export function account(): string {
  return localStorage.getItem(KEY) ?? NAMELESS;
}

/** Keep a name; false when it is not a plain one. */
export function nameAccount(name: string): boolean {
  const plain = name.trim();
  if (plain === "") localStorage.removeItem(KEY);
  else if (PLAIN.test(plain)) localStorage.setItem(KEY, plain);
  else return false;
  return true;
}
