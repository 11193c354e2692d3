import { POST as control } from '@/app/api/control/route';
import { POST as fit } from '@/app/api/fit/route';
import { POST as read } from '@/app/api/readings/[way]/route';
import { POST as registration } from '@/app/api/registration/route';

import { fitForScript, fitRequestSchema } from './scriptFit';

jest.mock('@/server/heavy/pool', () => ({
  heavy: (_: string, body: Parameters<typeof fitForScript>[0]) => fitForScript(body),
}));

type Route = (request: Request) => Promise<Response>;
const way =
  (name: string): Route =>
  (request) =>
    read(request, { params: Promise.resolve({ way: name }) });
const [gaps, lengths, rings, table] = ['gaps', 'lengths', 'rings', 'table'].map(way) as [
  Route,
  Route,
  Route,
  Route,
];

async function ask(route: Route, body: unknown) {
  const answer = await route(
    new Request('http://127.0.0.1/api', { method: 'POST', body: JSON.stringify(body) }),
  );
  return { status: answer.status, body: (await answer.json()) as Record<string, unknown> };
}

test('what a school answers, the fit takes as it is; an axis that was not read is null throughout', async () => {
  const row = (axis: string, ring: number) => ({ axis, stepMm: 0.1, phaseMm: 0.01, pick: { ring } });
  const read = await ask(rings, {
    stations: [
      { id: 'A1', x: 20, y: 30, rows: [row('across', 3), row('along', -1)] },
      { id: 'A2', x: 190, y: 30, rows: [row('across', 2)] },
      { id: 'A3', x: 20, y: 270, rows: [row('along', 0)] },
    ],
  });
  expect(read.status).toBe(200);
  const fitted = await ask(fit, { stations: read.body.stations, models: ['shift'] });
  expect(fitted.status).toBe(200);
  const shift = (fitted.body.models as { shift: { params: { tx: number }; stations: unknown[] } }).shift;
  expect(shift.params.tx).toBeCloseTo(-0.26, 9);
  expect(shift.stations).toMatchObject([{ id: 'A1' }, { id: 'A2', resDy: null }, { id: 'A3', resDx: null }]);
});

test('an axis of its own uncertainty weighs by it', () => {
  const at = { x: 0, y: 0, dy: 0, u: 1 };
  const parsed = fitRequestSchema.parse({
    stations: [
      { id: 'a', ...at, dx: 0, ux: 0.1 },
      { id: 'b', ...at, dx: 1, ux: 0.2 },
    ],
  });
  const { shift } = fitForScript(parsed).models;
  expect(shift?.status === 'ok' && shift.params.tx).toBeCloseTo((1 * 25) / (100 + 25), 12);
});

test.each<[string, Route, unknown, number, string, string | undefined]>([
  ['no stations', rings, { stations: [] }, 400, 'invalid-input', 'stations'],
  [
    'a ring and a half',
    rings,
    {
      stations: [
        { id: 'a', x: 0, y: 0, rows: [{ axis: 'across', stepMm: 0.1, phaseMm: 0, pick: { ring: 1.5 } }] },
      ],
    },
    400,
    'invalid-input',
    'stations.0.rows.0.pick.ring',
  ],
  [
    'gaps of no axis',
    gaps,
    { stations: [{ id: 'a', x: 0, y: 0, gaps: { left: 1 }, resolutionMm: 0.5 }] },
    400,
    'invalid-input',
    'stations.0',
  ],
  [
    'no resolution',
    gaps,
    { stations: [{ id: 'a', x: 0, y: 0, gaps: { left: 1, right: 1 }, resolutionMm: 0 }] },
    400,
    'invalid-input',
    'stations.0.resolutionMm',
  ],
  ['no table', table, { csv: 'hello' }, 422, 'no-table', 'csv'],
  [
    'a column of a name that is not known',
    table,
    { csv: 'x,y,dx\n1,2,3', columns: { z: 'x' } },
    400,
    'invalid-input',
    'columns',
  ],
  [
    'lengths that cannot tell',
    lengths,
    {
      features: [
        { id: 'a', x: 0, y: 0 },
        { id: 'b', x: 100, y: 0 },
      ],
      cut: [{ from: 'a', to: 'b', lengthMm: 100, u: 0.1 }],
    },
    422,
    'cannot-tell',
    'cut',
  ],
  [
    'a feature that is not there',
    lengths,
    {
      features: [
        { id: 'a', x: 0, y: 0 },
        { id: 'b', x: 100, y: 0 },
      ],
      cut: [{ from: 'a', to: 'c', lengthMm: 100, u: 0.1 }],
    },
    422,
    'unknown-feature',
    'cut',
  ],
  ['a mark less', registration, { marks: [{ x: 0, y: 0 }], driven: [] }, 400, 'invalid-input', 'driven'],
  [
    'two places for one mark',
    registration,
    {
      marks: [{ x: 0, y: 0 }],
      driven: [
        { x: 0, y: 0 },
        { x: 1, y: 0 },
      ],
    },
    400,
    'invalid-input',
    'driven',
  ],
  ['values alike', control, { values: [1, 1, 1], chart: 'ewma' }, 422, 'no-scatter', 'values'],
  ['a chart that is none', control, { values: [1, 2], chart: 'pie' }, 400, 'invalid-input', 'chart'],
  [
    'a baseline too long',
    control,
    { values: [1, 2], chart: 'ewma', baseline: 3 },
    400,
    'invalid-input',
    'baseline',
  ],
  ['endless values', control, { values: [1e300, 2], chart: 'ewma' }, 400, 'invalid-input', 'values.0'],
])('%s: refused, and by which field', async (_, route, body, status, code, field) => {
  const answer = await ask(route, body);
  expect([answer.status, answer.body.error]).toMatchObject([status, { code, ...(field ? { field } : {}) }]);
});

test('answers have the names that are promised', async () => {
  const square = [
    { id: 'a', x: 0, y: 0 },
    { id: 'b', x: 100, y: 0 },
    { id: 'c', x: 0, y: 100 },
    { id: 'd', x: 100, y: 100 },
  ];
  const length = (from: string, to: string, lengthMm: number) => ({ from, to, lengthMm, u: 0.1 });
  const cut = [length('a', 'b', 100.2), length('a', 'c', 99.9), length('a', 'd', 141.5)];
  const told = await ask(lengths, { features: square, cut });
  expect(told.body).toMatchObject({ scaleAcross: { value: 1.002 }, scaleAlong: {}, leanRad: {}, rmsMm: 0 });
  expect((told.body.sharpen as unknown[])[0]).toMatchObject({ from: 'b', to: 'c' });
  const marks = square.map(({ x, y }) => ({ x, y }));
  const found = await ask(registration, { marks, driven: marks.map((m) => ({ x: m.x + 1, y: m.y })) });
  expect(found.body).toMatchObject({ model: 'affine', moved: { turnRad: 0 }, warnings: [] });
  expect(found.body.residualsMm).toHaveLength(4);
  const chart = await ask(control, { values: [0.1, -0.1, 0.2, 0], chart: 'cusum', target: 0, sigma: 0.1 });
  expect(Object.keys(chart.body).sort()).toEqual([
    'centre',
    'lower',
    'sigma',
    'signals',
    'statistic',
    'upper',
  ]);
  const four = { left: 2, right: 2.5, near: 2, far: 2 };
  const gap = await ask(gaps, {
    stations: [{ id: 'a', x: 0, y: 0, gaps: four, nominal: four, resolutionMm: 0.5 }],
  });
  expect(gap.body.stations).toMatchObject([{ dx: 0, dy: 0, sizeXMm: 0, sizeYMm: 0 }]);
});
