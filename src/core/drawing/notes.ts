/** Something about a file that its owner should know, with how often it occurred. */
export interface Note {
  readonly what: string;
  readonly count: number;
}

/** “3 × empty path left out”. */
export const noteText = ({ what, count }: Note): string => (count > 1 ? `${count} × ${what}` : what);

/** A report travels in one header of an answer. */
const MOST_KINDS = 40;

/** Collects notes, each once with its count, in the order they first came up. */
export class Notes {
  private readonly counts = new Map<string, number>();

  add(what: string, count = 1): void {
    if (count > 0) this.counts.set(what, (this.counts.get(what) ?? 0) + count);
  }

  /** The first kinds of note; a file of many makes one more of the rest, so that a report stays short. */
  list(): Note[] {
    const all = [...this.counts].map(([what, count]) => ({ what, count }));
    if (all.length <= MOST_KINDS) return all;
    const rest = all.slice(MOST_KINDS).reduce((sum, n) => sum + n.count, 0);
    return [...all.slice(0, MOST_KINDS), { what: 'further things changed or left out', count: rest }];
  }
}
