interface Entry<T> {
  readonly stamp: string;
  readonly value: Promise<T>;
}

/** What was worked out for the newest few subjects, until their stamp changes: worked out once for all who look meanwhile. */
export class Remembered<T> {
  private readonly entries = new Map<string, Entry<T>>();

  /** `most` subjects are remembered; the one that was longest without a change is forgotten first. */
  constructor(private readonly most: number) {}

  /** What is known of a subject, or what `work` makes of it now; a failure is not remembered. */
  of(subject: string, stamp: string, work: () => Promise<T>): Promise<T> {
    const known = this.entries.get(subject);
    if (known?.stamp === stamp) return known.value;
    const value = work();
    this.entries.delete(subject);
    this.entries.set(subject, { stamp, value });
    if (this.entries.size > this.most) this.entries.delete(this.entries.keys().next().value!);
    value.catch(() => {
      if (this.entries.get(subject)?.value === value) this.entries.delete(subject);
    });
    return value;
  }
}
