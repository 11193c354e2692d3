// What is said goes into a file, perhaps on a full disk: that keeps nobody from anything.
for (const stream of [process.stdout, process.stderr]) stream.on('error', () => undefined);

/** One calm line at a time, with what is being done. */
export const say = (words) => console.log(`red plumb  ${words}`);

/** Ends with a message that says what would be right. */
export function giveUp(words) {
  console.error(`\nred plumb  ${words}\n`);
  process.exit(1);
}

const WORDS = {
  EACCES: (path) => `${path} may not be written by this user. Start it as the user who owns the folder.`,
  EROFS: (path) => `${path} lies on a disk that cannot be written.`,
  ENOSPC: (path) => `The disk of ${path} is full. Make room on it, then start again; nothing was lost.`,
};

/** What keeps a start from going on, in words where it is the disk or a right, else as it was said. */
export const wordsOf = (error) => {
  const words = WORDS[error?.code];
  return words ? words(error.path ?? 'this folder') : String(error?.stack ?? error);
};
