import { DOF_TO_TELL, type Advice, type RepeatStudy } from '@/core/readings/repeat';
import { lengthText, type LengthUnit } from '@/core/units';

const ADVICE: Readonly<Record<Advice, string>> = {
  more: `Read on: a few looks say little. It counts from ${DOF_TO_TELL} spare looks on.`,
  agree:
    'Persons read differently. Look at one comb together and agree which pair runs straight through, and from which side you look.',
  loupe:
    'Looks differ by more than the comb’s step allows. A stronger loupe, and light from the side, help most.',
  'finer-comb': 'Looks agree better than the comb’s step. A sheet with a finer step would tell more.',
  fine: 'Reading is as good as the comb allows.',
};

export const adviceWords = ({ advice }: RepeatStudy): string[] => advice.map((a) => ADVICE[a]);

export interface StudyRow {
  readonly name: string;
  readonly sd: string;
  /** 95 % interval. */
  readonly from: string;
  readonly to: string;
}

/** Each part of the difference between looks, as standard deviations with their intervals. */
export function studyRows(
  { repeat, person, interaction, oneReading }: RepeatStudy,
  unit: LengthUnit,
): StudyRow[] {
  const parts = [
    { name: 'the same person again', part: repeat },
    { name: 'person to person', part: person },
    { name: 'person to person, comb by comb', part: interaction },
    { name: 'one reading by anybody', part: person ? oneReading : null },
  ];
  return parts.flatMap(({ name, part }) =>
    part
      ? [
          {
            name,
            sd: lengthText(Math.sqrt(part.variance), unit),
            from: lengthText(Math.sqrt(part.low), unit),
            to: lengthText(Math.sqrt(part.high), unit),
          },
        ]
      : [],
  );
}

/** What a study says in a sentence. */
export function studyAnswer(study: RepeatStudy, unit: LengthUnit): string {
  const { who, smallestSeenMm } = study;
  const by = who.length === 1 ? `${who[0]} reads` : `${who.slice(0, -1).join(', ')} and ${who.at(-1)} read`;
  return `${by} so that two readings further apart than ${lengthText(smallestSeenMm, unit)} differ by more than chance.`;
}

/** How this figure is used. */
export const usedWords = ({ acuityMm }: RepeatStudy, unit: LengthUnit): string =>
  acuityMm === null
    ? 'Calibrations go on with what is assumed of an eye, a fifth of the comb’s step: nothing worse was seen.'
    : `Sessions of this rig that begin from now on reckon with an eye of ${lengthText(acuityMm, unit)} instead of a fifth of the comb’s step.`;
