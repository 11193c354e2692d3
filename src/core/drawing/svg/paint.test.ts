import { affineMap, applyAffine, compose, invertAffine, type Affine, type Point } from '../../geometry';
import { Notes } from '../notes';

import { correctSvg } from '.';

/* What things are painted with goes where they go. A gradient runs from one place to another: both have to be found where K takes them. */

const T: Affine = { a11: 1.02, a12: -0.03, a21: 0.01, a22: 0.98, tx: 1.5, ty: -0.7 };
const HEIGHT = 80;

const page = (inner: string): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="100mm" height="${HEIGHT}mm" viewBox="0 0 100 ${HEIGHT}">${inner}</svg>`;

function corrected(inner: string): { svg: string; notes: string[] } {
  const notes = new Notes();
  const done = correctSvg(page(inner), affineMap(T), notes);
  if (!done.ok) throw new Error(done.refusal.code);
  return { svg: done.value.svg, notes: notes.list().map((n) => n.what) };
}

/** K in the page's own units, y down. */
const turnOver: Affine = { a11: 1, a12: 0, a21: 0, a22: -1, tx: 0, ty: HEIGHT };
const K = compose(turnOver, compose(invertAffine(T), turnOver));

const matrixIn = (svg: string, name: string): Affine => {
  const v = new RegExp(`${name}="matrix\\(([^)]+)\\)"`).exec(svg)![1]!.split(' ').map(Number);
  return { a11: v[0]!, a21: v[1]!, a12: v[2]!, a22: v[3]!, tx: v[4]!, ty: v[5]! };
};

const close = (a: Point, b: Point): void => {
  expect(a.x).toBeCloseTo(b.x, 6);
  expect(a.y).toBeCloseTo(b.y, 6);
};

const STOPS = '<stop offset="0" stop-color="#fff"/><stop offset="1" stop-color="#000"/>';

test.each<[string, string, string, Point, Point]>([
  [
    'in user units',
    `<linearGradient id="g" gradientUnits="userSpaceOnUse" x1="10" y1="20" x2="40" y2="20">${STOPS}</linearGradient>`,
    '<path fill="url(#g)" d="M10 20H40V50H10Z"/>',
    { x: 10, y: 20 },
    { x: 10, y: 20 },
  ],
  [
    'by the box, with percentages',
    `<linearGradient id="g" x1="50%" y1="0" x2="1" y2="1">${STOPS}</linearGradient>`,
    '<rect fill="url(#g)" x="10" y="20" width="30" height="40"/>',
    { x: 0.5, y: 0 },
    { x: 25, y: 20 },
  ],
  [
    'inherited from a group that is turned, through another gradient',
    `<linearGradient id="h" gradientUnits="userSpaceOnUse" x1="3" y1="4" x2="9" y2="4">${STOPS}</linearGradient><linearGradient id="g" xlink:href="#h" gradientTransform="translate(2 0)"/>`,
    '<g transform="translate(50 10) rotate(90)" style="fill:url(#g)"><circle cx="5" cy="5" r="4"/></g>',
    { x: 3, y: 4 },
    // (3, 4) is moved by the gradient to (5, 4), turned to (-4, 5), and moved to (46, 15).
    { x: 46, y: 15 },
  ],
])('a gradient %s follows', (_, defs, shape, at, lies) => {
  const { svg } = corrected(`<defs>${defs}</defs>${shape}`);
  const copy =
    /<linearGradient [^>]*id="(g-moved-\d+)"[^>]*>|<linearGradient [^>]*gradientTransform[^>]*id="(g-moved-\d+)"/.exec(
      svg,
    )!;
  const id = copy[1] ?? copy[2]!;
  // The shape itself refers to the copy, and the copy to the original's colours.
  expect(svg).toMatch(new RegExp(`<path[^>]*url\\(#${id}\\)`));
  const text = svg.slice(svg.indexOf('<defs>', svg.indexOf('<defs>') + 1));
  expect(text).toContain('xlink:href="#g"');
  close(applyAffine(matrixIn(text, 'gradientTransform'), at), applyAffine(K, lies));
});

test('a pattern, a clip and a mask follow; a blur keeps its size; what cannot follow is named', () => {
  const { svg, notes } = corrected(
    `<defs>
      <pattern id="p" width="0.5" height="0.25"><circle r="1"/></pattern>
      <clipPath id="c"><path id="inner" d="M0 0H50V50H0Z"/></clipPath>
      <mask id="m"><rect width="50" height="50" fill="#fff"/></mask>
      <filter id="f"><feGaussianBlur stdDeviation="2"/></filter>
      <pattern id="q" width="1" height="1" patternContentUnits="objectBoundingBox"><circle r=".1"/></pattern>
    </defs>
    <g clip-path="url(#c)" mask="url(#m)"><rect fill="url(#p)" x="10" y="20" width="30" height="40"/></g>
    <g transform="scale(3)"><path filter="url(#f)" fill="url(#q)" d="M1 1H9V9Z"/></g>`,
  );
  const copies = svg.slice(svg.lastIndexOf('<defs>'));
  const pattern = /<pattern[^>]*>/.exec(copies)![0];
  expect(pattern).toContain('x="10" y="20" width="15" height="10"');
  close(
    applyAffine(matrixIn(pattern, 'patternTransform'), { x: 10, y: 20 }),
    applyAffine(K, { x: 10, y: 20 }),
  );
  const clip = /<clipPath[^>]*>/.exec(copies)![0];
  close(applyAffine(matrixIn(clip, 'transform'), { x: 50, y: 50 }), applyAffine(K, { x: 50, y: 50 }));
  expect(copies).not.toContain('id="inner"');
  const mask = copies.slice(copies.indexOf('<mask'));
  close(applyAffine(matrixIn(mask, 'transform'), { x: 50, y: 0 }), applyAffine(K, { x: 50, y: 0 }));
  expect(Number(/stdDeviation="([\d.]+)"/.exec(copies)![1])).toBeCloseTo(6, 1);
  expect(notes).toContain('a pattern that is drawn by its box did not follow: check how it looks');
});

test('dashes are as long as before, and a line in a stretched frame is named', () => {
  const { svg, notes } = corrected(
    '<g transform="scale(2)" stroke-dasharray="3 1" stroke="#000"><path d="M0 0H20"/></g><g transform="scale(3 1)" stroke="#000"><path d="M0 9H20"/></g>',
  );
  const [a, b] = /stroke-dasharray="([\d.]+) ([\d.]+)" /
    .exec(svg.slice(svg.indexOf('<path')))!
    .slice(1)
    .map(Number);
  // Twice as long by the group, and by what K does.
  expect(a! / b!).toBeCloseTo(3, 4);
  expect(a!).toBeCloseTo(6, 0);
  expect(notes).toContain('a line in a stretched frame became evenly wide: check how it looks');
});

test('copies are bounded: a clip of a thousand lines on a thousand groups is told, not written', () => {
  const clip = `<clipPath id="c">${'<path d="M0 0H9V9Z"/>'.repeat(1000)}</clipPath>`;
  const groups = Array.from(
    { length: 1000 },
    (_, i) => `<g transform="translate(${i} 0)" clip-path="url(#c)"><path d="M0 0H9V9Z"/></g>`,
  );
  const { svg, notes } = corrected(`<defs>${clip}</defs>${groups.join('')}`);
  expect(svg.length).toBeLessThan(4_000_000);
  expect(notes).toContain('more paint than can be moved along: check how it looks');
});
