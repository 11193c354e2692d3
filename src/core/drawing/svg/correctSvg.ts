/* eslint-disable max-lines -- one walk down the tree shares all of this; see Corrector */
import svgpath from 'svgpath';

import { FILE_RESOLUTION_MM } from '../../tolerance';
import {
  affineMap,
  compose,
  determinant,
  IDENTITY,
  invertAffine,
  invertMap,
  tangentAt,
  type Affine,
  type PlaneMap,
  type Rect,
} from '../../geometry';
import { accept, refuse, type Outcome } from '../../outcome';
import { CHORD_MM, CutLines, mapPath, measure, piecesOf, type DrawnPath, type LeftUncut } from '..';
import { PATH_DATA_LIMIT_BYTES, PIECE_LIMIT, POINT_LIMIT } from '../limits';
import type { Notes } from '../notes';

import {
  colourOf,
  index,
  layerOf,
  localName,
  NEVER,
  pageSize,
  paintOf,
  plain,
  safeAttributes,
  sizeOf,
  Stop,
  type SvgRefusal,
  UNEVEN,
  unevenness,
} from './elements';
import { parseXml, XML_LIMITS, type XmlElement, type XmlNode } from './parseXml';
import { Paints, type Moved } from './paint';
import { propertyOf, withProperty } from './properties';
import { pathData } from './pathData';
import { pathToDrawing } from './pathToDrawing';
import { GEOMETRY_ATTRIBUTES, shapePath } from './shapes';
import { scaledStroke, strokeOf } from './stroke';
import { withSheets } from './styleSheets';
import { MM_PER_PX, svgLength } from './svgLength';
import { parseTransform, svgMatrix } from './transformAttribute';
import { parseViewBox, viewportMap, viewportSize } from './viewport';
import { notCutOf, seenOf, SEEN, type Seen } from './visibility';
import { writeXml } from './writeXml';

export interface CorrectedSvg {
  readonly svg: string;
  /** What was drawn, before the correction: mm, y up, origin at the lower-left corner of the page. */
  readonly paths: readonly DrawnPath[];
  /** What is drawn but cannot be seen, so that it is no cut line; it stays in the file as it was. */
  readonly leftUncut: readonly LeftUncut[];
  readonly page: { readonly widthMm: number; readonly heightMm: number };
}

const COPIES_LIMIT = 10_000;
const SHAPES = new Set(Object.keys(GEOMETRY_ATTRIBUTES));
const CARRIED = new Set(['text', 'image']);
const KEPT_DEFINITIONS = new Set([
  'style',
  'linearGradient',
  'radialGradient',
  'pattern',
  'filter',
  'clipPath',
  'mask',
  'marker',
]);
const PASSIVE = new Set(['title', 'desc', 'metadata']);

/**
 * Rewrites an SVG cut file so that a rig which cuts p at T(p) lands where the file meant.
 *
 * Frame    T is in mm, y up, origin at the lower-left corner of the page (maths.md, sheet frame).
 * Method   every drawn shape is taken through all its transforms, mapped by T⁻¹ and written with no
 *          transform left; affine maps keep lines, Béziers and arcs exact (SVG 2 implementation notes, B.2).
 * Cuts     what is seen: nothing hidden, fully see-through, or drawn with neither line nor fill.
 * Keeps    groups, ids, classes, colours, style sheets. Text and images are moved too and named in the report.
 * Refuses  what cannot be read or would be guessed: as values, with the element and its value.
 */
export function correctSvg(
  text: string,
  transform: PlaneMap,
  notes: Notes,
  onProgress: (share: number) => void = () => undefined,
): Outcome<CorrectedSvg, SvgRefusal> {
  const parsed = parseXml(text);
  if (!parsed.ok) return parsed;
  if (localName(parsed.value.name) !== 'svg') return refuse({ code: 'not-svg', rootName: parsed.value.name });
  const root = withSheets(parsed.value, (what) => notes.add(what));
  try {
    return accept(new Corrector(root, invertMap(transform), notes, onProgress).run());
  } catch (error) {
    if (error instanceof Stop) return refuse(error.refusal);
    throw error;
  }
}

/** What is inherited on the way down. */
interface Context {
  /** Element user units → page px, y down. */
  readonly map: Affine;
  readonly view: { readonly width: number; readonly height: number };
  readonly strokeWidth: number;
  /** Of the nearest group that names itself. */
  readonly layer: string;
  readonly colour: string | null;
  /** What is inherited of what it is painted with. */
  readonly paint: Readonly<Record<string, string>>;
  readonly seen: Seen;
  readonly usePath: readonly string[];
  readonly copied: boolean;
}

/** Long, since one walk down the tree shares all of this: what is inherited, what is copied, what was said already. */
class Corrector {
  private readonly byId = new Map<string, XmlElement>();
  private readonly usedIds = new Set<string>();
  private readonly lines = new CutLines();
  private readonly page: { width: number; height: number };
  /** Root user units → page px. */
  private readonly rootMap: Affine;
  /** Page mm, y up → root user units. */
  private readonly fromMm: Affine;
  /** Page px → corrected root user units; of a projective correction its tangent in the middle of the page. */
  private readonly out: Affine;
  /** Page px → page mm, y up. */
  private readonly toMm: Affine;
  private readonly places: number;
  private readonly paints: Paints;
  private copies = 0;
  private elements = 0;
  private pieces = 0;

  constructor(
    private readonly root: XmlElement,
    /** K: from what is meant to what is to be commanded. */
    private readonly correction: PlaneMap,
    private readonly notes: Notes,
    private readonly onProgress: (share: number) => void,
  ) {
    const viewBox = parseViewBox(root.attributes.viewBox);
    if (root.attributes.viewBox !== undefined && !viewBox)
      throw new Stop({
        code: 'bad-value',
        element: 'svg',
        attribute: 'viewBox',
        value: root.attributes.viewBox,
      });
    this.page = pageSize(root, viewBox, (what) => this.note(what));
    this.rootMap = viewportMap({ x: 0, y: 0, ...this.page }, viewBox, root.attributes.preserveAspectRatio);
    // A page or a viewBox of next to nothing has no way back from the paper to its units.
    const det = determinant(this.rootMap);
    if (!(Number.isFinite(det) && det !== 0 && Number.isFinite(1 / det)))
      throw new Stop({
        code: 'bad-value',
        element: 'svg',
        attribute: 'viewBox',
        value: root.attributes.viewBox ?? '',
      });
    const heightMm = this.page.height * MM_PER_PX;
    this.toMm = { ...IDENTITY, a11: MM_PER_PX, a22: -MM_PER_PX, ty: heightMm };
    const middle = { x: (this.page.width * MM_PER_PX) / 2, y: heightMm / 2 };
    const inMm = correction.kind === 'affine' ? correction : tangentAt(correction, middle);
    this.fromMm = compose(invertAffine(this.rootMap), invertAffine(this.toMm));
    this.out = compose(this.fromMm, compose(inMm, this.toMm));
    const unitMm = Math.sqrt(Math.abs(determinant(this.rootMap))) * MM_PER_PX;
    this.places = Math.min(12, Math.max(0, Math.ceil(-Math.log10(FILE_RESOLUTION_MM / unitMm))));
    index(root, this.byId, this.usedIds);
    this.paints = new Paints(this.byId, root.name.replace(/svg$/, ''), (what) => this.note(what));
  }

  run(): CorrectedSvg {
    const view = parseViewBox(this.root.attributes.viewBox) ?? this.page;
    const context: Context = {
      map: this.rootMap,
      view: { width: view.width, height: view.height },
      strokeWidth: strokeOf(this.root) ?? 1,
      layer: 'cut',
      colour: colourOf(this.root),
      paint: paintOf(this.root, {}),
      seen: seenOf(this.root, SEEN),
      usePath: [],
      copied: false,
    };
    const children = this.walkAll(this.root.children, context);
    const { paths, uncut } = this.lines;
    if (paths.length === 0) throw new Stop({ code: 'nothing-to-cut', uncut: uncut.length });
    this.notes.add('copies (use) written out in place', this.copies);
    const attributes = safeAttributes(this.root.attributes, (what) => this.note(what));
    return {
      svg: writeXml({ ...this.root, ...this.withPaints(attributes, children) }),
      paths,
      leftUncut: this.lines.leftUncut(this.notes),
      page: { widthMm: this.page.width * MM_PER_PX, heightMm: this.page.height * MM_PER_PX },
    };
  }

  /** Copies of what things are painted with stand at the end, and refer to the originals. */
  private withPaints(
    attributes: Record<string, string>,
    children: XmlNode[],
  ): Pick<XmlElement, 'attributes' | 'children'> {
    const copies = this.paints.definitions();
    if (copies.length === 0) return { attributes, children };
    const xlink = { 'xmlns:xlink': 'http://www.w3.org/1999/xlink', ...attributes };
    return { attributes: xlink, children: [...children, ...copies] };
  }

  /** Clips, masks and filters that an element names itself; of a shape also what fills it, inherited or not. */
  private painted(
    attributes: Record<string, string>,
    element: XmlElement,
    moved: Moved,
    inherited: Readonly<Record<string, string>>,
  ): Record<string, string> {
    let all = attributes;
    const own = ['clip-path', 'mask', 'filter'].map((name) => [name, propertyOf(element, name)] as const);
    for (const [name, value] of [...own, ...Object.entries(inherited)]) {
      if (value === null || !value.includes('url(')) continue;
      const follows = this.paints.follow(value, moved);
      if (follows !== value) all = withProperty(all, name, follows);
    }
    return all;
  }

  private note(what: string): void {
    this.notes.add(what);
  }

  private walkAll(nodes: readonly XmlNode[], context: Context): XmlNode[] {
    return nodes.flatMap((node) => (node.kind === 'element' ? this.walk(node, context) : [node]));
  }

  private walk(element: XmlElement, context: Context): XmlNode[] {
    this.elements += 1;
    if (this.elements > XML_LIMITS.elements)
      throw new Stop({ code: 'too-many-elements', limit: XML_LIMITS.elements });
    if (this.elements % 500 === 0) this.onProgress(1 - 1 / (1 + this.elements / 20_000));
    const name = localName(element.name);
    if (NEVER.has(name))
      return this.leaveOut(`${name} left out: a cut file must not run or animate anything`);
    if (name === 'defs') return this.definitions(element);
    if (name === 'symbol') return [];
    if (PASSIVE.has(name) || element.name.includes(':')) return [plain(element)];
    if (name === 'style') return this.styleSheet(element);
    if (KEPT_DEFINITIONS.has(name)) return [plain(element)];
    if (SHAPES.has(name)) return this.shape(element, name, this.enter(element, context));
    if (CARRIED.has(name)) return this.carry(element, name, this.enter(element, context));
    if (name === 'use') return this.use(element, this.enter(element, context));
    if (name === 'svg') return this.nestedSvg(element, context);
    if (name === 'g' || name === 'a' || name === 'switch')
      return this.group(element, this.enter(element, context));
    return this.leaveOut(`${name} left out: not something that can be cut`);
  }

  private leaveOut(what: string): XmlNode[] {
    this.note(what);
    return [];
  }

  /** Takes the element's own transform and line width into the context. */
  private enter(element: XmlElement, context: Context): Context {
    const fromStyle = /(?:^|;)\s*transform\s*:\s*([^;]+)/.exec(element.attributes.style ?? '')?.[1];
    const text = fromStyle ?? element.attributes.transform;
    const own = parseTransform(text);
    if (!own)
      throw new Stop({ code: 'bad-value', element: element.name, attribute: 'transform', value: text ?? '' });
    if (
      /transform-(origin|box)/.test(
        `${element.attributes.style ?? ''}${'transform-origin' in element.attributes ? 'transform-origin' : ''}`,
      )
    )
      this.note('transform-origin is not followed: check these elements');
    return {
      ...context,
      map: compose(context.map, own),
      strokeWidth: strokeOf(element) ?? context.strokeWidth,
      layer: (localName(element.name) === 'g' && layerOf(element)) || context.layer,
      colour: colourOf(element) ?? context.colour,
      paint: paintOf(element, context.paint),
      seen: seenOf(element, context.seen),
    };
  }

  private attributesOf(
    element: XmlElement,
    context: Context,
    without: readonly string[] = [],
  ): Record<string, string> {
    const kept = safeAttributes(element.attributes, (what) => this.note(what));
    for (const name of ['transform', 'transform-origin', ...without]) delete kept[name];
    if (kept.style) kept.style = kept.style.replace(/(^|;)\s*transform(-origin|-box)?\s*:[^;]*/g, '$1');
    if (context.copied) delete kept.id;
    return kept;
  }

  private group(element: XmlElement, context: Context): XmlNode[] {
    return [
      {
        ...element,
        attributes: this.painted(
          this.attributesOf(element, context),
          element,
          { to: compose(this.out, context.map), box: () => null },
          {},
        ),
        children: this.walkAll(element.children, context),
      },
    ];
  }

  private shape(element: XmlElement, name: string, context: Context): XmlNode[] {
    const geometry = GEOMETRY_ATTRIBUTES[name]!;
    const bad = (attribute: string): Stop =>
      new Stop({
        code: 'bad-value',
        element: name,
        attribute,
        value: (element.attributes[attribute] ?? '').slice(0, 60),
      });
    const d = shapePath({ ...element, name }, context.view);
    if (d === null) throw bad(geometry.find((a) => a in element.attributes) ?? geometry[0]!);
    if (d.length > PATH_DATA_LIMIT_BYTES)
      throw new Stop({ code: 'path-too-long', limit: PATH_DATA_LIMIT_BYTES });
    if (d.trim() === '' || d.trim() === 'none') return this.leaveOut(`empty ${name} left out`);
    const read = svgpath(d) as ReturnType<typeof svgpath> & { err?: string };
    if (read.err) throw bad(geometry[0]!);
    const source = read.abs().unshort();
    const style = { layer: context.layer, colour: context.colour };
    const drawn = pathToDrawing(source, compose(this.toMm, context.map), style);
    this.count(drawn, context);
    const text = this.pathText(drawn);
    if (/NaN|Infinity/.test(text)) throw bad(geometry[0]!);
    if (name !== 'path') this.note('shapes became paths');
    const scale = Math.sqrt(Math.abs(determinant(context.map) / determinant(this.rootMap)));
    const stroked = scaledStroke(
      this.attributesOf(element, context, geometry),
      context.strokeWidth,
      scale,
      context.paint['stroke-dasharray'],
      context.paint['stroke-dashoffset'],
    );
    const box = (): Rect => measure(pathToDrawing(source, IDENTITY, style), affineMap(IDENTITY)).bounds;
    const moved = { to: compose(this.out, context.map), box };
    if ((context.paint.stroke ?? 'none') !== 'none' && unevenness(moved.to) > UNEVEN)
      this.note('a line in a stretched frame became evenly wide: check how it looks');
    const attributes = { ...this.painted(stroked, element, moved, context.paint), d: text };
    return [
      { kind: 'element', name: element.name.replace(name, 'path'), attributes, children: element.children },
    ];
  }

  /** Counts what is drawn, copies too: as it is read, and as lines where curves become lines. */
  private count(drawn: readonly DrawnPath[], { seen, paint }: Context): void {
    const why = notCutOf(seen, paint);
    for (const path of drawn)
      if (!this.lines.add(path, why)) throw new Stop({ code: 'too-many-points', limit: POINT_LIMIT });
    if (this.correction.kind === 'affine') return;
    this.pieces += piecesOf(drawn, CHORD_MM, PIECE_LIMIT);
    if (this.pieces > PIECE_LIMIT) throw new Stop({ code: 'too-many-points', limit: PIECE_LIMIT });
  }

  /** Affine corrections keep every curve (arcs in quarters); projective ones turn curves into lines within CHORD_MM. */
  private pathText(drawn: readonly DrawnPath[]): string {
    const { correction, fromMm, places } = this;
    if (correction.kind === 'affine') {
      const both = affineMap(compose(fromMm, correction));
      return drawn.map((p) => pathData(mapPath(p, both), places)).join('');
    }
    if (drawn.some((p) => p.segments.some((s) => s.kind !== 'lines')))
      this.note(`curves became lines within ${CHORD_MM} mm`);
    const root = affineMap(fromMm);
    return drawn.map((p) => pathData(mapPath(mapPath(p, correction), root), places)).join('');
  }

  /** Text and images follow by a matrix; they are not cut lines, and the report says so. */
  private carry(element: XmlElement, name: string, context: Context): XmlNode[] {
    const href = element.attributes.href ?? element.attributes['xlink:href'] ?? '';
    if (name === 'image' && !href.startsWith('data:'))
      return this.leaveOut('image left out: it points outside the file');
    if (notCutOf(context.seen, {}) === null)
      this.note(
        name === 'text'
          ? 'text moved, but it is not a cut line: convert it to paths if it is to be cut'
          : 'image moved, but it is not a cut line',
      );
    const matrix = svgMatrix(compose(this.out, context.map)).map((v) => Number(v.toPrecision(12)));
    const attributes = { ...this.attributesOf(element, context), transform: `matrix(${matrix.join(' ')})` };
    return [{ ...plain(element), attributes }];
  }

  private use(element: XmlElement, context: Context): XmlNode[] {
    const href = element.attributes.href ?? element.attributes['xlink:href'] ?? '';
    if (!href.startsWith('#')) return this.leaveOut('use left out: it points outside the file');
    const id = href.slice(1);
    const target = this.byId.get(id);
    if (!target) return this.leaveOut(`use left out: “${id.slice(0, 40)}” is not in the file`);
    if (context.usePath.includes(id)) throw new Stop({ code: 'use-loop', id });
    this.copies += 1;
    if (this.copies > COPIES_LIMIT) throw new Stop({ code: 'too-many-copies', limit: COPIES_LIMIT });
    const x = svgLength(element.attributes.x, context.view.width, 0);
    const y = svgLength(element.attributes.y, context.view.height, 0);
    if (x === null || y === null)
      throw new Stop({
        code: 'bad-value',
        element: 'use',
        attribute: x === null ? 'x' : 'y',
        value: element.attributes.x ?? '',
      });
    const inner: Context = {
      ...context,
      map: compose(context.map, { ...IDENTITY, tx: x, ty: y }),
      usePath: [...context.usePath, id],
      copied: true,
    };
    const attributes = this.attributesOf(element, context, [
      'x',
      'y',
      'width',
      'height',
      'href',
      'xlink:href',
    ]);
    const name = localName(target.name);
    const children =
      name === 'symbol' || name === 'svg'
        ? this.viewport(target, inner, { ...target.attributes, ...sizeOf(element) })
        : this.walk(target, inner);
    return [{ kind: 'element', name: 'g', attributes, children }];
  }

  private nestedSvg(element: XmlElement, context: Context): XmlNode[] {
    this.note('inner svg frame written out as a group: it no longer clips');
    return this.viewport(element, this.enter(element, context), element.attributes);
  }

  private viewport(element: XmlElement, context: Context, size: Readonly<Record<string, string>>): XmlNode[] {
    const at = viewportSize(size, context.view);
    const viewBox = parseViewBox(element.attributes.viewBox);
    if (!at || (element.attributes.viewBox !== undefined && !viewBox))
      throw new Stop({
        code: 'bad-value',
        element: element.name,
        attribute: 'viewBox',
        value: element.attributes.viewBox ?? '',
      });
    const inner: Context = {
      ...context,
      map: compose(context.map, viewportMap(at, viewBox, element.attributes.preserveAspectRatio)),
      view: viewBox ?? at,
      strokeWidth: strokeOf(element) ?? context.strokeWidth,
      paint: paintOf(element, context.paint),
      // Whether a symbol is displayed is up to the copy of it.
      seen: seenOf(element, context.seen, localName(element.name) !== 'symbol'),
    };
    const drop = ['x', 'y', 'width', 'height', 'viewBox', 'preserveAspectRatio'];
    return [
      {
        kind: 'element',
        name: 'g',
        attributes: this.attributesOf(element, context, drop),
        children: this.walkAll(element.children, inner),
      },
    ];
  }

  private definitions(element: XmlElement): XmlNode[] {
    const children = element.children.flatMap((child): XmlNode[] => {
      if (child.kind !== 'element') return [child];
      const name = localName(child.name);
      if (name === 'style') return this.styleSheet(child);
      if (KEPT_DEFINITIONS.has(name)) return [plain(child)];
      const id = child.attributes.id;
      if (NEVER.has(name) || !id || !this.usedIds.has(id))
        this.note(`definition “${(id ?? name).slice(0, 40)}” left out: it is never drawn`);
      return [];
    });
    return [{ ...element, children }];
  }

  /** Style sheets stay, unless they reach outside the file or move things. */
  private styleSheet(element: XmlElement): XmlNode[] {
    const css = element.children.map((c) => (c.kind === 'element' ? '' : c.text)).join('');
    if (/@import|url\(\s*['"]?(?!#|data:)/i.test(css))
      return this.leaveOut('style sheet left out: it points outside the file');
    if (/(^|[{;\s])(transform|d|x|y|cx|cy|r|rx|ry|width|height)\s*:/i.test(css))
      this.note('style sheet sets shapes or transforms, which is not followed: check these elements');
    return [element];
  }
}
