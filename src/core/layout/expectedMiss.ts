import { compressNodes, expectAhead, sectionOutlook, type DriftRun, type FollowedAxis } from '../drift';
import { seededRandom } from '../random/random';

import type { Imposition } from './impose';
import type { Strategy } from './planRoll';
import type { Section } from './sections';

/** What following a run needs to know of an axis before the run has begun. */
export type FollowedKnowledge = Readonly<Record<'along' | 'across', Omit<FollowedAxis, 'run'>>>;

/** A plan as it will be followed. */
export interface PlannedRun {
  readonly strategy: string;
  readonly way: Strategy['way'];
  readonly sections: readonly Section[];
  readonly markRoomMm: number;
  readonly imposition: Pick<Imposition, 'itemHeightMm' | 'gapMm'>;
}

/** What 95 of 100 cuts stay within while the run’s own offset is unknown, and from the second section on; mm. */
export interface ExpectedMiss {
  readonly untilCheckedMm: number;
  /** Null of a run in one piece. */
  readonly thenMm: number | null;
}

/** The piece’s marks are read at the start of every section. */
export const registersEachSection = ({ strategy }: Pick<PlannedRun, 'strategy'>): boolean =>
  strategy.startsWith('sections');

/** Where the cutter reads marks for a section of this plan. */
export const registersOf = (plan: Pick<PlannedRun, 'strategy' | 'way'>): 'throughout' | 'start' | 'no' =>
  plan.way === 'both-ends' ? 'throughout' : registersEachSection(plan) ? 'start' : 'no';

/** The middle of a row of a section, mm from the run’s first registration: where it is checked. */
export const rowMiddleMm = (
  section: Section,
  row: number,
  { markRoomMm, imposition: { itemHeightMm, gapMm } }: Pick<PlannedRun, 'markRoomMm' | 'imposition'>,
): number => section.startMm + markRoomMm + row * (itemHeightMm + gapMm) + itemHeightMm / 2;

/** Standard uncertainty of a check that reads a comb; the other ways are coarser. */
export const CHECK_U_MM = 0.035;

/**
 * What to expect of a run before it begins, by the model that follows it: one figure from plan to summary.
 *
 * Method   the outlook on section 1 without a check; and on section 2 after checks of section 1’s first and last row that
 *          find what was expected there.
 */
export function expectedMiss(plan: PlannedRun, knowledge: FollowedKnowledge): ExpectedMiss {
  const [first, second] = plan.sections;
  const registers = registersOf(plan);
  const outlook = (section: Section, checkedM: readonly number[]): number => {
    const axis = (name: 'along' | 'across'): FollowedAxis => {
      const own = { ...knowledge[name], nodes: compressNodes(knowledge[name].nodes) };
      const empty: DriftRun = { id: 'planned', registeredAtM: [first!.startMm / 1000], readings: [] };
      const { unitVarMm2, startSdMm } = own;
      const readings = checkedM.map((yM, i) => ({
        id: String(i),
        yM,
        offsetMm: expectAhead(empty, { yM, registeredAtM: null }, own.nodes, unitVarMm2, startSdMm).offsetMm,
        uMm: CHECK_U_MM,
      }));
      const registeredAtM = registers === 'throughout' ? checkedM : empty.registeredAtM;
      return { ...own, run: checkedM.length === 0 ? empty : { ...empty, registeredAtM, readings } };
    };
    const ahead = {
      startM: section.startMm / 1000,
      endM: section.endMm / 1000,
      registers,
      slips: false,
    } as const;
    return sectionOutlook(axis('along'), axis('across'), ahead, seededRandom(1)).r95Mm;
  };
  const rows = first!.rows === 1 ? [0] : [0, first!.rows - 1];
  return {
    untilCheckedMm: outlook(first!, []),
    thenMm: second
      ? outlook(
          second,
          rows.map((row) => rowMiddleMm(first!, row, plan) / 1000),
        )
      : null,
  };
}
