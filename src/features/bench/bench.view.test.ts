import { USUAL_POLICY, type CheckPolicy, type WatchedAxis } from '@/core/control';
import type { EventKind } from '@/core/setup';
import type { PlumbState } from '@/core/verdict';
import type { BenchSetup, OpenSession } from '@/server/setups/bench';
import { plainSetup, plainSetting } from '@test/setups';

import { benchView } from './bench.view';
import { answerText } from './benchAnswer';

const NOW = new Date('2026-11-21T10:00:00Z');
const daysAgo = (days: number): Date => new Date(NOW.getTime() - days * 24 * 3600 * 1000);

function benchSetup(name: string, more: Partial<BenchSetup> = {}): BenchSetup {
  return {
    setup: plainSetup({
      id: name,
      rigId: name,
      name,
      media: 'matt paper',
      sheetWidthMm: 210,
      sheetHeightMm: 297,
      workArea: { x0: 10, y0: 15, x1: 200, y1: 285 },
      toleranceMm: 0.4,
    }),
    history: [],
    open: [],
    unproved: null,
    events: [],
    watch: [],
    lastCut: null,
    fullLoads: 0,
    ...more,
  };
}

const measured = (state: PlumbState, r95Mm: number, days = 2): Pick<BenchSetup, 'history'> => ({
  history: [{ id: 's', kind: 'calibration', at: daysAgo(days), state, r95Mm, loads: 'log', proved: true }],
});
const event = (kind: EventKind, days: number): Pick<BenchSetup, 'events'> => ({
  events: [{ kind, note: '', by: 'KT', at: daysAgo(days) }],
});
const open = (stage: OpenSession['stage'], stationsRead: number): Pick<BenchSetup, 'open'> => ({
  open: [{ id: 'o', kind: 'calibration', stage, sheetNumber: 147, stationsRead, stations: 9 }],
});
const view = (...setups: BenchSetup[]) => benchView(setups, 'mm', NOW);

test.each<[string, BenchSetup[], string]>([
  ['nothing', [], 'Add the first rig'],
  ['an unmeasured rig', [benchSetup('Card rig')], 'Calibrate Card rig: never measured.'],
  [
    'all plumb',
    [benchSetup('A', measured('plumb', 0.1)), benchSetup('B', measured('plumb', 0.2))],
    'Every setup is plumb.',
  ],
  [
    'one leaning',
    [benchSetup('A', measured('plumb', 0.1)), benchSetup('B', measured('leaning', 0.35))],
    'Calibrate B: before the next tight job.',
  ],
  [
    'out of plumb comes before leaning',
    [
      benchSetup('A', measured('leaning', 0.35)),
      benchSetup('B', measured('out-of-plumb', 0.9)),
      benchSetup('C', measured('out-of-plumb', 0.8)),
    ],
    'Calibrate B: do not run it as it is. Then calibrate C; 1 more waits.',
  ],
  [
    'a half-read sheet',
    [benchSetup('A', { ...measured('plumb', 0.1), ...open('read', 4) })],
    'Finish sheet 0147 on A: 5 of 9 stations left.',
  ],
  [
    'a half-read sheet beside a leaning rig',
    [
      benchSetup('A', { ...measured('plumb', 0.1), ...open('read', 4) }),
      benchSetup('B', measured('leaning', 0.35)),
    ],
    'Finish sheet 0147 on A: 5 of 9 stations left. Then calibrate B.',
  ],
])('the bench answers for %s', (_, setups, words) =>
  expect(answerText(view(...setups).answer)).toContain(words),
);

test('the sentence is about number 1, whatever waits: its button is the red one', () => {
  const states = [
    {},
    measured('plumb', 0.1),
    measured('leaning', 0.35),
    measured('out-of-plumb', 0.9),
    { ...measured('leaning', 0.35), unproved: { at: daysAgo(1), done: 'settings' as const } },
    { ...measured('plumb', 0.1), ...open('print', 0) },
    { ...measured('out-of-plumb', 0.9), ...open('correct', 9) },
    { ...measured('plumb', 0.1), ...event('moved', 1) },
  ];
  for (const one of states)
    for (const other of states) {
      const { answer, groups } = view(benchSetup('Rig A', one), benchSetup('Rig B', other));
      const rows = groups.flatMap((g) => [...g.open, ...g.quiet]);
      const numbers = rows.flatMap((r) => r.number ?? []);
      // Down the page in their order, and each that waits has one.
      expect(numbers).toEqual(numbers.map((_, i) => i + 1));
      const [first] = rows;
      expect(answerText(answer)).toContain(first!.number ? first!.name : 'Every setup is plumb');
      for (const { to, text } of answer.filter((part) => part.to !== undefined))
        expect(rows[to! - 1]!.acts[0]!.words.toLowerCase()).toBe(text.toLowerCase());
      // Whoever is said to be plumb is.
      for (const quiet of rows.filter((r) => r.number === null)) expect(quiet.stands.state).toBe('plumb');
    }
});

test.each<[string, Partial<BenchSetup>, string[], string | null]>([
  ['never measured', {}, ['Calibrate: never measured'], 'calibration'],
  ['plumb and quiet', measured('plumb', 0.1), [], null],
  [
    'moved since',
    { ...measured('plumb', 0.1, 5), ...event('moved', 3) },
    ['Quick check: moved on 18 November'],
    'quick-check',
  ],
  ['moved before it was proved', { ...measured('plumb', 0.1, 2), ...event('moved', 3) }, [], null],
  ['leaning', measured('leaning', 0.35), ['Calibrate: before the next tight job'], 'calibration'],
  ['out of plumb', measured('out-of-plumb', 0.9), ['Calibrate: do not run it as it is'], 'calibration'],
  ['to be printed', open('print', 0), ['Print sheet 0147: laid out, not cut yet'], null],
  ['half read', open('read', 4), ['Finish sheet 0147: 5 of 9 stations left'], null],
  ['read', open('read', 9), ['See sheet 0147: every station is read'], null],
  [
    'to be typed or put into the file',
    open('correct', 9),
    ['Correct what sheet 0147 found: sheet 0147 is read, nothing is done yet'],
    null,
  ],
  [
    'corrected and not proved',
    { ...measured('out-of-plumb', 0.9, 3), unproved: { at: daysAgo(2), done: 'settings' } },
    ['Quick check: figures typed, not proved yet'],
    'quick-check',
  ],
  ['to be proved', open('prove', 0), ['Prove it on sheet 0147: corrected, not proved yet'], null],
])('what needs doing when a rig is %s', (_, more, words, start) => {
  const { tasks } = view(benchSetup('A', more));
  expect(tasks.map((t) => `${t.act}: ${t.why}`)).toEqual(words);
  expect(tasks[0]?.start ?? null).toBe(start);
});

test('what waits comes first, then the least sure: by what the log expects today, else as measured last', () => {
  const setups = [
    benchSetup('A', measured('plumb', 0.1)),
    benchSetup('B', measured('plumb', 0.2)),
    benchSetup('C', measured('plumb', 0.15)),
    benchSetup('D', { ...measured('plumb', 0.05, 5), ...event('moved', 3) }),
  ];
  const today = new Map([['C', { r95Mm: 0.3, loads: 4 }]]);
  const bench = (expected?: typeof today) => benchView(setups, 'mm', NOW, [], {}, undefined, expected);
  expect(bench().groups.map((g) => g.id)).toEqual(['D', 'B', 'C', 'A']);
  expect(bench(today).groups.map((g) => g.id)).toEqual(['D', 'C', 'B', 'A']);
  expect(bench(today).groups[1]!.quiet[0]!.lines).toContain('today 95 of 100 within 0.30 mm, by the log');
  // By the log it may be out by now: asked about, unless its signals were told to be quiet.
  const out = new Map([['C', { r95Mm: 0.5, loads: 4 }]]);
  expect(bench(out).tasks.map((t) => [t.setupId, t.start])).toContainEqual(['C', 'quick-check']);
  const quiet = setups.map((s) => ({
    ...s,
    setup: { ...s.setup, checkAfter: { ...USUAL_POLICY, signals: false } },
  }));
  expect(benchView(quiet, 'mm', NOW, [], {}, undefined, out).tasks.map((t) => t.setupId)).toEqual(['D']);
});

test('a card: state, ratio to what is allowed, and what happened since', () => {
  const card = view(benchSetup('A', { ...measured('leaning', 0.34, 5), ...event('firmware', 1) })).groups[0]!
    .open[0]!;
  expect(card).toMatchObject({
    stands: { state: 'leaning' },
    r95: '0.34',
    allowed: '0.40',
    since: '5 days ago',
    lines: [],
    tasks: [{ act: 'Quick check', why: 'software or firmware changed on 20 November' }],
  });
  expect(card.stands.ratio).toBeCloseTo(0.85, 9);
  expect(view(benchSetup('A')).groups[0]!.open[0]).toMatchObject({
    stands: { state: null, ratio: null },
    r95: null,
    since: null,
    lines: [],
  });
});

test('after a correction without its proof the card holds no figure of before', () => {
  const bench = view(
    benchSetup('A', { ...measured('out-of-plumb', 0.9, 3), unproved: { at: daysAgo(2), done: 'settings' } }),
  );
  expect(answerText(bench.answer)).toBe('Quick check of A: figures typed, not proved yet.');
  expect(bench.groups[0]!.open[0]).toMatchObject({ stands: { state: null, ratio: null }, r95: null });
});

test.each([
  ['settings', 'Type what sheet 0147 found'],
  ['file', 'Correct the file by sheet 0147'],
  ['machine-page', 'Run the machine’s own calibration'],
  ['nothing', 'See what sheet 0147 found'],
] as const)('a sheet that was read on a rig where %s can be changed', (changeable, words) => {
  const setup = benchSetup('A', open('correct', 9));
  expect(view({ ...setup, setup: { ...setup.setup, changeable } }).tasks[0]!.act).toBe(words);
});

test.each([
  ['release', 0, 'Release R007: luggage tags, not cut yet'],
  ['running', 2, 'Go on with R007: luggage tags, section 3 of 6'],
  ['paused', 2, 'Go on with R007: luggage tags, section 3 of 6, which rests'],
  ['running', 6, 'Close R007: luggage tags: all sections are cut'],
] as const)('a run at “%s” with %s sections cut asks for the next step', (stage, done, words) => {
  const run = {
    id: 'x',
    label: 'R007',
    name: 'luggage tags',
    setupId: 'r',
    rig: 'Roll rig',
    media: 'vinyl',
    stage,
    startedAt: NOW,
    startedBy: 'KT',
    copies: 96,
    sections: 6,
    done,
    spoiled: null,
    predictedSpoiled: 0.3,
  };
  const rig = benchSetup('Roll rig', measured('plumb', 0.1));
  const own = { ...run, setupId: rig.setup.id };
  const { tasks, answer } = benchView([rig], 'mm', NOW, [own, { ...own, id: 'y', stage: 'closed' }]);
  expect(tasks.map((t) => [`${t.act}: ${t.why}`, t.href])).toEqual([[words, '/jobs/x']]);
  expect(answerText(answer)).toBe(`${words}.`);
  // What lies half cut comes before what is only planned, whichever was planned last.
  const both = benchView([rig], 'mm', NOW, [
    { ...own, id: 'p', stage: 'release' },
    { ...own, id: 'c', stage: 'running', done: 2 },
  ]);
  expect(both.tasks.map((t) => t.key)).toEqual(['c', 'p']);
  // Left open on a setup that is off the bench by now.
  const left = benchView([rig], 'mm', NOW, [{ ...run, setupId: 'off the bench' }]);
  expect([left.tasks, answerText(left.answer)]).toEqual([[], 'It is plumb.']);
});

describe('several media on one rig', () => {
  const on = (
    media: string,
    more: Partial<BenchSetup>,
    settings: BenchSetup['setup']['settings'] = [x],
  ): BenchSetup => {
    const one = benchSetup(media, more);
    return { ...one, setup: { ...one.setup, rigId: 'r', name: 'Roll rig', media, settings } };
  };
  const x = plainSetting({ value: 0.85, wanted: 0.85 });
  const list = [
    on('vinyl', measured('plumb', 0.1), [x]),
    on('foil', measured('leaning', 0.35), [{ ...x, wanted: 1.1 }]),
    on('film', measured('out-of-plumb', 0.9)),
    on('cling', {}),
  ];

  test('one group, the most urgent first, quiet ones apart; the answer names the medium', () => {
    const { answer, groups, counts } = benchView(list, 'mm', NOW, [], { r: 'vinyl' });
    expect(answerText(answer)).toContain('Calibrate film on Roll rig: do not run it');
    expect(groups).toHaveLength(1);
    expect(groups[0]).toMatchObject({ name: 'Roll rig', onIt: 'vinyl', shows: 'Offset X 0.85' });
    expect(groups[0]!.open.map((r) => [r.number, r.media])).toEqual([
      [1, 'film'],
      [2, 'foil'],
      [3, 'cling'],
    ]);
    expect(groups[0]!.quiet.map((r) => r.media)).toEqual(['vinyl']);
    expect(counts).toEqual({ all: 4, 'needs-you': 3, leaning: 2, 'never-proved': 1 });
  });

  test('what another medium left typed is changed over first', () => {
    const [row] = benchView([list[1]!], 'mm', NOW).groups[0]!.open;
    expect(row!.changeOver).toBe(true);
    expect(row!.tasks[0]).toMatchObject({
      act: 'Change over',
      why: 'then calibrate: before the next tight job',
      href: '/setups/foil/change-over',
      start: null,
    });
  });

  test.each([
    [{ show: 'never-proved', find: '' }, ['cling']],
    [{ show: 'leaning', find: '' }, ['film', 'foil']],
    [{ show: 'all', find: ' FO' }, ['foil']],
    [{ show: 'all', find: 'do not run' }, ['film']],
    [{ show: 'needs-you', find: 'nobody' }, []],
  ] as const)('found by %j', (filter, media) => {
    const { groups, tasks } = benchView(list, 'mm', NOW, [], {}, filter);
    expect(groups.flatMap((g) => [...g.open, ...g.quiet].map((r) => r.media))).toEqual(media);
    // What waits is told whatever is looked for.
    expect(tasks).toHaveLength(3);
  });
});

const chart = { centre: 0.1, sigma: 0.02, lower: [0], upper: [0.2], signals: [0], statistic: [0.26] };
const crept: readonly WatchedAxis[] = [
  { axis: 'across', watch: null },
  { axis: 'along', watch: { loads: [], chart, since: daysAgo(9), byMm: 0.16 } },
];
const policy = (more: Partial<CheckPolicy>): BenchSetup['setup'] => ({
  ...benchSetup('Desk rig').setup,
  checkAfter: { ...USUAL_POLICY, ...more },
});

test.each([
  [
    'loads that crept while it still reads plumb',
    { watch: crept },
    ['Calibrate: since 12 November it lands 0.16 mm further along'],
  ],
  ['the same where nobody asked for it', { watch: crept, setup: policy({ signals: false }) }, []],
  [
    'an event after which it is checked',
    event('moved', 1),
    [expect.stringMatching(/^Quick check: .*20 November$/)],
  ],
  ['one after which it is not', { ...event('moved', 1), setup: policy({ events: ['firmware'] }) }, []],
  [
    'long without a cut',
    { lastCut: daysAgo(45), setup: policy({ idleDays: 30 }) },
    ['Quick check: nothing was cut for 45 days'],
  ],
  ['not so long', { lastCut: daysAgo(30), setup: policy({ idleDays: 30 }) }, []],
])('what a rig that was plumb two days ago asks for: %s', (_, more, words) => {
  const shown = view(benchSetup('Desk rig', { ...measured('plumb', 0.2), ...more }));
  expect(shown.tasks.map((t) => `${t.act}: ${t.why}`)).toEqual(words);
});
