import { eq } from 'drizzle-orm';
import fc from 'fast-check';

import { toType } from '@/core/setup';
import { settingChanges } from '@/db/schema';
import { startSession } from '@/server/sessions/startSession';
import { discardSession } from '@/server/sessions/closeSession';
import { getSetup } from '@/server/setups/repository';
import type { Setup } from '@/server/setups/setup';
import { standingHistory, takeBackStanding } from '@/server/setups/standing';
import { addSetup, inputOf } from '@/server/setups/writeSetup';
import { freshDeps } from '@test/database';

import { changeOver } from './changeOver';
import { getRig } from './repository';
import { addRig, changeRig } from './writeRig';

/*
 * One machine and three media, two people at it, each with cards and forms that may be out of date. Whatever they do and
 * in whatever order: the machine shows one figure on every page, each step of it is on record, a card that is out of date
 * types nothing, and nothing starts at another medium's figures.
 */

let deps: Awaited<ReturnType<typeof freshDeps>>;
beforeAll(async () => {
  deps = await freshDeps('shop_model');
});
afterAll(() => deps.close());

const MEDIA = ['vinyl', 'foil', 'film'] as const;
const SETTING = { name: 'X', unit: 'mm' as const, step: 0.05, min: -9, max: 9, display: 'signed' as const };

const which = fc.nat({ max: MEDIA.length - 1 });
const figure = fc.integer({ min: -40, max: 40 }).map((steps) => Number((steps * 0.05).toFixed(2)));
/** A card or a form that was opened before is used as it was, or opened anew. */
const page = { who: fc.boolean(), old: fc.boolean() };
const command = fc.oneof(
  fc.record({ do: fc.constant('change over' as const), ...page, at: which, found: fc.option(figure) }),
  fc.record({ do: fc.constant('type by hand' as const), ...page, to: figure }),
  fc.record({ do: fc.constant('take back' as const), at: which, back: fc.nat({ max: 4 }) }),
  fc.record({ do: fc.constant('start' as const), at: which }),
);

interface Person {
  card: { readonly setup: Setup } | null;
  form: { readonly version: number } | null;
}

test('whoever does what in whatever order: one figure everywhere, and nothing by a card that is out of date', async () => {
  let shop = 0;
  await fc.assert(
    fc.asyncProperty(fc.array(command, { minLength: 4, maxLength: 14 }), async (commands) => {
      shop += 1;
      const setups = await newShop(shop);
      const people: [Person, Person] = [
        { card: null, form: null },
        { card: null, form: null },
      ];
      const load = (): Promise<Setup[]> => Promise.all(setups.map(async (id) => (await getSetup(deps, id))!));
      for (const c of commands) {
        const before = await load();
        const rigId = before[0]!.rigId;
        const person = 'who' in c ? people[Number(c.who)]! : people[0];
        if (c.do === 'change over') {
          if (!c.old || !person.card) person.card = { setup: before[c.at]! };
          const { setup } = person.card;
          const [x] = setup.settings;
          const found = c.found === null ? {} : { [x!.id]: c.found };
          const done = await changeOver(deps, 'KT', {
            setupId: setup.id,
            wanted: { [x!.id]: x!.wanted },
            found,
          });
          const now = before.find((s) => s.id === setup.id)!;
          expect(done.ok).toBe(now.settings[0]!.wanted === x!.wanted);
          if (done.ok) expect((await getRig(deps, rigId))!.onIt!.setupId).toBe(setup.id);
        }
        if (c.do === 'type by hand') {
          const { version } = (await getRig(deps, rigId))!;
          if (!c.old || !person.form) person.form = { version };
          const fresh = version === person.form.version;
          const { name, printer, cutter } = before[0]!;
          const settings = [
            { ...SETTING, id: before[0]!.settings[0]!.id, value: c.to, direction: 'right' as const },
          ];
          const input = { name, printer, cutter, settings };
          const done = await changeRig(deps, 'AF', { rigId, version: person.form.version, ...input });
          expect(done.ok).toBe(fresh);
        }
        if (c.do === 'take back') {
          const entries = (await standingHistory(deps, before[c.at]!.id)).filter(
            (e) => e.replacedAt !== null,
          );
          const entry = entries[c.back];
          if (entry)
            expect(
              (await takeBackStanding(deps, 'KT', { setupId: before[c.at]!.id, standingId: entry.id })).ok,
            ).toBe(true);
        }
        if (c.do === 'start') {
          const started = await startSession(deps, 'KT', { setupId: before[c.at]!.id, kind: 'quick-check' });
          expect(started.ok).toBe(toType(before[c.at]!.settings).length === 0);
          if (started.ok) await discardSession(deps, 'KT', started.value.sessionId);
        }
        await holds(await load());
      }
    }),
    { numRuns: 25 },
  );
});

/** A rig of its own with three media on it. */
async function newShop(number: number): Promise<string[]> {
  const added = await addRig(deps, 'IM', {
    name: `Rig ${number}`,
    printer: `printer ${number}`,
    cutter: `cutter ${number}`,
    media: MEDIA[0],
    sheetWidthMm: 210,
    sheetHeightMm: 297,
    marginLeftMm: 10,
    marginNearMm: 15,
    areaWidthMm: 190,
    areaHeightMm: 270,
    toleranceMm: 0.4,
    settings: [{ ...SETTING, value: 0.5, direction: 'right' }],
  });
  if (!added.ok) throw new Error(JSON.stringify(added.refusal));
  const first = (await getSetup(deps, added.value.setupId))!;
  const ids = [first.id];
  for (const media of MEDIA.slice(1)) {
    const more = await addSetup(deps, 'IM', { rigId: first.rigId, ...inputOf(first), media });
    if (!more.ok) throw new Error(JSON.stringify(more.refusal));
    ids.push(more.value.setupId);
  }
  return ids;
}

async function holds(setups: readonly Setup[]): Promise<void> {
  // One figure, whichever medium's page says it.
  const [value, ...others] = new Set(setups.map((s) => s.settings[0]!.value));
  expect(others).toEqual([]);
  // The log is a chain that ends at what is shown: nothing was typed that is not on record.
  const typed = await deps.db
    .select()
    .from(settingChanges)
    .where(eq(settingChanges.settingId, setups[0]!.settings[0]!.id))
    .orderBy(settingChanges.changedAt);
  expect(typed[0]!.fromValue).toBeNull();
  typed.slice(1).forEach((t, i) => expect(t.fromValue).toBe(typed[i]!.toValue));
  expect(typed.at(-1)!.toValue).toBe(value);
  // One correction stands for each, and it is what the setup wants.
  for (const s of setups) {
    const standing = await standingHistory(deps, s.id);
    expect(standing.filter((e) => e.replacedAt === null).map((e) => e.settings[s.settings[0]!.id])).toEqual([
      s.settings[0]!.wanted,
    ]);
  }
}
