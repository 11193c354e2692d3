/** Something about a file that its owner should know, with how often it occurred. */
export interface Note {
  readonly what: string;
  readonly count: number;
}

/** Collects notes, each once with its count, in the order they first came up. */
export class Notes {
  private readonly counts = new Map<string, number>();

  add(what: string, count = 1): void {
    if (count > 0) this.counts.set(what, (this.counts.get(what) ?? 0) + count);
  }

  list(): Note[] {
    return [...this.counts].map(([what, count]) => ({ what, count }));
  }
}
