/** A name as it stands within a sentence: small letters, but for one that is an abbreviation. */
export const small = (name: string): string => (name === name.toUpperCase() ? name : name.toLowerCase());
