import { eventLabels } from './Events';

const levels = (...events: [at: number, words: string][]): number[] =>
  eventLabels(
    events.map(([at, words]) => ({ at, words })),
    526,
  ).map((l) => l.level);

test.each([
  ['alone', [[100, 'moved']], [0]],
  [
    'far apart',
    [
      [60, 'moved'],
      [300, 'new blade'],
    ],
    [0, 0],
  ],
  [
    'close together',
    [
      [60, 'software changed'],
      [90, 'moved'],
      [100, 'new blade'],
    ],
    [0, 1, 2],
  ],
  // The right one is written leftwards and would run into the left one.
  [
    'towards each other',
    [
      [200, 'printer’s feed changed'],
      [385, 'software or firmware changed'],
    ],
    [0, 1],
  ],
  [
    'the lowest free place',
    [
      [60, 'software changed'],
      [90, 'moved'],
      [190, 'moved'],
    ],
    [0, 1, 0],
  ],
] as [string, [number, string][], number[]][])('words of events never touch: %s', (_, events, expected) => {
  expect(levels(...events)).toEqual(expected);
});

test('at the right edge words are written to the left of their line', () => {
  expect(eventLabels([{ at: 500, words: 'moved' }], 526)).toEqual([{ x: 495, anchor: 'end', level: 0 }]);
});
