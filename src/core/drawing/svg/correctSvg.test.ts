import fc from 'fast-check';

import { affineMap, applyAffine, IDENTITY, type Affine } from '../../geometry';
import { Notes, type Note } from '../notes';
import { termsAbout } from '../../rigsim';
import { AWKWARD_SVG } from '@test/awkward.svg';
import { A4_CENTRE, TRUE_TERMS } from '@test/sheets';
import { samplePath } from '@test/svgPoints';

import { correctSvg, svgRefusalText, type CorrectedSvg } from '.';

function corrected(svg: string, t: Affine = IDENTITY): CorrectedSvg & { notes: Note[] } {
  const notes = new Notes();
  const outcome = correctSvg(svg, affineMap(t), notes);
  if (!outcome.ok) throw new Error(svgRefusalText(outcome.refusal));
  return { ...outcome.value, notes: notes.list() };
}

const page = (body: string, more = 'width="100mm" height="100mm" viewBox="0 0 100 100"'): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" ${more}>${body}</svg>`;

/** Path data of the file that was written, in root user units. */
const writtenPaths = (svg: string): string[] =>
  [...svg.matchAll(/<path[^>]*? d="([^"]*)"/g)].map((m) => m[1]!);

test('units and the frame: y up from the lower-left corner of the page, 1 px = 1/96 in (CSS Values)', () => {
  const shift = { ...IDENTITY, tx: 0.5, ty: 0.25 };
  expect(writtenPaths(corrected(page('<path d="M10 20 L30 20"/>'), shift).svg)).toEqual([
    'M9.5 20.25L29.5 20.25',
  ]);
  const inches = corrected(
    page('<path d="M96 96 L192 96"/>', 'width="3in" height="3in" viewBox="0 0 288 288"'),
    shift,
  );
  expect(samplePath(writtenPaths(inches.svg)[0]!)[0]!.x).toBeCloseTo(96 - (0.5 * 96) / 25.4, 4);
});

test('a corrected file, cut on a simulated rig, lands on the print within 0.01 mm', () => {
  const term = fc.double({ min: -0.004, max: 0.004, noNaN: true });
  const shift = fc.double({ min: -4, max: 4, noNaN: true });
  const asDrawn = writtenPaths(corrected(AWKWARD_SVG).svg);
  fc.assert(
    fc.property(
      term,
      term,
      term,
      term,
      shift,
      shift,
      (turnRad, across, along, leanRad, shiftXMm, shiftYMm) => {
        const terms = {
          shiftXMm,
          shiftYMm,
          turnRad,
          leanRad,
          scaleAcross: 1 + across,
          scaleAlong: 1 + along,
        };
        const rig = termsAbout(terms, A4_CENTRE);
        const written = writtenPaths(corrected(AWKWARD_SVG, rig).svg);
        expect(written).toHaveLength(asDrawn.length);
        // The page is 8 in × 180 mm with a viewBox of 406.4 × 360 from (−10, 5): one unit is 0.5 mm.
        const heightMm = 180;
        const toSheet = (p: { x: number; y: number }) => ({
          x: (p.x + 10) * 0.5,
          y: heightMm - (p.y - 5) * 0.5,
        });
        written.forEach((d, i) => {
          const meant = samplePath(asDrawn[i]!).map(toSheet);
          const cut = samplePath(d).map((p) => applyAffine(rig, toSheet(p)));
          expect(cut).toHaveLength(meant.length);
          const misses = cut.map((p, j) => Math.hypot(p.x - meant[j]!.x, p.y - meant[j]!.y));
          expect(Math.max(...misses)).toBeLessThan(0.01);
        });
      },
    ),
    { numRuns: 40 },
  );
});

test('nothing is dropped silently: shapes, copies, text, frames and unused definitions are in the report', () => {
  const {
    svg,
    notes,
    paths,
    page: size,
  } = corrected(AWKWARD_SVG, termsAbout({ ...TRUE_TERMS, shiftXMm: 1 }, A4_CENTRE));
  expect(paths.length).toBeGreaterThanOrEqual(10);
  expect(size.heightMm).toBeCloseTo(180, 9);
  expect(notes).toContainEqual({ what: 'shapes became paths', count: 7 });
  expect(notes).toContainEqual({ what: 'copies (use) written out in place', count: 2 });
  expect(notes.map((n) => n.what).filter((w) => !/became paths|in place/.test(w))).toEqual([
    'definition “never” left out: it is never drawn',
    'a line in a stretched frame became evenly wide: check how it looks',
    'inner svg frame written out as a group: it no longer clips',
    expect.stringContaining('text moved'),
  ]);
  expect(svg).toContain('<g id="cut" stroke="#a0a" stroke-width=".5" fill="none">');
  expect(svg).toContain('<!-- drawn for the tests -->');
  expect(svg).toContain('linearGradient id="sea"');
  expect(svg).not.toMatch(/<(rect|circle|ellipse|polygon|use|symbol)[ />]/);
});

test('line widths follow the scale that was written into the coordinates', () => {
  const { svg } = corrected(
    page('<g stroke-width="2"><path transform="scale(3)" d="M0 0L9 9"/><path d="M0 0L9 9"/></g>'),
  );
  expect(svg.match(/stroke-width="[^"]*"/g)).toEqual(['stroke-width="2"', 'stroke-width="6"']);
});

test('scripts, event handlers and links that leave the file are left out, and said', () => {
  const hostile = page(
    `<script>alert(1)</script><image href="http://elsewhere/x.png" width="9" height="9"/>
     <style>@import url(http://elsewhere/x.css);</style><use href="other.svg#a"/>
     <a href="javascript:alert(1)"><path onclick="alert(1)" d="M0 0L9 9"/></a>`,
  );
  const { svg, notes } = corrected(hostile);
  expect(svg).not.toMatch(/script|elsewhere|onclick|other\.svg/i);
  expect(notes).toHaveLength(6);
});

const deep = (n: number): string => page('<g>'.repeat(n) + '<path d="M0 0L1 1"/>' + '</g>'.repeat(n));

test.each([
  ['', 'not-xml'],
  ['not an svg at all', 'not-xml'],
  ['\u0000\u0001\u0002PNG', 'not-xml'],
  ['<html xmlns="http://www.w3.org/1999/xhtml"/>', 'not-svg'],
  ['<svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0L9 9"/></svg>', 'no-size'],
  [page('<path d="M0 0L9 9"/>').slice(0, 90), 'not-xml'],
  [page('<path d="M0 0 L9"/>'), 'bad-value'],
  [page('<path d="M0 0 L1e999 9"/>'), 'bad-value'],
  [page('<rect width="2em" height="9"/>'), 'bad-value'],
  [page('<path transform="rotate(x)" d="M0 0L9 9"/>'), 'bad-value'],
  [page('<path d="M0 0L9 9"/>', 'width="-4mm" height="9mm"'), 'bad-value'],
  [page('<text>only words</text>'), 'nothing-to-cut'],
  [page('<g id="a"><use href="#a"/></g>'), 'use-loop'],
  [deep(10_000), 'too-deep'],
  [
    '<!DOCTYPE svg [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;">]>' + page('<path d="M0 0L9 9"/>'),
    'declares-entities',
  ],
  ['<!DOCTYPE svg [<!ENTITY % a "b">]>' + page('<path d="M0 0L9 9"/>'), 'declares-entities'],
  [
    '<!DOCTYPE svg [<!ENTITY a SYSTEM "file:///etc/passwd">]>' + page('<path d="M0 0L9 9"/>'),
    'declares-entities',
  ],
  [
    `<!DOCTYPE svg [<!ENTITY a "${'x'.repeat(1000)}">]>` +
      page(`<path d="M0 0L9 9"/><desc>${'&a;'.repeat(1001)}</desc>`),
    'declares-entities',
  ],
  ['<!DOCTYPE svg [<!ENTITY a "<g/>">]>' + page('<path d="M0 0L9 9"/>'), 'declares-entities'],
  [
    page(
      Array.from(
        { length: 12 },
        (_, i) => `<g id="u${i}">${i ? `<use href="#u${i - 1}"/>`.repeat(10) : '<path d="M0 0L1 1"/>'}</g>`,
      ).join(''),
    ),
    'too-many-copies',
  ],
])('rejects hostile or broken input %#', (svg, code) => {
  const outcome = correctSvg(svg, affineMap(IDENTITY), new Notes());
  expect(outcome.ok ? 'corrected' : outcome.refusal.code).toBe(code);
  if (!outcome.ok) expect(svgRefusalText(outcome.refusal)).toMatch(/\.$/);
});

test('entities that hold names of namespaces, as drawing programs write them, are read; radii may be automatic', () => {
  const svg = `<?xml version="1.0"?>
<!DOCTYPE svg PUBLIC "-//W3C//DTD SVG 1.1//EN" "http://www.w3.org/Graphics/SVG/1.1/DTD/svg11.dtd" [
  <!-- names -->
  <!ENTITY ns_svg "http://www.w3.org/2000/svg">
  <!ENTITY ns_xlink 'http://www.w3.org/1999/xlink'>
  <!ATTLIST svg xmlns:x CDATA "">
]>
<svg xmlns="&ns_svg;" xmlns:xlink="&ns_xlink;" width="40mm" height="30mm" viewBox="0 0 40 30">
  <ellipse cx="10" cy="10" rx="4" ry="auto"/><rect x="20" y="5" width="9" height="6" rx="auto" ry="2"/>
</svg>`;
  const done = correctSvg(svg, affineMap(IDENTITY), new Notes());
  if (!done.ok) throw new Error(done.refusal.code);
  expect(done.value.svg).toContain('xmlns="http://www.w3.org/2000/svg"');
  expect(done.value.svg).not.toContain('ENTITY');
  // A circle of radius 4, and corners of 2 on both sides.
  const points = samplePath(/ d="([^"]+)"/.exec(done.value.svg)![1]!);
  for (const p of points) expect(Math.hypot(p.x - 10, p.y - 10)).toBeCloseTo(4, 2);
  expect(done.value.paths).toHaveLength(2);
});

test('mutated files never throw and never hang', () => {
  const bytes = fc.array(fc.tuple(fc.nat(AWKWARD_SVG.length - 1), fc.integer({ min: 9, max: 126 })), {
    maxLength: 12,
  });
  fc.assert(
    fc.property(bytes, (changes) => {
      const letters = [...AWKWARD_SVG];
      for (const [at, code] of changes) letters[at] = String.fromCharCode(code);
      const outcome = correctSvg(letters.join(''), affineMap(IDENTITY), new Notes());
      if (outcome.ok) expect(outcome.value.svg).not.toMatch(/NaN|Infinity/);
      else expect(svgRefusalText(outcome.refusal)).toMatch(/\./);
    }),
    { numRuns: 1500 },
  );
});
