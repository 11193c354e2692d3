import { refuse } from '../../outcome';

/* The letters of an HP-GL program: commands, figures and words. */

export type HpglRefusal =
  | { readonly code: 'not-hpgl'; readonly found: string }
  | { readonly code: 'bad-figure'; readonly command: string; readonly value: string }
  | { readonly code: 'not-understood'; readonly command: string; readonly why: string }
  | { readonly code: 'too-many-points'; readonly limit: number }
  | { readonly code: 'nothing-to-cut'; readonly uncut: number };

/** Leaves the program with what cannot be read. */
export class Stop extends Error {
  constructor(readonly refusal: HpglRefusal) {
    super(refusal.code);
  }

  get refused() {
    return refuse(this.refusal);
  }
}

const LARGEST = 1e8;

/** ESC . letter … : — a device control, up to its colon, or ESC % letter and the like. */
const DEVICE_CONTROL = /^\u001b(?:\.[A-Z@](?:[0-9;]*:)?|%-?\d*[A-Z]|E|&[a-z]\d*[A-Z])/;

export class Scanner {
  at = 0;

  constructor(
    readonly text: string,
    private readonly controlLeftOut: () => void,
  ) {}

  /** The next two letters; leaves `at` on what follows. Device control sequences are stepped over. */
  command(): string | null {
    for (; this.at < this.text.length; this.at += 1) {
      const c = this.text.charCodeAt(this.at);
      if (c === 27) {
        const end = DEVICE_CONTROL.exec(this.text.slice(this.at, this.at + 40));
        this.at += (end?.[0].length ?? 2) - 1;
        this.controlLeftOut();
      } else if (isLetter(c)) {
        if (!isLetter(this.text.charCodeAt(this.at + 1))) throw this.notHpgl();
        const command = this.text.slice(this.at, this.at + 2).toUpperCase();
        this.at += 2;
        return command;
      } else if (c > 127 || (c < 32 && c !== 9 && c !== 10 && c !== 13 && c !== 3)) throw this.notHpgl();
    }
    return null;
  }

  /** The figures up to the next letter or semicolon. */
  figures(command: string): number[] {
    const from = this.at;
    const { text } = this;
    const values: number[] = [];
    let start = -1;
    for (; ; this.at += 1) {
      const c = this.at < text.length ? text.charCodeAt(this.at) : 59;
      const part = (c >= 48 && c <= 57) || c === 46 || c === 45 || c === 43;
      if (part && start < 0) start = this.at;
      // A sign inside a run starts the next figure: “12-5” is 12 and −5.
      const next = start >= 0 && start < this.at && (c === 45 || c === 43);
      if (start >= 0 && (!part || next)) {
        const value = Number(text.slice(start, this.at));
        if (!Number.isFinite(value) || Math.abs(value) > LARGEST)
          throw new Stop({ code: 'bad-figure', command, value: text.slice(start, this.at).slice(0, 30) });
        values.push(value);
        start = next ? this.at : -1;
      }
      if (part || c === 44 || c === 32 || c === 9 || c === 10 || c === 13) continue;
      if (c === 59) this.at = Math.min(text.length, this.at + 1);
      else if (!isLetter(c) && c !== 27)
        throw new Stop({ code: 'bad-figure', command, value: text.slice(from, this.at + 1).slice(-30) });
      return values;
    }
  }

  /** Steps over words up to and with their terminator, or to the end. */
  words(terminator: string): void {
    const end = this.text.indexOf(terminator, this.at);
    this.at = end < 0 ? this.text.length : end + terminator.length;
  }

  /** Steps over words in quotes, where a command has them. */
  quoted(): void {
    while (this.text[this.at] === ' ') this.at += 1;
    if (this.text[this.at] !== '"') return;
    this.at += 1;
    this.words('"');
  }

  /** The one letter or sign that stands here, null where the command ends; stepped over. */
  sign(): string | null {
    const sign = this.text[this.at];
    if (sign === undefined || sign === ';') return null;
    this.at += 1;
    return sign;
  }

  private notHpgl(): Stop {
    return new Stop({ code: 'not-hpgl', found: this.text.slice(this.at, this.at + 20).trim() });
  }
}

export const isLetter = (c: number): boolean => (c >= 65 && c <= 90) || (c >= 97 && c <= 122);
