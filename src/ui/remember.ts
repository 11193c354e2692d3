const YEAR_S = 365 * 24 * 3600;

/** Keeps a choice in this browser, where the server sees it. */
export const remember = (name: 'who' | 'bench' | 'unit', value: string): void => {
  document.cookie = `${name}=${encodeURIComponent(value)}; path=/; max-age=${YEAR_S}; samesite=lax`;
};

/** One to four letters. */
export const soundInitials = (typed: string): boolean => /^\p{L}{1,4}$/u.test(typed.trim());
