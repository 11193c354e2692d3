import { normalDeviate, type Random } from '../random/random';

export interface FunnelStrip {
  /** Where each load landed along one axis, mm. */
  readonly landedMm: readonly number[];
  /** Root mean square of it. */
  readonly rmsMm: number;
}

export interface Funnel {
  /** Nothing is typed. */
  readonly left: FunnelStrip;
  /** After every load what was read of it is typed back. */
  readonly chased: FunnelStrip;
}

/**
 * Loads of a rig that is true but for its scatter: left alone, and corrected by each load's own reading.
 *
 * Source   Deming’s funnel, rules 1 and 2 (Out of the Crisis, chapter 11; memory): compensating each result fully
 *          doubles the variance, and adds what the reading itself is in doubt by.
 * Units    mm, standard deviations of one axis.
 */
export function funnel(loadSdMm: number, readingSdMm: number, loads: number, random: Random): Funnel {
  const left: number[] = [];
  const chased: number[] = [];
  let aim = 0;
  for (let i = 0; i < loads; i += 1) {
    const off = loadSdMm * normalDeviate(random);
    left.push(off);
    chased.push(aim + off);
    aim -= aim + off + readingSdMm * normalDeviate(random);
  }
  return { left: strip(left), chased: strip(chased) };
}

const strip = (landedMm: readonly number[]): FunnelStrip => ({
  landedMm,
  rmsMm: Math.sqrt(landedMm.reduce((sum, v) => sum + v * v, 0) / Math.max(1, landedMm.length)),
});
