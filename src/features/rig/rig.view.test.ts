import { USUAL_POLICY } from '@/core/control';
import type { PlumbState } from '@/core/verdict';
import type { BenchSetup } from '@/server/setups/bench';
import type { Rig } from '@/server/setups/setup';
import { plainSetting, plainSetup } from '@test/setups';

import { rigView } from './rig.view';

const at = new Date('2026-11-02T08:00:00Z');
/** Of an allowed 0.50 mm. */
const R95_MM: Readonly<Record<PlumbState, number>> = { plumb: 0.2, leaning: 0.45, 'out-of-plumb': 0.6 };
const on = (media: string, state: PlumbState | null, settings = [plainSetting()]): BenchSetup => ({
  setup: plainSetup({ id: media, media, settings }),
  history:
    state === null
      ? []
      : [{ id: 's', kind: 'calibration', at, state, r95Mm: R95_MM[state], loads: 'log', proved: true }],
  open: [],
  unproved: null,
  events: [],
  watch: [],
  lastCut: null,
  fullLoads: 0,
});
const rigOf = (setups: readonly BenchSetup[], more: Partial<Rig> = {}): Rig => ({
  id: 'rig',
  name: 'Roll rig',
  printer: 'printer',
  cutter: 'cutter',
  printerId: 'p',
  cutterId: 'c',
  checkAfter: USUAL_POLICY,
  changeable: 'settings-and-file',
  fileFrame: null,
  version: 1,
  setups: setups.map((s) => s.setup),
  onIt: null,
  ...more,
});
const view = (setups: readonly BenchSetup[], more: Partial<Rig> = {}) =>
  rigView(rigOf(setups, more), setups, 'mm');

test.each<[BenchSetup[], string]>([
  [[], 'Nothing is on this rig: put a medium on it.'],
  [[on('vinyl', 'plumb')], 'Vinyl is plumb.'],
  [[on('vinyl', 'plumb'), on('foil', 'plumb')], 'All 2 setups of this rig are plumb.'],
  [
    [on('vinyl', 'out-of-plumb'), on('foil', 'plumb')],
    'Vinyl is out of plumb: calibrate before it runs. The other one is plumb.',
  ],
  [
    [on('vinyl', 'leaning'), on('foil', null), on('film', 'out-of-plumb'), on('card', 'out-of-plumb')],
    'Film and card are out of plumb: calibrate before they run; vinyl is leaning; foil has not been proved.',
  ],
])('what a rig says first', (setups, words) => expect(view(setups).answer).toBe(words));

test('one table: what the machine shows, and what each setup wants of it', () => {
  const each = plainSetting({ id: 'l', name: 'Length', kept: 'per-medium', value: 3, wanted: 3 });
  const vinyl = on('vinyl', 'plumb', [plainSetting({ value: 0.85, wanted: 0.85 }), each]);
  const foil = on('foil', null, [plainSetting({ value: 0.85, wanted: 1.1 }), each]);
  const { settings, rows } = view([vinyl, foil], { onIt: { setupId: 'vinyl', by: 'KT', at } });
  // What is kept for each medium shows nothing that holds for all.
  expect(settings.map((s) => [s.name, s.shows])).toEqual([
    ['Offset X', '0.85'],
    ['Length', null],
  ]);
  expect(rows.map((r) => [r.media, r.about, r.r95, r.wants.map((w) => `${w.deed} ${w.figure}`)])).toEqual([
    ['vinyl', '1370 × 1000 mm, on it now', '0.20', ['leave 0.85', 'look 3.00']],
    ['foil', '1370 × 1000 mm, never measured', null, ['type 1.10', 'look 3.00']],
  ]);
});

test('corrected and not proved: no figure of before is shown', () => {
  const [row] = view([{ ...on('vinyl', 'plumb'), unproved: { at, done: 'settings' } }]).rows;
  expect(row).toMatchObject({
    stands: { state: null },
    r95: null,
    about: '1370 × 1000 mm, not proved yet',
  });
});
