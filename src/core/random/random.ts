/** A source of uniform numbers in [0, 1); always an argument, never a global. */
export type Random = () => number;

/**
 * A small seeded generator: the same seed gives the same rig everywhere.
 * Source: mulberry32 (T. Ettinger, public domain; from memory). Not for secrets.
 */
export function seededRandom(seed: number): Random {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = state;
    mixed = Math.imul(mixed ^ (mixed >>> 15), mixed | 1);
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61);
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4294967296;
  };
}

/** A standard normal deviate (Box & Muller 1958). */
export function normalDeviate(random: Random): number {
  const radius = Math.sqrt(-2 * Math.log(1 - random()));
  return radius * Math.cos(2 * Math.PI * random());
}
