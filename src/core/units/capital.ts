/** The same words with a capital first letter, as a sentence begins. */
export const capital = (words: string): string => words.charAt(0).toUpperCase() + words.slice(1);
