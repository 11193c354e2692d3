import fc from 'fast-check';

import { seededRandom } from '../random/random';

import { expectedMinutes, REMEDIES, REMEDY_IDS, remediesInOrder, type Tried } from '.';

const titles = (record: readonly Tried[]) => remediesInOrder(record).map((r) => r.id);

test('before anything is on record the quick ones come first, printing again last; calibrating is none of them', () => {
  const order = titles([]);
  expect(new Set(order)).toEqual(new Set(REMEDY_IDS));
  expect(order.slice(0, 2).sort()).toEqual(['inside-first', 'less-light']);
  expect(order.indexOf('white')).toBeGreaterThan(order.indexOf('darken'));
  expect(REMEDIES.map((r) => r.title + r.detail).join()).not.toMatch(/calibrat/i);
});

test('what worked here comes first the next time; the same elsewhere counts less; opposite advice is settled by the record', () => {
  const matte = (where: Tried['where'], worked = true): Tried => ({ remedy: 'matte', worked, where });
  const place = (record: readonly Tried[]): number => titles(record).indexOf('matte');
  const none = place([]);
  const here = place([matte('here'), matte('here'), matte('here')]);
  const elsewhere = place([matte('elsewhere'), matte('elsewhere'), matte('elsewhere')]);
  expect(here).toBeLessThan(elsewhere);
  expect(elsewhere).toBeLessThanOrEqual(none);
  expect(place([matte('here', false), matte('here', false)])).toBeGreaterThan(none);
  const light: Tried[] = Array.from({ length: 4 }, (_, i) => ({
    ...{ remedy: i % 2 ? 'more-light' : 'less-light', worked: i % 2 === 1, where: 'here' },
  }));
  const order = titles(light);
  expect(order.indexOf('more-light')).toBeLessThan(order.indexOf('less-light'));
});

test('property: no other order takes less time on average', () => {
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 1e6 }), (seed) => {
      const random = seededRandom(seed);
      const record: Tried[] = Array.from({ length: 12 }, () => ({
        remedy: REMEDY_IDS[Math.floor(random() * REMEDY_IDS.length)]!,
        worked: random() < 0.4,
        where: 'here',
      }));
      const order = remediesInOrder(record);
      const shuffled = order.map((r) => ({ r, at: random() })).sort((a, b) => a.at - b.at);
      expect(expectedMinutes(order)).toBeLessThanOrEqual(expectedMinutes(shuffled.map(({ r }) => r)) + 1e-9);
      for (const { chance } of order) {
        expect(chance).toBeGreaterThan(0);
        expect(chance).toBeLessThan(1);
      }
    }),
  );
});

test('by hand: two trials here of one that helps in a fifth, one of them worked', () => {
  const [one] = remediesInOrder([
    { remedy: 'less-light', worked: true, where: 'here' },
    { remedy: 'less-light', worked: false, where: 'here' },
  ]).filter((r) => r.id === 'less-light');
  expect(one).toMatchObject({ worked: 1, tried: 2 });
  expect(one!.chance).toBeCloseTo((3 * 0.2 + 1) / 5, 12);
});
