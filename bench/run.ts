/*
 * npm run bench: ratios measured in one run on this machine; never part of the tests.
 * npm run bench -- plan fit: only these.
 */
import { Matrix, QrDecomposition } from 'ml-matrix';

import svgpath from 'svgpath';

import { accuracy } from './accuracy';
import { combBench } from './combs';
import { drawingsBench } from './drawings';
import { faultsBench } from './faults';
import { logBench } from './fromLog';
import { heldBench } from './held';
import { nestBench } from './nest';
import { traceBench } from './trace';
import { leaveBench } from './leave';
import { following, learning, LONG_JOB, LONG_JOB_RIG, longJobKnowledge, planning, slipping } from './rolls';
import { planWithCurves, type RollJob } from '../src/core/layout';
import { correctFile } from '../src/core/drawing/file';
import { affineMap } from '../src/core/geometry';
import { parseXml, type XmlNode } from '../src/core/drawing/svg/parseXml';
import { writeXml } from '../src/core/drawing/svg/writeXml';
import { readHpgl, writeHpgl } from '../src/core/drawing/hpgl';
import { Notes } from '../src/core/drawing/notes';
import { fitModel } from '../src/core/fit';
import { fitRequestSchema, observationsOf } from '../src/server/api/scriptFit';
import { followed } from '../test/rolls';
import { normalDeviate, seededRandom } from '../src/core/random/random';
import { termsAbout } from '../src/core/rigsim';

const random = seededRandom(7);

/** The median of several runs, ms. */
function median(run: () => unknown, runs = 7): number {
  run();
  const times = Array.from({ length: runs }, () => {
    const from = performance.now();
    run();
    return performance.now() - from;
  });
  return times.sort((a, b) => a - b)[Math.floor(runs / 2)]!;
}

function fitBenchmark(): void {
  const setup = termsAbout(
    { shiftXMm: 0.3, shiftYMm: -0.2, turnRad: 0.001, scaleAcross: 1.001, scaleAlong: 0.999, leanRad: 0.0005 },
    { x: 500, y: 500 },
  );
  const noise = (): number => 0.03 * normalDeviate(random);
  // As POST /api/fit makes them of what it is sent.
  const { stations } = fitRequestSchema.parse({
    stations: Array.from({ length: 10_000 }, (_, i) => {
      const x = 1000 * random();
      const y = 1000 * random();
      const dx = (setup.a11 - 1) * x + setup.a12 * y + setup.tx + noise();
      const dy = setup.a21 * x + (setup.a22 - 1) * y + setup.ty + noise();
      return { id: String(i), x, y, dx, dy, u: 0.03 };
    }),
  });
  const observations = observationsOf(stations);
  const rows = observations.map((o) =>
    o.axis === 'across' ? [o.xMm, o.yMm, 0, 0, 1, 0] : [0, 0, o.xMm, o.yMm, 0, 1],
  );
  const values = Matrix.columnVector(observations.map((o) => o.offsetMm));
  const ours = median(() => fitModel('affine', observations, { x: 500, y: 500 }));
  const library = median(() => new QrDecomposition(new Matrix(rows)).solve(values));
  console.log(
    `affine fit of 10,000 stations, with errors and diagnostics: ${ours.toFixed(0)} ms; the library's QR solve of the same matrix: ${library.toFixed(0)} ms; ratio ${(ours / library).toFixed(2)}`,
  );
}

function svgBenchmark(): void {
  const vertices = 200_000;
  const paths = Array.from({ length: 200 }, () => {
    const points = Array.from(
      { length: vertices / 200 },
      () => `${(1000 * random()).toFixed(3)} ${(1000 * random()).toFixed(3)}`,
    );
    return `<path d="M${points.join(' L')} Z"/>`;
  });
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="1000mm" height="1000mm" viewBox="0 0 1000 1000">${paths.join('\n')}</svg>`;
  const setup = termsAbout(
    { shiftXMm: 0.3, shiftYMm: -0.2, turnRad: 0.001, scaleAcross: 1.001, scaleAlong: 0.999, leanRad: 0.0005 },
    { x: 500, y: 500 },
  );
  const map = affineMap(setup);
  const ours = median(() => correctFile(svg, map), 5);
  const rewrite = (node: XmlNode): XmlNode =>
    node.kind !== 'element'
      ? node
      : {
          ...node,
          attributes: node.attributes.d
            ? { ...node.attributes, d: svgpath(node.attributes.d).abs().round(4).toString() }
            : node.attributes,
          children: node.children.map(rewrite),
        };
  const through = median(() => {
    const parsed = parseXml(svg);
    return parsed.ok ? writeXml(rewrite(parsed.value) as typeof parsed.value) : null;
  }, 5);
  console.log(
    `SVG of ${vertices} vertices corrected: ${ours.toFixed(0)} ms, ${Math.round(vertices / ours)} vertices per ms; its XML and path data parsed and written unchanged: ${through.toFixed(0)} ms; ratio ${(ours / through).toFixed(2)}`,
  );
}

/** Cut data of about 20 MB: long polylines of plotter units. */
function hpglBenchmark(): void {
  const lines: string[] = ['IN;SP1;'];
  let bytes = 0;
  while (bytes < 20 * 1024 * 1024) {
    const xy = Array.from({ length: 2000 }, () => Math.round(40_000 * random())).join(',');
    lines.push(`PU${Math.round(40_000 * random())},100;PD${xy};`);
    bytes += xy.length;
  }
  const hpgl = lines.join('');
  const map = affineMap({ a11: 1.001, a12: 0.0005, a21: -0.001, a22: 0.999, tx: -0.4, ty: 0.3 });
  const ours = median(() => correctFile(hpgl, map), 3);
  const through = median(() => {
    const read = readHpgl(hpgl, new Notes());
    return read.ok ? writeHpgl(read.value, new Notes()) : null;
  }, 3);
  const vertices = (hpgl.match(/,/g)!.length + lines.length) / 2;
  console.log(
    `HPGL of ${(hpgl.length / 1048576).toFixed(0)} MB corrected: ${ours.toFixed(0)} ms, ${Math.round(vertices / ours)} vertices per ms; read and written unchanged: ${through.toFixed(0)} ms; ratio ${(ours / through).toFixed(2)}`,
  );
}

/** What one step of the dragging costs: every way planned anew, against the same work done for a tenth of the items. */
function planBenchmark(): void {
  const knowledge = longJobKnowledge();
  const setup = { ...LONG_JOB_RIG, bothEnds: true, everyMm: 500 };
  let rows = 8;
  const plan = (job: RollJob) => {
    rows = 8 + ((rows + 1) % 5);
    return planWithCurves(
      { ...job, rowsPerSection: rows },
      knowledge,
      followed(knowledge),
      96,
      setup,
      'sections',
    );
  };
  const planned = plan(LONG_JOB);
  if (!planned.ok) throw new Error('does not fit');
  const metres = planned.value.plan.strategies[0]!.printedMm / 1000;
  const whole = median(() => plan(LONG_JOB), 15);
  const round = median(() => plan({ ...LONG_JOB, outline: 'round' }), 7);
  const small = median(() => plan({ ...LONG_JOB, copies: LONG_JOB.copies / 10 }), 15);
  console.log(
    `roll plan of ${LONG_JOB.copies} items over ${metres.toFixed(0)} m replanned in all five ways, curves and all: ${whole.toFixed(0)} ms with straight sides, ${round.toFixed(0)} ms round; a tenth of the items: ${small.toFixed(0)} ms; ratio ${(whole / small).toFixed(2)}`,
  );
}

const BENCHES = {
  accuracy,
  held: heldBench,
  trace: traceBench,
  nest: nestBench,
  combs: combBench,
  leave: leaveBench,
  learning,
  slipping,
  planning,
  following,
  plan: planBenchmark,
  fit: fitBenchmark,
  svg: svgBenchmark,
  hpgl: hpglBenchmark,
  drawings: drawingsBench,
  faults: faultsBench,
  log: logBench,
};
const wanted = process.argv.slice(2);
const unknown = wanted.filter((name) => !(name in BENCHES));
if (unknown.length > 0)
  throw new Error(`no bench ${unknown.join(', ')}: there are ${Object.keys(BENCHES).join(', ')}`);
void (async () => {
  for (const [name, bench] of Object.entries(BENCHES))
    if (wanted.length === 0 || wanted.includes(name)) await bench();
})();
