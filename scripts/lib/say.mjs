/** One calm line at a time, with what is being done. */
export const say = (words) => console.log(`red plumb  ${words}`);

/** Ends with a message that says what would be right. */
export function giveUp(words) {
  console.error(`\nred plumb  ${words}\n`);
  process.exit(1);
}
