/*
 * What helps when a mark will not read. Chances and minutes before anything is on record are common practice, no source: a
 * remedy that helps one time in five and takes half a minute comes before one that helps every other time and takes ten.
 */

export interface Remedy {
  readonly id: RemedyId;
  readonly title: string;
  readonly detail: string;
  /** How often it helps, before the shop's own record says. */
  readonly helps: number;
  /** How long it takes to try, with registering again. */
  readonly minutes: number;
}

export const REMEDY_IDS = [
  'kind',
  'inside-first',
  'less-light',
  'more-light',
  'dust',
  'smooth',
  'support',
  'clipped',
  'darken',
  'matte',
  'white',
  'opaque-mat',
  'level',
  'clean',
  'restart',
  'driver',
  'further-in',
] as const;
export type RemedyId = (typeof REMEDY_IDS)[number];

const KNOWN: readonly (readonly [RemedyId, number, number, string, string])[] = [
  [
    'kind',
    0.12,
    1,
    'Compare the marks',
    'What was printed and what the cutter expects: the same kind, size and count.',
  ],
  [
    'inside-first',
    0.2,
    1,
    'Start just inside the first mark',
    'Drive the sensor close to it, on the side of the work.',
  ],
  ['less-light', 0.2, 1, 'Less light', 'Shade the machine, close its lid.'],
  ['more-light', 0.12, 1, 'More light', 'Some sensors need it: a lamp from the side.'],
  ['dust', 0.08, 2, 'Dust the sensor', 'A dry, soft brush. Power off before you reach in.'],
  [
    'smooth',
    0.15,
    2,
    'Smooth the media',
    'Flat, no lifted corner; on a mat in its corner, square and well stuck.',
  ],
  ['support', 0.08, 1, 'Support what hangs down', 'A mat or sheet that sags before the rollers reads badly.'],
  ['clipped', 0.08, 1, 'See that every mark is whole', 'A printer that cannot reach the edge clips them.'],
  ['darken', 0.15, 3, 'Darken the marks', 'Go over them with a black marker.'],
  [
    'matte',
    0.2,
    4,
    'Kill the gloss',
    'Matte tape over each mark. Gloss can make a mark misread, and the machine cuts all the same.',
  ],
  ['white', 0.12, 10, 'White behind the marks', 'Clear, dark and foil media need a white ground.'],
  ['opaque-mat', 0.08, 4, 'Another mat', 'One that is not see-through.'],
  ['level', 0.15, 6, 'Change the sensor level', 'As the machine’s manual describes it.'],
  [
    'clean',
    0.06,
    6,
    'Clean the rollers and the strip',
    'What lifts the media moves it. Ventilate; the cleaner’s own sheet comes first.',
  ],
  ['restart', 0.08, 5, 'Restart, and put it online again', 'The machine, then the program that sends to it.'],
  [
    'driver',
    0.05,
    15,
    'Look at the driver',
    'The same page and size as the layout and the cutter; nothing fitted or enlarged.',
  ],
  [
    'further-in',
    0.3,
    25,
    'Print again, marks further in',
    'Near the edge they are taken for the edge of the sheet.',
  ],
];

export const REMEDIES: readonly Remedy[] = KNOWN.map(([id, helps, minutes, title, detail]) => ({
  ...{ id, helps, minutes, title, detail },
}));

/** A remedy that somebody tried. */
export interface Tried {
  readonly remedy: RemedyId;
  readonly worked: boolean;
  /** On this rig with this medium, on this rig, or on another. */
  readonly where: 'here' | 'rig' | 'elsewhere';
}

/** How much of a trial counts that was not here. */
const COUNTS: Readonly<Record<Tried['where'], number>> = { here: 1, rig: 0.4, elsewhere: 0.15 };
/** What is known beforehand weighs as much as so many trials. */
const PRIOR_TRIALS = 3;

export interface RemedyToTry extends Remedy {
  /** How often it helps here, by what is known beforehand and by the record. */
  readonly chance: number;
  readonly worked: number;
  readonly tried: number;
}

/**
 * Remedies in the order in which they are to be tried: that of least expected time.
 *
 * Method   chance from a Beta prior and the record, trials elsewhere counted in part; then by chance over time, which is the
 *          best order of independent trials of which the first that helps ends the search (Mitten 1960; from memory).
 */
export function remediesInOrder(record: readonly Tried[]): RemedyToTry[] {
  return REMEDIES.map((r) => {
    const own = record.filter((t) => t.remedy === r.id);
    const weight = (list: readonly Tried[]): number => list.reduce((sum, t) => sum + COUNTS[t.where], 0);
    const worked = own.filter((t) => t.worked);
    const chance = (PRIOR_TRIALS * r.helps + weight(worked)) / (PRIOR_TRIALS + weight(own));
    return { ...r, chance, worked: worked.length, tried: own.length };
  }).toSorted((a, b) => b.chance / b.minutes - a.chance / a.minutes);
}

/** How long it takes on average until something helps or all was tried, minutes. */
export function expectedMinutes(order: readonly Pick<RemedyToTry, 'chance' | 'minutes'>[]): number {
  let [still, minutes] = [1, 0];
  for (const r of order) {
    minutes += still * r.minutes;
    still *= 1 - r.chance;
  }
  return minutes;
}
