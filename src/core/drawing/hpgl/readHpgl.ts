/* eslint-disable max-lines -- a plotter is one machine with one state; see Reader */
import { SAME } from '../../tolerance';
import type { Point } from '../../geometry';
import { accept, type Outcome } from '../../outcome';
import { POINT_LIMIT, VALUE_LIMIT } from '../limits';
import type { Notes } from '../notes';
import { CutLines, mapPath, type Drawing, type DrawnPath, type Segment } from '..';

import { Frame, HPGL_UNIT_MM } from './frame';
import { Scanner, Stop, type HpglRefusal } from './scan';

const ETX = '\u0003';
/** Speed, force and the like: they stand before a path and go with it, word for word. */
const DEVICE = new Set(['VS', 'FS', 'AS', 'PT', 'LT', 'PW', 'FP']);
const SILENT = new Set(['CO', 'NR', 'PS', 'EC', 'BP']);
const KNOWN = new Set([
  ...['IN', 'DF', 'PU', 'PD', 'PA', 'PR', 'SP', 'AA', 'AR', 'AT', 'RT', 'BZ', 'BR', 'CI', 'EA', 'ER', 'EW'],
  ...['PM', 'EP', 'IP', 'IR', 'SC', 'RO', 'IW', 'PG', 'DT', 'LB', 'CP'],
]);

/**
 * Reads HP-GL cut data.
 *
 * Reads    PU, PD, PA, PR, SP, AA, AR, AT, RT, BZ, BR, CI, EA, ER, EW, PM with EP; IP with SC, RO, IW; IN and DF anywhere, as
 *          between jobs that were joined; labels, whatever ends them (DT), are skipped and counted.
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
    if (error instanceof Stop) return error.refused;
    throw error;
  }
}

/** Long, since a plotter is one machine with one state: every instruction reads and moves the same pen. */
class Reader {
  private readonly lines = new CutLines();
  private readonly scan: Scanner;
  private readonly frame = new Frame();
  private down = false;
  private relative = false;
  private pen = 1;
  private penUsed = false;
  /** Current place, mm before turning. */
  private x = 0;
  private y = 0;
  /** After a label the pen stands where its last letter ends, which goes by the machine's letters. */
  private placeKnown = true;
  private terminator = ETX;
  private device = '';
  private open: { start: Point; segments: Segment[]; run: number[] } | null = null;
  /** Polygon mode: what is drawn is stored, and drawn when its edge is asked for (EP). */
  private polygon: DrawnPath[] = [];
  private storing = false;
  private known = 0;

  constructor(
    private readonly text: string,
    private readonly notes: Notes,
    private readonly onProgress: (share: number) => void,
  ) {
    this.scan = new Scanner(text, () => this.notes.add('device control left out'));
  }

  read(): Drawing {
    let nextReport = 0;
    for (;;) {
      const command = this.scan.command();
      if (command === null) break;
      this.obey(command);
      if (this.scan.at >= nextReport) {
        this.onProgress(this.scan.at / this.text.length);
        nextReport = this.scan.at + this.text.length / 50;
      }
    }
    this.finish();
    if (this.known === 0) throw new Stop({ code: 'not-hpgl', found: this.text.slice(0, 20).trim() });
    const { paths: drawn } = this.lines;
    if (drawn.length === 0) throw new Stop({ code: 'nothing-to-cut', uncut: 0 });
    // Of a program that takes a pen later on, what came before is drawn with the first.
    const paths = this.penUsed ? drawn.map((p) => (p.pen === null ? { ...p, pen: 1 } : p)) : drawn;
    const pens = [...new Set(paths.map((p) => p.layer))];
    return {
      paths,
      layers: pens.map((name) => ({ name, colour: null })),
      page: null,
      unitMm: HPGL_UNIT_MM,
    };
  }

  private obey(command: string): void {
    this.known += Number(KNOWN.has(command) || DEVICE.has(command) || SILENT.has(command));
    if (this.words(command)) return;
    const from = this.scan.at;
    const f = this.scan.figures(command);
    if (this.moves(command, f) || this.states(command, f)) return;
    if (DEVICE.has(command)) this.keep(command, from);
    else if (!SILENT.has(command)) this.notes.add(`${command} left out: not a command for cut lines`);
  }

  /** Commands that words or signs follow instead of figures. */
  private words(command: string): boolean {
    switch (command) {
      case 'LB':
      case 'BL':
        this.scan.words(this.terminator);
        // What a label is made of is not drawn as lines here; the pen ends up behind it.
        if (command === 'LB') this.placeKnown = false;
        this.notes.add(`label (${command}) left out: text is not a cut line`);
        return true;
      case 'WD':
        this.scan.words(ETX);
        return true;
      case 'CO':
        this.scan.quoted();
        return true;
      case 'DT': {
        this.terminator = this.scan.sign() ?? ETX;
        this.scan.figures(command);
        return true;
      }
      case 'SM':
        if (this.scan.sign() !== null) this.notes.add('symbols at places (SM) left out: not cut lines');
        return true;
      case 'PE':
        throw new Stop({
          code: 'not-understood',
          command,
          why: 'encoded polylines; write it with PU and PD',
        });
      default:
        return false;
    }
  }

  /** Commands that move the pen. */
  private moves(command: string, f: readonly number[]): boolean {
    switch (command) {
      case 'PU':
      case 'PD':
        this.down = command === 'PD';
        if (!this.down) this.finish();
        this.go(f, command);
        return true;
      case 'PA':
      case 'PR':
        this.relative = command === 'PR';
        this.go(f, command);
        return true;
      case 'AA':
      case 'AR':
        this.arc(f, command);
        return true;
      case 'AT':
      case 'RT':
        this.arcThrough(f, command);
        return true;
      case 'BZ':
      case 'BR':
        this.curves(f, command);
        return true;
      case 'CI':
        this.circle(f, command);
        return true;
      case 'EA':
      case 'ER':
        this.rectangle(f, command);
        return true;
      case 'EW':
        this.wedge(f, command);
        return true;
      case 'CP':
        this.placeKnown = false;
        return true;
      default:
        return false;
    }
  }

  /** Commands that change how the ones after them are taken. */
  private states(command: string, f: readonly number[]): boolean {
    switch (command) {
      case 'IN':
      case 'DF':
        this.start(command === 'IN');
        return true;
      case 'SP':
        this.finish();
        if (!Number.isInteger(f[0] ?? 0) || (f[0] ?? 0) < 0)
          throw new Stop({ code: 'bad-figure', command, value: String(f[0]) });
        this.pen = f[0] ?? 0;
        this.penUsed ||= f[0] !== undefined && f[0] !== 0;
        return true;
      case 'IP':
        this.finish();
        this.frame.place(f);
        return true;
      case 'IR':
        this.finish();
        // Shares of what the machine can reach: where that is, no file says.
        this.frame.place([]);
        return true;
      case 'SC':
        this.finish();
        this.frame.rescale(f);
        if (f.length > 0) this.notes.add('user units (IP, SC) written out as plotter units');
        return true;
      case 'RO':
        this.turn(f[0] ?? 0);
        return true;
      case 'IW':
        this.finish();
        this.frame.setWindow(f);
        return true;
      case 'PM':
        this.polygonMode(f[0] ?? 0);
        return true;
      case 'EP':
        this.finish();
        for (const path of this.polygon) this.put(path);
        return true;
      case 'PG':
        if (this.lines.paths.length > 0)
          this.notes.add('a new page (PG): its lines lie on the same sheet as those before');
        return true;
      default:
        return false;
    }
  }

  /** As when the machine is switched on (IN), or set to its defaults (DF), in the middle of a file too. */
  private start(all: boolean): void {
    this.finish();
    this.down = false;
    this.relative = false;
    this.terminator = ETX;
    this.frame.defaults();
    this.storing = false;
    this.polygon = [];
    if (!all) return;
    this.turn(0);
    this.pen = 1;
  }

  /** The pen stays where it stands on the media. */
  private turn(degrees: number): void {
    this.finish();
    const stands = this.frame.onMedia({ x: this.x, y: this.y });
    this.frame.turn(degrees);
    ({ x: this.x, y: this.y } = this.frame.fromMedia(stands));
    if (degrees !== 0) this.notes.add(`a turned page (RO ${degrees}): its lines are turned about the origin`);
  }

  private polygonMode(step: number): void {
    this.finish(step !== 0);
    if (step === 0) this.polygon = [];
    this.storing = step !== 2;
  }

  private keep(command: string, from: number): void {
    this.finish();
    const figures = this.text.slice(from, this.scan.at).replaceAll(';', '').trim();
    if (figures.length > VALUE_LIMIT)
      throw new Stop({ code: 'bad-figure', command, value: figures.slice(0, 30) });
    if (this.device.length > VALUE_LIMIT) this.device = '';
    this.device += `${command}${figures};`;
  }

  private toX(value: number, relative = this.relative): number {
    const { x, x0 } = this.frame.scale;
    return relative ? this.x + value * x : value * x + x0;
  }

  private toY(value: number, relative = this.relative): number {
    const { y, y0 } = this.frame.scale;
    return relative ? this.y + value * y : value * y + y0;
  }

  private point(f: readonly number[], i: number, relative = this.relative): Point {
    return { x: this.toX(f[i]!, relative), y: this.toY(f[i + 1]!, relative) };
  }

  /** The place is about to be drawn from. */
  private from(command: string): Point {
    if (!this.placeKnown)
      throw new Stop({
        code: 'not-understood',
        command,
        why: 'a line goes on from where a label ends, and where that is depends on the machine; write a move before it, or leave the label out',
      });
    return { x: this.x, y: this.y };
  }

  private go(f: readonly number[], command: string): void {
    if (f.length % 2 !== 0)
      throw new Stop({ code: 'bad-figure', command, value: 'an odd number of figures' });
    if (f.length > 0 && !this.placeKnown) {
      if (this.down || this.relative) this.from(command);
      this.placeKnown = true;
    }
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

  /** A curve from where the pen stands, drawn where it is down. */
  private curve(segment: Segment, to: Point): void {
    if (this.down) {
      this.open ??= { start: { x: this.x, y: this.y }, segments: [], run: [] };
      this.flush();
      this.open.segments.push(segment);
    }
    this.x = to.x;
    this.y = to.y;
  }

  private arc(f: readonly number[], command: string): void {
    if (f.length < 3) throw new Stop({ code: 'bad-figure', command, value: 'fewer than three figures' });
    this.from(command);
    this.arcAbout(this.point(f, 0, command === 'AR'), (f[2]! * Math.PI) / 180);
  }

  private arcAbout(centre: Point, sweep: number): void {
    // In user units of their own on each axis a circle is an ellipse: the angle is measured in user units.
    const { x: sx, y: sy } = this.frame.scale;
    const radius = Math.hypot((this.x - centre.x) / sx, (this.y - centre.y) / sy);
    const from = Math.atan2((this.y - centre.y) / sy, (this.x - centre.x) / sx);
    if (radius === 0) return;
    this.curve(
      {
        kind: 'arc',
        centre,
        u: { x: radius * sx, y: 0 },
        v: { x: 0, y: radius * sy },
        from,
        sweep,
      },
      {
        x: centre.x + radius * sx * Math.cos(from + sweep),
        y: centre.y + radius * sy * Math.sin(from + sweep),
      },
    );
  }

  /** AT, RT: from here through one place to another; a straight line where they are in line. */
  private arcThrough(f: readonly number[], command: string): void {
    if (f.length < 4) throw new Stop({ code: 'bad-figure', command, value: 'fewer than four figures' });
    this.from(command);
    const relative = command === 'RT';
    const [through, to] = [this.point(f, 0, relative), this.point(f, 2, relative)];
    const { x: sx, y: sy } = this.frame.scale;
    // About where the pen stands, in user units, where the arc is round.
    const b = { x: (through.x - this.x) / sx, y: (through.y - this.y) / sy };
    const c = { x: (to.x - this.x) / sx, y: (to.y - this.y) / sy };
    const twice = 2 * (b.x * c.y - b.y * c.x);
    if (Math.abs(twice) < SAME * (b.x ** 2 + b.y ** 2 + c.x ** 2 + c.y ** 2 + SAME))
      return this.curve({ kind: 'lines', xy: [through.x, through.y, to.x, to.y] }, to);
    const [bb, cc] = [b.x ** 2 + b.y ** 2, c.x ** 2 + c.y ** 2];
    const m = { x: (c.y * bb - b.y * cc) / twice, y: (b.x * cc - c.x * bb) / twice };
    const start = Math.atan2(-m.y, -m.x);
    let sweep = Math.atan2(c.y - m.y, c.x - m.x) - start;
    // Counter-clockwise where the middle place lies to the right of the way from start to end.
    if (twice > 0 && sweep <= 0) sweep += 2 * Math.PI;
    if (twice < 0 && sweep >= 0) sweep -= 2 * Math.PI;
    this.arcAbout({ x: this.x + m.x * sx, y: this.y + m.y * sy }, sweep);
  }

  /** BZ, BR: cubics, each from where the last ended; of BR all six figures go by that place. */
  private curves(f: readonly number[], command: string): void {
    if (f.length === 0 || f.length % 6 !== 0)
      throw new Stop({ code: 'bad-figure', command, value: 'figures that are no sixes' });
    this.from(command);
    const relative = command === 'BR';
    for (let i = 0; i < f.length; i += 6) {
      const [c1, c2, to] = [0, 2, 4].map((k) => this.point(f, i + k, relative)) as [Point, Point, Point];
      this.curve({ kind: 'cubic', c1, c2, to }, to);
    }
  }

  private circle(f: readonly number[], command: string): void {
    if (f.length < 1) throw new Stop({ code: 'bad-figure', command, value: 'no radius' });
    const centre = this.from(command);
    this.finish();
    const u = { x: f[0]! * this.frame.scale.x, y: 0 };
    const v = { x: 0, y: f[0]! * this.frame.scale.y };
    if (f[0] === 0) return;
    this.push(
      { x: centre.x + u.x, y: centre.y },
      [{ kind: 'arc', centre, u, v, from: 0, sweep: 2 * Math.PI }],
      true,
    );
  }

  private rectangle(f: readonly number[], command: string): void {
    if (f.length < 2) throw new Stop({ code: 'bad-figure', command, value: 'fewer than two figures' });
    const start = this.from(command);
    this.finish();
    const { x, y } = this.point(f, 0, command === 'ER');
    const xy = [x, this.y, x, y, this.x, y, this.x, this.y];
    this.push(start, [{ kind: 'lines', xy }], true);
  }

  /** EW: radius, where it starts and how far it goes, degrees; its two straight sides too. */
  private wedge(f: readonly number[], command: string): void {
    if (f.length < 3) throw new Stop({ code: 'bad-figure', command, value: 'fewer than three figures' });
    const centre = this.from(command);
    this.finish();
    // A negative radius starts on the other side.
    const from = (f[1]! * Math.PI) / 180 + (f[0]! < 0 ? Math.PI : 0);
    const sweep = (Math.max(-360, Math.min(360, f[2]!)) * Math.PI) / 180;
    const u = { x: Math.abs(f[0]!) * this.frame.scale.x, y: 0 };
    const v = { x: 0, y: Math.abs(f[0]!) * this.frame.scale.y };
    if (f[0] === 0) return;
    const edge = { x: centre.x + u.x * Math.cos(from), y: centre.y + v.y * Math.sin(from) };
    this.push(
      centre,
      [
        { kind: 'lines', xy: [edge.x, edge.y] },
        { kind: 'arc', centre, u, v, from, sweep },
        { kind: 'lines', xy: [centre.x, centre.y] },
      ],
      true,
    );
  }

  private flush(): void {
    if (this.open && this.open.run.length > 0) {
      this.open.segments.push({ kind: 'lines', xy: this.open.run });
      this.open.run = [];
    }
  }

  /** Ends the path that is being drawn; it is closed when it ends where it started, or when that is asked for. */
  private finish(close = false): void {
    if (!this.open) return;
    this.flush();
    const { start, segments } = this.open;
    this.open = null;
    const first = segments[0]!;
    const line = segments.length === 1 && first.kind === 'lines' && first.xy.length <= 2;
    const back = Math.hypot(this.x - start.x, this.y - start.y) < SAME;
    this.push(start, segments, (back || close) && !line);
  }

  private push(start: Point, segments: readonly Segment[], closed: boolean): void {
    const device = this.device === '' ? {} : { device: this.device };
    this.device = '';
    const pen = this.penUsed ? this.pen : null;
    const path = { start, segments, closed, layer: `pen ${pen ?? 1}`, colour: null, pen, ...device };
    const turned = this.frame.quarters === 0 ? path : mapPath(path, { kind: 'affine', ...this.frame.turned });
    if (this.storing) this.polygon.push(turned);
    else this.put(turned);
  }

  private put(path: DrawnPath): void {
    const seen = this.frame.inWindow(path);
    if (seen[0] !== path) this.notes.add('cut off at the edge of the window (IW)');
    for (const part of seen)
      if (!this.lines.add(part, null)) throw new Stop({ code: 'too-many-points', limit: POINT_LIMIT });
  }
}
