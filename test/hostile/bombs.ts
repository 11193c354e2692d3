/* Small files made to hurt: each says what it would do to a reader without limits. */

const svg = (body: string, page = 'width="99mm" height="99mm" viewBox="0 0 99 99"'): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" ${page}>${body}</svg>`;
const many = (n: number, one: (i: number) => string): string =>
  Array.from({ length: n }, (_, i) => one(i)).join('');
const dxf = (entities: string, blocks = ''): string =>
  `0\nSECTION\n2\nHEADER\n9\n$INSUNITS\n70\n4\n0\nENDSEC\n${blocks && `0\nSECTION\n2\nBLOCKS\n${blocks}0\nENDSEC\n`}0\nSECTION\n2\nENTITIES\n${entities}0\nENDSEC\n0\nEOF\n`;
const vertex = (x: number, y: number, bulge: number): string => `10\n${x}\n20\n${y}\n42\n${bulge}\n`;

export const BOMBS: Readonly<Record<string, () => string>> = {
  'svg: a width of 40,000 digits': () =>
    svg('<path d="M1 1L9 9"/>', `width="${'1'.repeat(40_000)}x" height="9mm"`),
  'svg: a transform of 40,000 digits': () =>
    svg(`<path transform="scale(${'1'.repeat(40_000)}x)" d="M1 1L9 9"/>`),
  'svg: 2,000 thin arcs': () =>
    svg(many(2000, (i) => `<path d="M0 0A${1e5 + i} 0.001 ${i % 180} 1 1 9 ${i % 9}"/>`)),
  'svg: 5,000 large circles': () => svg(many(5_000, (i) => `<circle cx="${i}" cy="0" r="${1e5 + i}"/>`)),
  'svg: 5,000 ellipses': () =>
    svg(many(5000, (i) => `<ellipse cx="5" cy="5" rx="${9e4 + i}" ry="${0.5 + i}"/>`)),
  'svg: one path of 10 MB': () => svg(`<path d="M0 0${'l1 2-2 1'.repeat(1_250_000)}"/>`),
  'svg: copies of copies': () =>
    svg(
      `<defs><path id="a0" d="M0 0L1 1"/>${many(14, (i) => `<g id="a${i + 1}">${`<use href="#a${i}"/>`.repeat(10)}</g>`)}</defs><use href="#a14"/>`,
    ),
  'svg: 10,000 copies of a large group': () =>
    svg(
      `<defs><g id="g">${many(2000, (i) => `<path d="M0 ${i}L9 9"/>`)}</g></defs>${'<use href="#g"/>'.repeat(10_000)}`,
    ),
  'svg: 300,000 elements of a layer each': () =>
    svg(many(150_000, (i) => `<g id="l${i}"><path d="M0 0L${i % 9} 9"/></g>`)),
  'svg: figures beyond a kilometre': () => svg('<path d="M0 0L1e8 5"/>'),
  'svg: a singular transform': () => svg('<path transform="scale(0)" d="M1 1L9 9"/>'),
  'svg: a matrix of 1e300': () => svg('<path transform="matrix(1e300 0 0 1e300 0 0)" d="M1 1L9 9"/>'),
  'svg: all of it in a point': () => svg('<path d="M5 5L5 5.0000001"/>'),
  'dxf: 300,000 bulges': () =>
    dxf(
      `0\nLWPOLYLINE\n8\n0\n90\n300000\n70\n1\n${many(300_000, (i) => vertex(i % 1000, (i * 7) % 900, 0.9))}`,
    ),
  'dxf: 30,000 polylines without an end': () =>
    dxf(many(30_000, (i) => `0\nPOLYLINE\n8\n0\n66\n1\n0\nVERTEX\n8\n0\n10\n${i}\n20\n0\n`)),
  'dxf: a block of blocks of blocks': () =>
    dxf(
      '0\nINSERT\n2\nB9\n10\n0\n20\n0\n',
      many(
        10,
        (i) =>
          `0\nBLOCK\n2\nB${i}\n10\n0\n20\n0\n${i === 0 ? '0\nLINE\n10\n0\n20\n0\n11\n1\n21\n1\n' : `0\nINSERT\n2\nB${i - 1}\n70\n30\n71\n30\n44\n1\n45\n1\n`}0\nENDBLK\n`,
      ),
    ),
  'dxf: a spline of 5,000 controls': () =>
    dxf(
      `0\nSPLINE\n8\n0\n70\n0\n71\n3\n${many(5_004, (i) => `40\n${Math.max(0, Math.min(5_001, i - 3))}\n`)}${many(5_000, (i) => `10\n${(i * 37) % 500}\n20\n${(i * 91) % 500}\n`)}`,
    ),
  'dxf: layers with one name in thirty-one letters': () =>
    dxf(
      many(
        15_000,
        (i) => `0\nLINE\n8\n${'layer-of-the-same-long-beginning-'}${i}\n10\n0\n20\n0\n11\n${i % 50}\n21\n5\n`,
      ),
    ),
  'dxf: an arc of a huge radius': () => dxf('0\nARC\n8\n0\n10\n1e9\n20\n0\n40\n1e9\n50\n0\n51\n359\n'),
  'hpgl: 100,000 circles': () =>
    `IN;SP1;${many(100_000, (i) => `PU${i % 4000},${i % 3000};CI${8000 + (i % 9)};`)}`,
  'hpgl: 50,000 arcs of many turns': () =>
    `IN;SP1;PU0,0;PD100,0;${many(50_000, (i) => `AA0,${i % 90},${36_000 + i};`)}`,
  'hpgl: speed commands without end': () => `IN;SP1;${'VS12;'.repeat(300_000)}PU0,0;PD400,400;PU;`,
  'hpgl: a figure of 100,000 digits': () => `IN;PU0,0;PD${'9'.repeat(100_000)},1;`,
  'hpgl: a scale that stretches a step to a mile': () =>
    'IN;IP0,0,40000,40000;SC0,0.0001,0,0.0001;PU0,0;PD100,100;PU;',
};
