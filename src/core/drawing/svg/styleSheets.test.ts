import { Notes } from '../notes';
import { affineMap } from '../../geometry';

import { correctSvg } from '.';
import { parseXml, type XmlElement } from './parseXml';
import { withSheets } from './styleSheets';

const inside = (css: string, body: string): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="100mm" viewBox="0 0 100 100"><style>${css}</style>${body}</svg>`;

/** The style of the one element, and what was said. */
function styled(css: string, body: string) {
  const notes: string[] = [];
  const parsed = parseXml(inside(css, body));
  if (!parsed.ok) throw new Error(parsed.refusal.code);
  const root = withSheets(parsed.value, (what) => notes.push(what));
  const last = root.children.at(-1) as XmlElement;
  return { style: last.attributes.style, notes };
}

// CSS Cascade 4, 6.4: by specificity, then by order; a style of the element’s own wins over all.
test.each([
  ['a class', '.a{fill:url(#g)}', '<path class="a b"/>', 'fill:url(#g)'],
  ['a fill, of which nothing may be left', '.a{fill:none}', '<path class="a"/>', 'fill:none'],
  [
    'an id beats a class beats a kind',
    'path{mask:url(#k)}#i{mask:url(#i)}.c{mask:url(#c)}',
    '<path id="i" class="c"/>',
    'mask:url(#i)',
  ],
  [
    'the later of two classes',
    '.a{stroke-width:2}.b{stroke-width:3}',
    '<path class="b a"/>',
    'stroke-width:3',
  ],
  [
    'two classes beat one that comes later',
    '.a.b{stroke:red}.a{stroke:blue}',
    '<path class="a b"/>',
    'stroke:red',
  ],
  [
    'its own style wins',
    '.a{stroke:red;filter:url(#f)}',
    '<path class="a" style="stroke:blue"/>',
    'filter:url(#f);stroke:blue',
  ],
  ['a red that overrides a gradient', '.a{fill:url(#g)}#i{fill:red}', '<path id="i" class="a"/>', 'fill:red'],
  [
    'lists, comments and an import before',
    '@charset "x";/* .a{} */ .z, .a /* */ {stroke-dasharray:1 2}',
    '<path class="a"/>',
    'stroke-dasharray:1 2',
  ],
  [
    'what insists beats its own style',
    '.a{display:none !important;stroke:red}',
    '<path class="a" style="display:inline;stroke:blue"/>',
    'display:none;stroke:blue',
  ],
  ['what it stands in', 'svg > .a, g path{stroke:red}', '<path class="a"/>', 'stroke:red'],
  ['what it does not stand in', 'g .a{stroke:red}', '<path class="a"/>', undefined],
  ['an attribute', '[id="x y"].a{stroke:red}', '<path id="x y" class="a"/>', 'stroke:red'],
])('%s', (_, css, body, style) => {
  expect(styled(css, body)).toEqual({ style, notes: [] });
});

test.each([
  ['a brother', 'g + path{fill:url(#g)}', 'check how they look'],
  ['for print only', '@media print{.a{clip-path:url(#c)}}', 'check how they look'],
  ['hidden by its place', 'path:nth-child(2){display:none}', 'check what is cut'],
])('what is not followed is named: %s', (_, css, what) => {
  const { style, notes } = styled(css, '<path class="a"/>');
  expect(style).toBeUndefined();
  expect(notes).toEqual([expect.stringContaining(`not followed: ${what}`)]);
});

test('a sheet made to be slow is read in one pass', () => {
  const hostile = [`${'/*'.repeat(3e5)}`, `${'a'.repeat(6e5)}`, `${'{'.repeat(3e5)}`, `${'}'.repeat(3e5)}`];
  for (const css of hostile) expect(styled(css, '<path class="a"/>').style).toBeUndefined();
});

test('a child is not a grandchild', () => {
  const parsed = parseXml(inside('svg > path{stroke:red}svg path{fill:none}', '<g><path/></g>'));
  if (!parsed.ok) throw new Error(parsed.refusal.code);
  const group = withSheets(parsed.value, () => undefined).children.at(-1) as XmlElement;
  expect((group.children[0] as XmlElement).attributes.style).toBe('fill:none');
});

test('selectors made to be slow are given up, and that is said', () => {
  const css = `.none ${'g '.repeat(60)}path{display:none}`.repeat(400);
  const { notes } = styled(css, `${'<g>'.repeat(200)}<path/>${'</g>'.repeat(200)}`);
  expect(notes).toEqual([expect.stringContaining('too large to be followed whole')]);
});

test('a gradient and a line width given by class follow the correction', () => {
  const svg = inside(
    '.a{fill:url(#g);stroke:#000;stroke-width:2}',
    '<linearGradient id="g" gradientUnits="userSpaceOnUse" x1="10" x2="60" y1="0" y2="0"/><rect class="a" transform="scale(2)" x="10" y="10" width="20" height="20"/>',
  );
  const done = correctSvg(svg, affineMap({ a11: 0.5, a12: 0, a21: 0, a22: 0.5, tx: 0, ty: 0 }), new Notes());
  if (!done.ok) throw new Error(done.refusal.code);
  const { svg: content } = done.value;
  // Its transform is written into its line, and its gradient goes with it and with the correction.
  expect(content).toMatch(/stroke-width:4/);
  expect(content).toMatch(/fill:url\(#g-[^)]+\)/);
  expect(content).toMatch(/gradientTransform="matrix\(4 0 0 4 /);
});
