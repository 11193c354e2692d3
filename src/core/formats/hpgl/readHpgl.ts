/* eslint-disable max-lines -- a plotter is one machine with one state; see Reader */
import { SAME } from '../../tolerance';
import type { Point } from '../../geometry';
import { accept, refuse, type Outcome } from '../../outcome';
import { POINT_LIMIT, VALUE_LIMIT } from '../limits';
import type { Notes } from '../notes';
import { pointsWorth, type Drawing, type DrawnPath, type Segment } from '../drawing';

/** A plotter unit: 1/40 mm (HP-GL; memory). */
export const HPGL_UNIT_MM = 0.025;

export type HpglRefusal =
  | { readonly code: 'not-hpgl'; readonly found: string }
  | { readonly code: 'bad-figure'; readonly command: string; readonly value: string }
  | { readonly code: 'not-understood'; readonly command: string; readonly why: string }
  | { readonly code: 'too-many-points'; readonly limit: number }
  | { readonly code: 'nothing-to-cut' };

const LARGEST = 1e8;
const ETX = '\u0003';
/** Speed, force and the like: they stand before a path and go with it, word for word. */
const DEVICE = new Set(['VS', 'FS', 'AS', 'PT', 'LT', 'PW', 'FP']);
const SILENT = new Set(['IN', 'DF', 'PG', 'CO', 'NR', 'PS', 'IW', 'EC', 'BP']);

class Stop extends Error {
  constructor(readonly refusal: HpglRefusal) {
    super(refusal.code);
  }
}

/**
 * Reads HP-GL cut data.
 *
 * Reads    PU, PD, PA, PR, SP, AA, AR, CI, EA, ER; IP with SC by four corners; labels are skipped and counted.
 * Units    0.025 mm a plotter unit, mm out.
 * Refuses  figures that mean nothing, and commands that would move everything but are not understood, by name.
 */
export function readHpgl(
  content: string,
  notes: Notes,
  onProgress: (share: number) => void = () => undefined,
): Outcome<Drawing, HpglRefusal> {
  try {
    return accept(new Reader(content, notes, onProgress).read());
  } catch (error) {
    if (error instanceof Stop) return refuse(error.refusal);
    throw error;
  }
}

/** Long, since a plotter is one machine with one state: every instruction reads and moves the same pen. */
class Reader {
  private readonly paths: DrawnPath[] = [];
  private at = 0;
  private down = false;
  private relative = false;
  private pen = 1;
  private penUsed = false;
  /** Current place, mm. */
  private x = 0;
  private y = 0;
  private corners: readonly [number, number, number, number] | null = null;
  /** User units → mm on each axis: scale and offset. */
  private scale = { x: HPGL_UNIT_MM, y: HPGL_UNIT_MM, x0: 0, y0: 0 };
  private device = '';
  private open: { start: Point; segments: Segment[]; run: number[] } | null = null;
  private points = 0;
  private known = 0;

  constructor(
    private readonly text: string,
    private readonly notes: Notes,
    private readonly onProgress: (share: number) => void,
  ) {}

  read(): Drawing {
    let nextReport = 0;
    for (;;) {
      const command = this.command();
      if (command === null) break;
      this.obey(command);
      if (this.at >= nextReport) {
        this.onProgress(this.at / this.text.length);
        nextReport = this.at + this.text.length / 50;
      }
    }
    this.finish();
    if (this.known === 0) throw new Stop({ code: 'not-hpgl', found: this.text.slice(0, 20).trim() });
    if (this.paths.length === 0) throw new Stop({ code: 'nothing-to-cut' });
    const pens = [...new Set(this.paths.map((p) => p.layer))];
    return {
      paths: this.paths,
      layers: pens.map((name) => ({ name, colour: null })),
      page: null,
      unitMm: HPGL_UNIT_MM,
    };
  }

  /** The next two letters; leaves `at` on what follows. Device control sequences are stepped over. */
  private command(): string | null {
    for (; this.at < this.text.length; this.at += 1) {
      const c = this.text.charCodeAt(this.at);
      if (c === 27) {
        // ESC . letter … : — a device control, up to its colon, or ESC % letter and the like.
        const end = /^\u001b(?:\.[A-Z@](?:[0-9;]*:)?|%-?\d*[A-Z]|E|&[a-z]\d*[A-Z])/.exec(
          this.text.slice(this.at, this.at + 40),
        );
        this.at += (end?.[0].length ?? 2) - 1;
        this.notes.add('device control left out');
      } else if (isLetter(c)) {
        if (!isLetter(this.text.charCodeAt(this.at + 1)))
          throw new Stop({ code: 'not-hpgl', found: this.text.slice(this.at, this.at + 20).trim() });
        const command = this.text.slice(this.at, this.at + 2).toUpperCase();
        this.at += 2;
        return command;
      } else if (c > 127 || (c < 32 && c !== 9 && c !== 10 && c !== 13 && c !== 3))
        throw new Stop({ code: 'not-hpgl', found: this.text.slice(this.at, this.at + 20).trim() });
    }
    return null;
  }

  /** The figures up to the next letter or semicolon. */
  private figures(command: string): number[] {
    const from = this.at;
    const { text } = this;
    const values: number[] = [];
    let start = -1;
    for (; ; this.at += 1) {
      const c = this.at < text.length ? text.charCodeAt(this.at) : 59;
      const part = (c >= 48 && c <= 57) || c === 46 || c === 45 || c === 43;
      if (part && start < 0) start = this.at;
      // A minus inside a run starts the next figure: “12-5” is 12 and −5.
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

  private obey(command: string): void {
    if (command === 'LB') {
      const end = this.text.indexOf(ETX, this.at);
      this.at = end < 0 ? this.text.length : end + 1;
      this.known += 1;
      return this.notes.add('label (LB) left out: text is not a cut line');
    }
    if (command === 'DT') this.at += 1;
    if (command === 'PE')
      throw new Stop({ code: 'not-understood', command, why: 'encoded polylines; write it with PU and PD' });
    const from = this.at;
    const f = this.figures(command);
    this.known += Number(KNOWN.has(command) || DEVICE.has(command) || SILENT.has(command));
    switch (command) {
      case 'PU':
      case 'PD':
        this.down = command === 'PD';
        if (!this.down) this.finish();
        return this.go(f, command);
      case 'PA':
      case 'PR':
        this.relative = command === 'PR';
        return this.go(f, command);
      case 'SP':
        this.finish();
        if (!Number.isInteger(f[0] ?? 0) || (f[0] ?? 0) < 0)
          throw new Stop({ code: 'bad-figure', command, value: String(f[0]) });
        this.pen = f[0] ?? 0;
        this.penUsed ||= f[0] !== undefined && f[0] !== 0;
        return;
      case 'AA':
      case 'AR':
        return this.arc(f, command);
      case 'CI':
        return this.circle(f, command);
      case 'EA':
      case 'ER':
        return this.rectangle(f, command);
      case 'IP':
        this.corners = f.length === 4 ? [f[0]!, f[1]!, f[2]!, f[3]!] : null;
        return;
      case 'SC':
        return this.rescale(f);
      case 'RO':
        if ((f[0] ?? 0) !== 0)
          throw new Stop({ code: 'not-understood', command, why: 'a turned page; write it without turning' });
        return;
      default:
        if (DEVICE.has(command)) {
          this.finish();
          const figures = this.text.slice(from, this.at).replaceAll(';', '').trim();
          if (figures.length > VALUE_LIMIT)
            throw new Stop({ code: 'bad-figure', command, value: figures.slice(0, 30) });
          if (this.device.length > VALUE_LIMIT) this.device = '';
          this.device += `${command}${figures};`;
        } else if (!SILENT.has(command)) this.notes.add(`${command} left out: not a command for cut lines`);
    }
  }

  private toX(value: number): number {
    return this.relative ? this.x + value * this.scale.x : value * this.scale.x + this.scale.x0;
  }

  private toY(value: number): number {
    return this.relative ? this.y + value * this.scale.y : value * this.scale.y + this.scale.y0;
  }

  private go(f: readonly number[], command: string): void {
    if (f.length % 2 !== 0)
      throw new Stop({ code: 'bad-figure', command, value: 'an odd number of figures' });
    for (let i = 0; i < f.length; i += 2) {
      const x = this.toX(f[i]!);
      const y = this.toY(f[i + 1]!);
      if (this.down) {
        this.open ??= { start: { x: this.x, y: this.y }, segments: [], run: [] };
        this.open.run.push(x, y);
      }
      this.x = x;
      this.y = y;
    }
  }

  private count(points: number): void {
    this.points += points;
    if (this.points > POINT_LIMIT) throw new Stop({ code: 'too-many-points', limit: POINT_LIMIT });
  }

  private arc(f: readonly number[], command: string): void {
    if (f.length < 3) throw new Stop({ code: 'bad-figure', command, value: 'fewer than three figures' });
    const was = this.relative;
    this.relative = command === 'AR';
    const centre = { x: this.toX(f[0]!), y: this.toY(f[1]!) };
    this.relative = was;
    // In user units of their own on each axis a circle is an ellipse: the angle is measured in user units.
    const { x: sx, y: sy } = this.scale;
    const radius = Math.hypot((this.x - centre.x) / sx, (this.y - centre.y) / sy);
    const from = Math.atan2((this.y - centre.y) / sy, (this.x - centre.x) / sx);
    const sweep = (f[2]! * Math.PI) / 180;
    const segment: Segment = {
      kind: 'arc',
      centre,
      u: { x: radius * sx, y: 0 },
      v: { x: 0, y: radius * sy },
      from,
      sweep,
    };
    if (this.down && radius > 0) {
      this.open ??= { start: { x: this.x, y: this.y }, segments: [], run: [] };
      this.flush();
      this.open.segments.push(segment);
    }
    this.x = centre.x + radius * sx * Math.cos(from + sweep);
    this.y = centre.y + radius * sy * Math.sin(from + sweep);
  }

  private circle(f: readonly number[], command: string): void {
    if (f.length < 1) throw new Stop({ code: 'bad-figure', command, value: 'no radius' });
    this.finish();
    const centre = { x: this.x, y: this.y };
    const u = { x: f[0]! * this.scale.x, y: 0 };
    const v = { x: 0, y: f[0]! * this.scale.y };
    if (f[0] === 0) return;
    this.push(
      { x: centre.x + u.x, y: centre.y },
      [{ kind: 'arc', centre, u, v, from: 0, sweep: 2 * Math.PI }],
      true,
    );
  }

  private rectangle(f: readonly number[], command: string): void {
    if (f.length < 2) throw new Stop({ code: 'bad-figure', command, value: 'fewer than two figures' });
    this.finish();
    const was = this.relative;
    this.relative = command === 'ER';
    const [x, y] = [this.toX(f[0]!), this.toY(f[1]!)];
    this.relative = was;
    const xy = [x, this.y, x, y, this.x, y, this.x, this.y];
    this.push({ x: this.x, y: this.y }, [{ kind: 'lines', xy }], true);
  }

  private rescale(f: readonly number[]): void {
    if (f.length === 0) {
      this.scale = { x: HPGL_UNIT_MM, y: HPGL_UNIT_MM, x0: 0, y0: 0 };
      return;
    }
    const fail = (why: string): never => {
      throw new Stop({ code: 'not-understood', command: 'SC', why });
    };
    if (f.length !== 4) return fail('a scale of another kind than four corners; write it in plotter units');
    if (!this.corners)
      return fail('no IP before it, so its corners depend on the machine; write it in plotter units');
    const [xMin, xMax, yMin, yMax] = f as [number, number, number, number];
    const [x1, y1, x2, y2] = this.corners;
    if (xMin === xMax || yMin === yMax || x1 === x2 || y1 === y2) return fail('its corners coincide');
    const x = ((x2 - x1) / (xMax - xMin)) * HPGL_UNIT_MM;
    const y = ((y2 - y1) / (yMax - yMin)) * HPGL_UNIT_MM;
    this.scale = { x, y, x0: x1 * HPGL_UNIT_MM - xMin * x, y0: y1 * HPGL_UNIT_MM - yMin * y };
    this.notes.add('user units (IP, SC) written out as plotter units');
  }

  private flush(): void {
    if (this.open && this.open.run.length > 0) {
      this.open.segments.push({ kind: 'lines', xy: this.open.run });
      this.open.run = [];
    }
  }

  /** Ends the path that is being drawn; it is closed when it ends where it started. */
  private finish(): void {
    if (!this.open) return;
    this.flush();
    const { start, segments } = this.open;
    this.open = null;
    const first = segments[0]!;
    const line = segments.length === 1 && first.kind === 'lines' && first.xy.length <= 2;
    const back = Math.hypot(this.x - start.x, this.y - start.y) < SAME;
    this.push(start, segments, back && !line);
  }

  private push(start: Point, segments: readonly Segment[], closed: boolean): void {
    const device = this.device === '' ? {} : { device: this.device };
    this.device = '';
    const pen = this.penUsed ? this.pen : null;
    const path = { start, segments, closed, layer: `pen ${pen ?? 1}`, colour: null, pen, ...device };
    this.count(pointsWorth(path));
    this.paths.push(path);
  }
}

const KNOWN = new Set(['PU', 'PD', 'PA', 'PR', 'SP', 'AA', 'AR', 'CI', 'EA', 'ER', 'IP', 'SC', 'RO']);

const isLetter = (c: number): boolean => (c >= 65 && c <= 90) || (c >= 97 && c <= 122);
